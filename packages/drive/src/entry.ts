import { FOOT } from './legs';
import { poseFor, type Pose } from './overlap';
import type { Entry } from './play-graph';
import type { Source } from './source';

/** Places that are tried for the frame that fits best. */
const TRIED = 40;
/** Of a clip that is played once only so much may be skipped for it. */
const SKIPPED = 0.4;
/** A metre a second of a foot counts like so many metres of it. */
const VELOCITY = 0.08;

/** Finds where to enter a source. */
export interface EntryFinder {
  /**
   * @param phase of the stride in what is left; NaN where it has none
   * @param shown what is shown now, and `before` a step ago, so many seconds
   * @returns a place as `Source.enter` has it
   */
  find(source: Source, entry: Entry, phase: number, shown: ArrayLike<number>, before: ArrayLike<number>, seconds: number): number;
}

/** @param joints of the skeleton */
export function entryFinder(joints: number): EntryFinder {
  const [one, next]: [Pose, Pose] = [poseFor(joints), poseFor(joints)];
  const down = new Float64Array(2);
  const gone = new Float64Array(3);
  const feet = joints * 4 + 3;
  /** How far the feet and the hips are from what is shown, in place and in velocity; the source stands there afterwards. */
  const cost = (source: Source, shown: ArrayLike<number>, before: ArrayLike<number>, seconds: number): number => {
    source.pose(one.rotations, one.hips, one.posed, down);
    let left = seconds;
    for (let guard = 0; guard < 8 && left > 1e-9; guard++) left -= source.advance(left, gone);
    source.pose(next.rotations, next.hips, next.posed, down);
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += (shown[joints * 4 + k] - one.hips[k]) ** 2;
    for (let side = 0; side < 2; side++)
      for (let k = 0; k < 3; k++) {
        const o = side * FOOT + k;
        const rate = (shown[feet + o] - before[feet + o] - (next.posed[o] - one.posed[o])) / seconds;
        sum += (shown[feet + o] - one.posed[o]) ** 2 + (VELOCITY * rate) ** 2;
      }
    // The whole body, by how alike its turns are: a hand's breadth for a right angle of one joint.
    for (let o = 0; o < joints * 4; o += 4) {
      const { rotations: r } = one;
      const like = shown[o] * r[o] + shown[o + 1] * r[o + 1] + shown[o + 2] * r[o + 2] + shown[o + 3] * r[o + 3];
      sum += 0.02 * Math.max(0, 1 - like * like);
    }
    return sum;
  };
  return {
    find(source, entry, phase, shown, before, seconds) {
      // Somebody who stands, or hops, has no phase to go by.
      if (entry === 'best' || (entry === 'foot' && Number.isNaN(phase))) {
        const most = source.loops ? 1 : SKIPPED;
        let best = 0,
          least = Infinity;
        for (let i = 0; i < TRIED; i++) {
          source.enter((most * i) / TRIED);
          const own = cost(source, shown, before, seconds);
          if (own < least) {
            least = own;
            best = (most * i) / TRIED;
          }
        }
        return best;
      }
      if (entry === 'beginning' || Number.isNaN(phase)) return 0;
      const at = source.atPhase(entry === 'phase' ? phase : phase < 0.5 ? 0 : 0.5);
      return Number.isNaN(at) ? 0 : at;
    },
  };
}
