import {
  clipFigures,
  InputError,
  matchTakes,
  movedProp,
  shipClip,
  stepsAtRate,
  type Clip,
  type ClipFigures,
  type ClipRecipe,
  type FloorTransform,
  type Groundwork,
  type Marker,
  type Motion,
  type PlacedSpan,
  type StageProp,
} from '@lantern/motion';

/** Frames of a take, both included. */
interface Span {
  readonly from: number;
  readonly to: number;
}

/** What was made from a take. */
export interface MadeFrom {
  readonly clips: readonly { readonly id: string; readonly recipe: ClipRecipe }[];
  readonly markers: readonly Marker[];
  readonly props: readonly StageProp[];
  /** Other stretches of it that are looked for, as those of runners-up. */
  readonly spans?: readonly Span[];
}

/** A clip in the old take and in the new. */
export interface ClipMoved extends PlacedSpan {
  readonly id: string;
  readonly before: ClipFigures | null;
  /** Null also where the clip is lost. */
  readonly after: ClipFigures | null;
}

/** How a new delivery relates to the old take, and where everything made from the old one lies in it. */
export interface Redelivery {
  readonly pace: number;
  readonly offsetSeconds: number;
  readonly scale: number;
  readonly medianCm: number;
  /** Share of the old take's frames that the new one has. */
  readonly covered: number;
  /** Pose distance along the old take, cm, in equal parts, the worst of each; NaN where the new one has nothing. */
  readonly profile: Float32Array;
  readonly clips: readonly ClipMoved[];
  readonly markers: readonly Marker[];
  readonly lostMarkers: readonly string[];
  readonly props: readonly StageProp[];
  /** Where the other stretches lie; null where the new one does not have them. */
  readonly spans: readonly { readonly asked: Span; readonly at: Span | null }[];
  /** Where places of the old take are in the new one. */
  readonly floor: FloorTransform;
}

interface Opened {
  readonly motion: Motion;
  readonly ground: Groundwork | null;
  readonly run: (recipe: ClipRecipe) => Clip;
}

const PROFILE_PARTS = 240;

/** @throws InputError when one of them is nobody's motion, or they are not the same performance */
export function redeliver(old: Opened, fresh: Opened, made: MadeFrom, fps: number): Redelivery {
  if (!old.ground || !fresh.ground)
    throw new InputError('no-legs', 'Takes are matched by the motion of a person; one of these has no two legs.');
  const match = matchTakes(old.ground, fresh.ground);
  const figures = ({ run }: Opened, recipe: ClipRecipe): ClipFigures | null => {
    try {
      return clipFigures(shipClip(run(recipe), fps).clip);
    } catch (error) {
      // A recipe that cannot be run is no reason not to find its place.
      if (error instanceof InputError) return null;
      throw error;
    }
  };
  const half = Math.round(old.motion.fps / 2);
  const placed = made.markers.map(({ name, frame }) => {
    // A marker has no length: it goes with the second around it.
    const from = Math.max(0, frame - half);
    const span = match.place(from, Math.min(old.motion.frames - 1, frame + half));
    const into = ((frame - from) / old.motion.fps) * match.pace * fresh.motion.fps;
    return { name, frame: Math.round(span.from + into), isIn: span.outcome !== 'lost' };
  });
  return {
    pace: match.pace,
    offsetSeconds: match.offsetSeconds,
    scale: match.scale,
    medianCm: match.medianCm,
    covered: match.differenceCm.filter(Number.isFinite).length / match.differenceCm.length,
    profile: profileOf(match.differenceCm),
    clips: made.clips.map(({ id, recipe }) => {
      const span = match.place(recipe.from, recipe.to);
      const isThere = isWhole(span);
      return {
        ...span,
        outcome: isThere ? span.outcome : 'lost',
        id,
        before: figures(old, recipe),
        after: isThere ? figures(fresh, placedIn(recipe, span, match.floor)) : null,
      };
    }),
    markers: placed.filter(({ isIn }) => isIn).map(({ name, frame }) => ({ name, frame })),
    lostMarkers: placed.filter(({ isIn }) => !isIn).map(({ name }) => name),
    props: made.props.map((prop) => movedProp(prop, match.floor)),
    spans: (made.spans ?? []).map((asked) => {
      const span = match.place(asked.from, asked.to);
      return { asked, at: isWhole(span) ? { from: span.from, to: span.to } : null };
    }),
    floor: match.floor,
  };
}

/** Whether a stretch was found, and enough of it to be one. */
const isWhole = (span: PlacedSpan): boolean => span.outcome !== 'lost' && span.to - span.from >= 2;

/** A recipe in the new take; what was set by hand goes along at its rate, and to where it is there. */
function placedIn({ from, to, steps }: ClipRecipe, span: PlacedSpan, floor: FloorTransform): ClipRecipe {
  return { from: span.from, to: span.to, steps: stepsAtRate(steps, (span.to - span.from) / (to - from), floor) };
}

function profileOf(differenceCm: Float32Array): Float32Array {
  const parts = Math.min(PROFILE_PARTS, differenceCm.length);
  return Float32Array.from({ length: parts }, (_, i) => {
    const part = differenceCm.subarray(
      Math.floor((i * differenceCm.length) / parts),
      Math.max(1, Math.floor(((i + 1) * differenceCm.length) / parts)),
    );
    return part.every(Number.isFinite) ? Math.max(...part) : Number.NaN;
  });
}
