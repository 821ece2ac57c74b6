import type { Arm, Body, BodyDoubt, Leg, Side } from '../model/body';
import { jointWords } from './joint-words';
import type { Globals } from '../model/kinematics';
import type { Skeleton } from '../model/skeleton';

/** Toes and knees that point as often to one side as to the other tell nothing. */
const UNCLEAR = 0.35;

/** Of two limbs the one found first and the other. */
export type Pair<T> = { readonly a: T; readonly b: T };

export interface SettledSides {
  readonly aIsLeft: boolean;
  readonly armOfLeft: 'a' | 'b';
  readonly doubts: readonly SideDoubt[];
}

/** A doubt about sides; `swaps` says whose sides the other reading has the other way round. */
export interface SideDoubt extends Pick<BodyDoubt, 'part' | 'sure' | 'sentence'> {
  readonly swaps: 'all' | 'arms';
}

/**
 * Which leg and which arm are the left ones: by their names when those tell the two apart, else by where toes and knees point, frame by frame, the
 * clear ones counting most; arms by names of their own, else by the side that they hang on over the take.
 *
 * @param sampled world transforms of some frames of the take
 */
export function settleSides(skeleton: Skeleton, sampled: readonly Globals[], legs: Pair<Leg>, arms: Pair<Arm> | null): SettledSides {
  const doubts: SideDoubt[] = [];
  const named = sideByNames(skeleton, [legs.a.hip, legs.a.knee, legs.a.ankle], [legs.b.hip, legs.b.knee, legs.b.ankle]);
  const seen = pointing(sampled, legs);
  if (named === null && Math.abs(seen) < UNCLEAR) {
    const sure = 0.5 + Math.abs(seen) / 2;
    doubts.push({
      part: 'sides',
      sure,
      swaps: 'all',
      sentence: `Left and right are ${Math.round(sure * 100)} % sure: no name tells them, and toes and knees point to both sides.`,
    });
  }
  const aIsLeft = named === null ? seen >= 0 : named === 'left';
  if (!arms || arms.b.shoulder < 0) {
    const hangs = arms ? hanging(sampled, legs, arms.a.shoulder) : 0;
    return { aIsLeft, armOfLeft: hangs >= 0 === aIsLeft ? 'a' : 'b', doubts };
  }
  const armNamed = sideByNames(skeleton, armJoints(arms.a), armJoints(arms.b));
  const armWithA = hanging(sampled, legs, arms.a.shoulder) - hanging(sampled, legs, arms.b.shoulder) >= 0;
  const byPlace = armWithA === aIsLeft ? 'a' : 'b';
  const armOfLeft = armNamed !== null && named !== null ? (armNamed === 'left' ? 'a' : 'b') : byPlace;
  if (armOfLeft !== byPlace) {
    doubts.push({
      part: 'sides',
      sure: 0.5,
      swaps: 'arms',
      sentence: 'Left and right are 50 % sure: the arms are named for the other sides than they hang on.',
    });
  }
  return { aIsLeft, armOfLeft, doubts };
}

const armJoints = ({ shoulder, elbow, wrist }: Arm) => [shoulder, elbow, wrist];

/** The side of the first of two limbs; null where names do not tell the two apart. */
function sideByNames(skeleton: Skeleton, a: readonly number[], b: readonly number[]): Side | null {
  const lean = (joints: readonly number[]) =>
    joints.reduce((sum, j) => {
      const { side } = jointWords(skeleton.joints[j].name);
      return sum + (side === 'left' ? 1 : side === 'right' ? -1 : 0);
    }, 0);
  const [p, q] = [lean(a), lean(b)];
  return p * q < 0 ? (p > 0 ? 'left' : 'right') : null;
}

/** Over the frames: 1 where leg `a` is plainly the left one, −1 where `b` is. */
function pointing(sampled: readonly Globals[], { a, b }: Pair<Leg>): number {
  let [sum, all] = [0, 0];
  for (const { positions } of sampled) {
    const { cross, size } = standing(positions, a, b);
    sum += cross;
    all += size;
  }
  return all > 0 ? sum / all : 0;
}

/** How far a joint is to the side of leg `a`, summed over the frames. */
function hanging(sampled: readonly Globals[], { a, b }: Pair<Leg>, joint: number): number {
  let sum = 0;
  for (const { positions: g } of sampled) {
    const [h, o, p] = [a.hip * 3, b.hip * 3, joint * 3];
    const across = [0, 1, 2].map((k) => g[h + k] - g[o + k]);
    const from = [0, 1, 2].map((k) => g[p + k] - (g[h + k] + g[o + k]) / 2);
    sum += across.reduce((dot, v, k) => dot + v * from[k], 0) / (Math.hypot(...across) || 1);
  }
  return sum;
}

/**
 * Toes (or knees) point forward, and left is up × forward.
 *
 * @param positions of the joints in one pose, Y up
 * @returns the sine of the angle between forward and the line from leg `b` to leg `a`, seen from above: 1 when `a` is plainly the left one, −1 when `b` is
 */
export function firstStandsLeft(positions: ArrayLike<number>, a: Leg, b: Leg): number {
  const { cross, size } = standing(positions, a, b);
  return size > 0 ? cross / size : 0;
}

function standing(g: ArrayLike<number>, a: Leg, b: Leg): { cross: number; size: number } {
  let fx = 0;
  let fz = 0;
  for (const leg of [a, b]) {
    const tip = leg.toe >= 0 ? leg.toe : leg.knee;
    const from = leg.toe >= 0 ? leg.ankle : leg.hip;
    const to = leg.ankle;
    const mid = leg.toe >= 0 ? 0 : 0.5;
    fx += g[tip * 3] - (g[from * 3] * (1 - mid) + g[to * 3] * mid);
    fz += g[tip * 3 + 2] - (g[from * 3 + 2] * (1 - mid) + g[to * 3 + 2] * mid);
  }
  const lx = g[a.hip * 3] - g[b.hip * 3];
  const lz = g[a.hip * 3 + 2] - g[b.hip * 3 + 2];
  // left = up × forward = (fz, 0, −fx)
  return { cross: lx * fz - lz * fx, size: Math.hypot(lx, lz) * Math.hypot(fx, fz) };
}

/** What a body is with left and right the other way round. */
export const otherWayRound = (body: Body): Body => ({
  ...body,
  legs: { left: body.legs.right, right: body.legs.left },
  arms: { left: body.arms.right, right: body.arms.left },
});
