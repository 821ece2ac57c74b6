import { lowPass } from '../math/filter';
import { groundwork } from '../measure/groundwork';
import type { Motion } from '../model/motion';
import { trackOf } from '../model/track';

/** Instants that may have been alike. */
export interface AnchorProposal {
  readonly by: 'facing' | 'mark';
  readonly frames: readonly number[];
}

/** Someone who stands is slower than this, metres a second, for so long, seconds. */
const STANDS = 0.15;
const FOR = 0.4;
/** The same mark: within so much, metres, of someone who has been at least so far away in between. */
const NEAR = 0.5;
const AWAY = 1.5;
/** Someone who stands for so long does it for its own sake, seconds. */
const LONG = 10;
/** A way is straight while its heading stays within this for so long: radians, seconds; and ways are alike whose headings differ by less. */
const STRAIGHT = 0.1;
const STRAIGHT_FOR = 0.8;
const ALIKE = 0.35;

/**
 * Instants of a take that may have been alike: the performer stood on the same mark again, came by the same place again, or walked the same way again.
 * The proposal with the most instants comes first.
 *
 * @param motion metres, in the world
 */
export function proposeAnchors(motion: Motion): AnchorProposal[] {
  const found = groundwork(motion);
  if (!found || motion.frames < motion.fps) return [];
  const { fps, frames } = motion;
  const hips = (k: 0 | 2) => trackOf(found.globals, found.body.hips, k);
  const [x, z] = [lowPass(hips(0), 1, fps), lowPass(hips(2), 1, fps)];
  const speed = (f: number) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    return (Math.hypot(x[b] - x[a], z[b] - z[a]) * fps) / (b - a);
  };
  const stands = stretchesOf(frames, Math.round(FOR * fps), (f) => speed(f) < STANDS);
  const stood = largestGroup(stands.map(middle), (a, b) => isBack(x, z, a, b));
  const marks = stood.length > 1 ? stood : comingsBy(x, z, Math.round(fps / 4));
  const still = stands.filter(([from, to]) => to - from > LONG * fps).sort((a, b) => b[1] - b[0] - a[1] + a[0])[0];
  const facing = lowPass(found.headings, 0.5, fps);
  const straight = stretchesOf(frames, Math.round(STRAIGHT_FOR * fps), (f) => {
    const [a, b] = [Math.max(0, f - Math.round(fps / 4)), Math.min(frames - 1, f + Math.round(fps / 4))];
    return speed(f) > 3 * STANDS && Math.abs(facing[b] - facing[a]) < STRAIGHT;
  });
  const ways = largestGroup(straight.map(middle), (a, b) => {
    const turn = facing[b] - facing[a];
    return Math.abs(turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI))) < ALIKE && hasTurned(facing, a, b);
  });
  const proposals: AnchorProposal[] = [
    { by: 'mark', frames: marks },
    { by: 'facing', frames: ways },
    // Someone who stands for long faces the same way at its beginning and at its end.
    { by: 'facing', frames: still ? [still[0] + Math.round(fps), middle(still), still[1] - Math.round(fps)] : [] },
  ];
  return proposals.filter((own) => own.frames.length > 1).sort((a, b) => b.frames.length - a.frames.length);
}

type Stretch = readonly [from: number, to: number];

const middle = ([from, to]: Stretch): number => Math.round((from + to - 1) / 2);

/** Every stretch of frames that is long enough. */
function stretchesOf(frames: number, least: number, holds: (f: number) => boolean): Stretch[] {
  const out: Stretch[] = [];
  for (let f = 0; f < frames; f++) {
    if (!holds(f)) continue;
    const from = f;
    while (f < frames && holds(f)) f++;
    if (f - from >= least) out.push([from, f]);
  }
  return out;
}

/** The instants at which someone on his way comes by the same place most often; of equals those that are nearest to one another. */
function comingsBy(x: Float64Array, z: Float64Array, step: number): number[] {
  let best: { readonly at: readonly number[]; readonly far: number } = { at: [], far: 0 };
  for (let a = 0; a < x.length; a += step) {
    const at = [a];
    let [isAway, sum] = [false, 0];
    for (let b = a; b < x.length; b += step) {
      const far = (f: number) => Math.hypot(x[f] - x[a], z[f] - z[a]);
      isAway ||= far(b) > AWAY;
      if (!isAway || far(b) > NEAR) continue;
      let near = b;
      for (; b < x.length && far(b) <= NEAR; b++) if (far(b) < far(near)) near = b;
      at.push(near);
      sum += far(near);
      isAway = false;
    }
    if (at.length > best.at.length || (at.length === best.at.length && sum < best.far)) best = { at, far: sum };
  }
  return [...best.at];
}

/** Of the instants that are alike to one of them, the most. */
function largestGroup(instants: readonly number[], isAlike: (a: number, b: number) => boolean): number[] {
  const groups = instants.map((a, i) => [a, ...instants.slice(i + 1).filter((b) => isAlike(a, b))]);
  return groups.reduce((most, group) => (group.length > most.length ? group : most), []);
}

/** Whether someone is back where he was, having been away. */
function isBack(x: Float64Array, z: Float64Array, a: number, b: number): boolean {
  const far = (f: number) => Math.hypot(x[f] - x[a], z[f] - z[a]);
  let most = 0;
  for (let f = a; f <= b; f++) most = Math.max(most, far(f));
  return far(b) < NEAR && most > AWAY;
}

/** Whether someone has turned away between two instants: else they are two parts of the same way. */
function hasTurned(facing: Float64Array, a: number, b: number): boolean {
  for (let f = a; f <= b; f++) if (Math.abs(facing[f] - facing[a]) > 1) return true;
  return false;
}
