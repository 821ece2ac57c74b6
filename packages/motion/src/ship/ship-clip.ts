import type { Warning } from '../error';
import { thinnedKeys } from '../character/thinned-keys';
import { anyFigures, type PoseFigures } from '../measure/clip-figures';
import { clipTraits, type ClipTraits } from '../set/clip-traits';
import { homeEndsOf } from '../set/home';
import type { JoinFigures } from '../join/figures';
import type { Clip } from '../model/clip';
import type { HomePose } from '../model/home-pose';
import { againstSource, type AgainstSource } from '../recipe/against-source';
import type { ClipRecipe } from '../recipe/recipe';
import { shipClip } from '../recipe/ship';
import { sourceFrames } from '../recipe/source-frames';
import { stepClips } from '../recipe/step-clips';
import { troublesOf } from '../steps';
import { keysOf, type KeysFigures } from './keys';
import type { ShipOptions } from './options';
import { poseStrip, type PoseStrip } from './pose-strip';
import { worstSpots, type WorstSpots } from './worst-spots';
import { writtenClip } from './written-clip';

/** An instant with a name, seconds of the clip as it ships. */
export interface Mark {
  readonly at: number;
  readonly name: string;
}

/** A clip as it ships, and all that is measured of it; it knows no name, and nothing of the other clips. */
export interface ShippedClip {
  /** At the rate it ships at. */
  readonly clip: Clip;
  /** By how much the retime to whole frames changes the speed; 1 is not at all. */
  readonly rateChange: number;
  /** Frames of it to a frame of the clip before it was brought to the rate. */
  readonly scale: number;
  readonly figures: PoseFigures;
  /** Beside what was captured; null for a join, and where frames cannot be compared. */
  readonly against: AgainstSource | null;
  /** What it is, measured; null for what is no person's. */
  readonly traits: ClipTraits | null;
  /** How far those of its ends that should be in the home pose are from it; null where there is none. */
  readonly homeCm: number | null;
  /** Keys that are left of one on every frame, and what they take. */
  readonly keys: KeysFigures;
  /** Where it is worst. */
  readonly worst: WorstSpots;
  readonly marks: readonly Mark[];
  /** Of a join: how its pieces meet. */
  readonly meets: readonly JoinFigures[] | null;
  readonly strip: PoseStrip | null;
  readonly warnings: readonly Warning[];
}

/** What of a shipment a clip by itself depends on. */
export type ClipShipping = Pick<ShipOptions, 'thin' | 'lastKey' | 'rootMotion'> & {
  readonly fps: number;
  /** That of the character's set. */
  readonly home: HomePose | null;
};

/**
 * A clip brought to the rate at which it ships, thinned and measured.
 *
 * @param run runs recipes over what the clip is cut from
 * @param markers named frames of what it is cut from
 */
export function shippedClip(
  run: (recipe: ClipRecipe) => Clip,
  recipe: ClipRecipe,
  options: ClipShipping,
  markers: readonly { readonly frame: number; readonly name: string }[] = [],
): ShippedClip {
  const finished = run(recipe);
  const shipped = measured(finished, options);
  const { rateChange } = shipped;
  return {
    ...shipped,
    against: againstSource(run, recipe),
    marks: markersIn(run, recipe, finished, markers).map(({ at, name }) => ({ at: at / rateChange, name })),
    warnings: [
      ...shipped.warnings,
      ...stepClips(run, recipe).flatMap((clips) => troublesOf(clips.step, clips).map((message) => ({ code: 'left-out', message }))),
    ],
  };
}

/** The same of what has no recipe, as of a join. */
export function measured(
  finished: Clip,
  { fps, thin, home, ...ways }: ClipShipping,
  { marks = [], meets = null }: Partial<Pick<ShippedClip, 'marks' | 'meets'>> = {},
): ShippedClip {
  const asked = finished.thin ?? (thin && { boundM: thin.boundMm / 1000, joining: thin.joining, quantised: thin.quantised });
  const { clip: whole, rateChange } = shipClip(asked ? { ...finished, thin: asked } : finished, fps);
  const clip: Clip = { ...whole, lead: null, tail: null, belt: undefined };
  const written = writtenClip(clip, ways);
  const traits = clipTraits(clip);
  const ends = traits && home ? homeEndsOf(clip, traits, home) : [];
  return {
    clip,
    rateChange,
    scale: (clip.motion.frames - 1) / (finished.motion.frames - 1),
    figures: anyFigures(clip),
    against: null,
    traits,
    homeCm: ends.length > 0 ? Math.max(...ends.map(({ cm }) => cm)) : null,
    keys: keysOf(written, thinnedKeys(written)),
    worst: worstSpots(clip),
    marks: marks.map(({ at, name }) => ({ at: at / rateChange, name })),
    meets,
    strip: poseStrip(clip),
    warnings: retimed(rateChange),
  };
}

/** Markers of a take that are shown in the clip, seconds of it; of a loop each at the first place at which it is. */
function markersIn(
  run: (recipe: ClipRecipe) => Clip,
  recipe: ClipRecipe,
  { motion: { fps } }: Clip,
  markers: readonly { readonly frame: number; readonly name: string }[],
): Mark[] {
  const within = markers.filter(({ frame }) => frame >= recipe.from && frame <= recipe.to);
  const source = within.length > 0 ? sourceFrames(run, recipe) : null;
  if (!source) return [];
  const step = source.reduce((most, v, f) => (f > 0 ? Math.max(most, Math.min(4, Math.abs(v - source[f - 1]))) : most), 1);
  return within.flatMap(({ frame, name }) => {
    const wanted = frame - recipe.from;
    let best = 0;
    for (let f = 1; f < source.length; f++) if (Math.abs(source[f] - wanted) < Math.abs(source[best] - wanted) - 1e-9) best = f;
    return Math.abs(source[best] - wanted) <= step ? [{ at: best / fps, name }] : [];
  });
}

function retimed(rateChange: number): Warning[] {
  const percent = Math.abs(rateChange - 1) * 100;
  if (percent <= 1) return [];
  return [{ code: 'retime', message: `The retime to whole frames changes the speed by ${percent.toFixed(1)} %.` }];
}
