import { angleBetween } from '../math/quat';
import { worldMotion } from '../model/clip';
import type { Contacts } from '../model/contacts';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { pickFrames } from '../model/repeat';
import { atTwiceTheRate, contactsAtTwice } from './half-frames';
import { belowOf, boundsOf, offAt, reachOf, tolerances, type Reach } from './key-bounds';
import {
  betweenKeys,
  isRound,
  playedFromKeys,
  slopesBetween,
  tracksOf,
  type Joining,
  type Keys,
  type Stretch,
  type Track,
  type Tracked,
  type TrackName,
} from './key-tracks';

export interface ThinOptions {
  /** How far a point within 10 cm of any joint may be from where it was, metres. */
  readonly boundM: number;
  /** A foot that bears may be off by this share of it. */
  readonly footShare: number;
  /** Smoothly, keys are joined as cubic splines join them; straight ones need many more. */
  readonly joining: Joining;
}

export const THIN_DEFAULTS: ThinOptions = { boundM: 0.0005, footShare: 0.1, joining: 'smooth' };

/** Rounds in which keys are put where a bound is broken, at the most. */
const ROUNDS = 200;
/** Numbers of a key that is joined smoothly, to one of a key that is joined straight. */
const SMOOTH_SIZE = 3;
/**
 * Share of what a track could be off by alone that it may be off by at first: the other tracks of the chain are off too. Less leaves room unused, more is mended
 * with more keys than it saved (measured on the suit's scripts: 0.5 to 0.65 is best).
 */
const FIRST_SHARE = 0.6;
/** Longest stretch without a key, frames. */
const LONGEST = 600;

/** The keys of a clip. */
export interface Thinned {
  readonly keys: Keys;
  readonly joining: Joining;
  /** Whether a track comes back at the end to where it began. */
  readonly isRound: (name: TrackName) => boolean;
  /** Joints whose rotations are written as 16-bit numbers. */
  readonly quantised: ReadonlySet<number>;
  /** How much each frame of a track counts where slopes are chosen, and every half-way between two; none where keys are joined straight. */
  readonly weights: ReadonlyMap<TrackName, Float32Array>;
  /** How far it is from what it was, at the worst of its frames. */
  readonly worst: ThinError;
  /** The same half-way between frames, metres, where keys are joined smoothly; straight ones are there no nearer than with a key on every frame. */
  readonly betweenM: number;
  /** How many keys there are, and how many there were with one on every frame. */
  readonly kept: number;
  readonly dense: number;
}

/** With what plays from them. */
export interface ThinnedAndPlayed extends Thinned {
  readonly played: Tracked;
}

export interface ThinError {
  readonly metres: number;
  readonly frame: number;
  readonly joint: number;
}

/**
 * Chooses the keys from which a clip can be played, with every point within 10 cm of every joint within a bound of where it was, on the whole chain and
 * not curve by curve. First each track gets the longest stretches that it could have if it alone were off; then, where the chain as a whole breaks the
 * bound, the track that does most there gets one more key, until nothing breaks it. Half-way between frames, against the cubic through them, keys that are
 * joined smoothly are off by the bound more than one key on every frame would be there, at the most.
 *
 * @param contacts when feet bear; without them no foot is held tighter
 *
 * @example
 * const { kept, dense } = thinKeys(run({ from: 0, to: 60, steps: recipeSchema.parse([{ kind: 'clean' }]) }), null);
 * kept * 3 < dense; // true
 */
export function thinKeys(clip: Tracked, contacts: Contacts | null, options: Partial<ThinOptions> = {}): ThinnedAndPlayed {
  const { boundM, footShare, joining } = { ...THIN_DEFAULTS, ...options };
  if (joining === 'straight') return chosen(clip, contacts, { boundM, footShare, joining }, 1);
  const fine = chosen(atTwiceTheRate(clip), contacts && contactsAtTwice(contacts), { boundM, footShare, joining }, 2, clip);
  const dense = fine.keys.size * clip.motion.frames;
  // Of what trembles curves take more room than a key on every frame: straight keys never do.
  return fine.kept * SMOOTH_SIZE < dense ? { ...fine, dense } : chosen(clip, contacts, { boundM, footShare, joining: 'straight' }, 1);
}

/**
 * @param step whole frames of the clip are so many frames of what is given: keys are put on those
 * @param coarse the clip of whole frames, where there are others between them
 */
function chosen(
  clip: Tracked,
  contacts: Contacts | null,
  { boundM, footShare, joining }: ThinOptions,
  step: 1 | 2,
  coarse?: Tracked,
): ThinnedAndPlayed {
  const { skeleton } = clip.motion;
  const dense = forwardKinematics(worldMotion(clip));
  const bounds = boundsOf(clip, contacts, boundM, footShare);
  let shown = clip;
  if (coarse) {
    const between = atTwiceTheRate(coarse, 'straight');
    const straight = forwardKinematics(worldMotion(between));
    // Joints that move against their parents have a key on every frame, joined straight.
    shown = { ...clip, motion: { ...clip.motion, translations: between.motion.translations } };
    for (let i = dense.joints; i < bounds.length; i += 2 * dense.joints)
      for (let j = i; j < i + dense.joints; j++) bounds[j] += offAt(dense, straight, j);
  }
  const reach = reachOf(skeleton);
  const tracks = tracksOf(clip);
  const tolerance = new Map(tracks.map((track) => [track.name, tolerances(clip.motion, bounds, reach, track)]));
  const weights = new Map(
    joining === 'straight'
      ? []
      : [...tolerance].map(([name, all]) => [name, Float32Array.from(all, (least) => 1 / (least * least))] as const),
  );
  const known = new Map<string, Stretch>();
  const stretchOf = (track: Track, a: number, b: number): Stretch | null => {
    const own = weights.get(track.name);
    if (!own) return null;
    const key = `${track.name} ${a} ${b}`;
    const stretch = known.get(key) ?? slopesBetween(track, a, b, own);
    known.set(key, stretch);
    return stretch;
  };
  const work: Work = { clip: shown, dense, tracks, bounds, reach, stretchOf, step, keys: new Map() };
  for (const track of tracks) {
    const own = (tolerance.get(track.name) ?? new Float64Array()).map((least) => least * FIRST_SHARE);
    const smooth = weights.get(track.name);
    const tried: Stretch = { out: new Float64Array(track.size), in: new Float64Array(track.size) };
    const keys = longest(track, own, clip.motion.frames, step, (a, b) => (smooth ? slopesBetween(track, a, b, smooth, tried) : null));
    work.keys.set(track.name, new Set(keys));
  }
  for (let round = 0; round < ROUNDS; round++) if (!mend(work)) break;
  const keys = sorted(work.keys);
  const played = playedFromKeys(shown, tracks, keys, stretchOf);
  const now = forwardKinematics(worldMotion(played));
  return {
    ...{ joining, weights, quantised: new Set<number>() },
    keys: new Map([...keys].map(([name, frames]) => [name, frames.map((f) => f / step)])),
    played: step === 1 ? played : atHalfTheRate(played),
    isRound: (name) => isRound(clip, name),
    worst: worstOf(dense, now, 0, step),
    betweenM: step === 1 ? 0 : worstOf(dense, now, 1, step).metres,
    kept: [...keys.values()].reduce((sum, frames) => sum + frames.length, 0),
    dense: keys.size * clip.motion.frames,
  };
}

/** What thinning goes by, and the keys that it has so far. */
interface Work {
  readonly clip: Tracked;
  readonly dense: Globals;
  readonly tracks: readonly Track[];
  /** The bound of every joint in every frame, metres: `frame · J + joint`. */
  readonly bounds: Float64Array;
  readonly reach: Reach;
  readonly stretchOf: (track: Track, a: number, b: number) => Stretch | null;
  /** Keys are put on every frame, or on every other. */
  readonly step: 1 | 2;
  readonly keys: Map<TrackName, Set<number>>;
}

const sorted = (keys: ReadonlyMap<TrackName, ReadonlySet<number>>): Keys =>
  new Map([...keys].map(([track, frames]) => [track, Int32Array.from(frames).sort()]));

/** The worst of every `step`th frame, counted in those. */
function worstOf(a: Globals, b: Globals, first: number, step: number): ThinError {
  let worst: ThinError = { metres: 0, frame: 0, joint: 0 };
  for (let f = first; f < a.frames; f += step)
    for (let joint = 0; joint < a.joints; joint++) {
      const metres = offAt(a, b, f * a.joints + joint);
      if (metres > worst.metres) worst = { metres, frame: (f - first) / step, joint };
    }
  return worst;
}

/** Every other frame of a clip. */
function atHalfTheRate({ motion, travel, loop }: Tracked): Tracked {
  const frames = Array.from({ length: (motion.frames + 1) / 2 }, (_, f) => 2 * f);
  const every = (values: Float64Array) => Float64Array.from(frames, (f) => values[f]);
  return {
    motion: { ...pickFrames(motion, frames), fps: motion.fps / 2 },
    travel: travel && { x: every(travel.x), y: every(travel.y), z: every(travel.z), heading: every(travel.heading) },
    loop,
  };
}

const value = [0, 0, 0, 1];

/** How far a track is from what it was at a frame between two keys: radians, or metres. */
function offBetween(track: Track, a: number, b: number, f: number, stretch: Stretch | null): number {
  betweenKeys(track, a, b, f, stretch, value);
  const { values, size } = track;
  if (size === 4) return angleBetween(value, 0, values, f * 4);
  return Math.hypot(value[0] - values[f * 3], value[1] - values[f * 3 + 1], value[2] - values[f * 3 + 2]);
}

/** Keys with the longest stretches between them that keep a track within its tolerances. */
function longest(
  track: Track,
  tolerance: Float64Array,
  frames: number,
  step: number,
  stretchOf: (a: number, b: number) => Stretch | null,
): number[] {
  const last = frames - 1;
  const keys = [0];
  const fits = (a: number, b: number) => {
    const stretch = stretchOf(a, b);
    for (let f = a + 1; f < b; f++) if (offBetween(track, a, b, f, stretch) > tolerance[f]) return false;
    return true;
  };
  for (let a = 0; a < last;) {
    let best = a + step;
    // A stretch that does not fit may fit again when it is longer; three in a row are believed.
    for (let b = a + 2 * step, misses = 0; b <= Math.min(last, a + LONGEST * step) && misses < 3; b += step) {
      if (fits(a, b)) [best, misses] = [b, 0];
      else misses++;
    }
    keys.push(best);
    a = best;
  }
  return keys;
}

/** Puts keys where the chain breaks a bound: at the worst frame of every stretch of them, to the track that does most there. Whether there were any. */
function mend(work: Work): boolean {
  const { clip, tracks, stretchOf, dense, bounds } = work;
  const lists = sorted(work.keys);
  const now = forwardKinematics(worldMotion(playedFromKeys(clip, tracks, lists, stretchOf)));
  const J = clip.motion.skeleton.joints.length;
  let broken = false;
  for (let joint = 0; joint < J; joint++) {
    let [at, most] = [-1, 1];
    for (let f = 0; f <= dense.frames; f++) {
      const by = f < dense.frames ? offAt(dense, now, f * J + joint) / bounds[f * J + joint] : 0;
      if (by > most) [at, most] = [f, by];
      if (by > 1 || at < 0) continue;
      const found = culprit(work, lists, joint, at);
      if (found) {
        work.keys.get(found.track)?.add(found.frame);
        broken = true;
      }
      [at, most] = [-1, 1];
    }
  }
  return broken;
}

/** Of the tracks that carry a joint the one that moves it most away at a frame where it has no key, and the frame where it can have one. */
function culprit(
  { tracks, keys, stretchOf, reach, step }: Work,
  lists: Keys,
  joint: number,
  frame: number,
): { readonly track: TrackName; readonly frame: number } | null {
  let best: ReturnType<typeof culprit> = null;
  let most = 0;
  const places = frame % step === 0 ? [frame] : [frame - 1, frame + 1];
  for (const track of tracks) {
    const far = belowOf(reach, track.name).find((below) => below.joint === joint)?.far;
    const own = lists.get(track.name);
    const free = places.find((f) => !keys.get(track.name)?.has(f));
    if (far === undefined || !own || free === undefined || own.includes(frame)) continue;
    const after = own.findIndex((key) => key > frame);
    const off =
      offBetween(track, own[after - 1], own[after], frame, stretchOf(track, own[after - 1], own[after])) * (track.size === 4 ? far : 1);
    if (off > most) [best, most] = [{ track: track.name, frame: free }, off];
  }
  return best;
}
