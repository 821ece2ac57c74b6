import { smoothStep5 } from '../math/smooth';
import { type Vec3 } from '../math/quat';
import { minus, norm, plus, times, turned, vecAt } from '../math/vec';
import { invert, movePoint, type FloorTransform } from '../model/floor-transform';
import type { Globals } from '../model/kinematics';
import { nearestOnProp } from '../measure/prop-surface';
import type { Touch, TouchTarget } from './layers';

/**
 * How much of a touch is done at a frame of the clip, 0 to 1, without its own weight.
 *
 * @example
 * [0, 5, 10, 20, 30].map((frame) => touchRamp({ from: 10, to: 20, fadeIn: 10, fadeOut: 10 }, frame)); // [0, 0.5, 1, 1, 0]
 */
export function touchRamp({ from, to, fadeIn, fadeOut }: Pick<Touch, 'from' | 'to' | 'fadeIn' | 'fadeOut'>, frame: number): number {
  if (frame < from) return fadeIn > 0 ? smoothStep5(1 - (from - frame) / fadeIn) : 0;
  if (frame > to) return fadeOut > 0 ? smoothStep5(1 - (frame - to) / fadeOut) : 0;
  return 1;
}

export interface GoalPlace {
  /** Of the motion without the touch. */
  readonly globals: Globals;
  /** Where the limb's point is in every frame, without the touch. */
  readonly points: readonly Vec3[];
  /** The frame of the clip at the first. */
  readonly first: number;
  /** The level of the floor, metres. */
  readonly floorM: number;
  /** How the touch has come along with the turns of a loop. */
  readonly round: FloorTransform;
  /** The joint that is touched, with what the words of the target are turned by; null for other targets. */
  readonly joint: { readonly index: number; readonly local: Vec3 } | null;
}

/** Where a touch brings its limb, three numbers a frame. */
export function touchGoals(touch: Touch, place: GoalPlace): Float64Array {
  const { points, first } = place;
  const out = new Float64Array(points.length * 3);
  const goal = goalOf(touch, place);
  const isHeld = (touch.target.to === 'floor' || touch.target.to === 'prop') && !touch.slide;
  const held = isHeld ? goal(nearestFrame(touch, place, goal)) : null;
  for (let f = 0; f < points.length; f++) {
    // While it fades, a sliding limb goes along with the edge as well.
    if (touchRamp(touch, first + f) > 0) out.set(held ?? goal(f), f * 3);
  }
  return out;
}

function goalOf({ target, off }: Touch, { globals, points, floorM, round, joint }: GoalPlace): (f: number) => Vec3 {
  const through = (transform: FloorTransform, p: Vec3): Vec3 => {
    const out: [number, number, number] = [0, 0, 0];
    movePoint(out, 0, transform, p, 0);
    return out;
  };
  const kinds: { readonly [Kind in TouchTarget['to']]: (own: Extract<TouchTarget, { to: Kind }>) => (f: number) => Vec3 } = {
    place: ({ at }) => {
      const goal = through(round, at);
      return () => goal;
    },
    floor: () => (f) => [points[f][0], floorM + off, points[f][2]],
    prop: ({ prop }) => {
      const back = invert(round);
      return (f) => {
        const [x, y, z] = through(back, points[f]);
        const { place, away } = nearestOnProp(prop, [x, y - floorM, z]);
        const [gx, gy, gz] = plus(place, times(away, off));
        return through(round, [gx, gy + floorM, gz]);
      };
    },
    joint: () => (f) => {
      if (!joint) return points[f];
      const at = f * globals.joints + joint.index;
      return plus(vecAt(globals.positions, at), turned(globals.rotations, at * 4, joint.local));
    },
  };
  const make = kinds[target.to] as (own: TouchTarget) => (f: number) => Vec3;
  return make(target);
}

/** The frame of the touch in which the limb comes nearest to where it is brought by itself. */
function nearestFrame({ from, to }: Touch, { points, first }: GoalPlace, goal: (f: number) => Vec3): number {
  let [best, least] = [Math.min(points.length - 1, Math.max(0, from - first)), Infinity];
  for (let f = Math.max(0, from - first); f <= Math.min(points.length - 1, to - first); f++) {
    const far = norm(minus(goal(f), points[f]));
    if (far < least) [best, least] = [f, far];
  }
  return best;
}
