import { multiply, rotate, type Side, type Vec3 } from '@lantern/motion';
import type { Figure, JointName } from './figure';
import { smooth } from './gait-table';

type Q = [number, number, number, number];

/** A hand that rests at a place. Seconds; metres, x to the performer's left of where he starts, z ahead of it. */
export interface Hold {
  readonly side: Side;
  readonly from: number;
  readonly to: number;
  readonly place: Vec3;
}

/** Seconds in which a hand goes to its rest and comes back from it. */
const REACH = 0.7;

/** How far a hand is on its way to a hold: 1 while it rests, 0 long before and after. */
export function holding({ from, to }: Hold, t: number): number {
  return Math.min(smooth((t - from + REACH) / REACH), smooth((to + REACH - t) / REACH));
}

/**
 * Leads an arm that hangs or swings to a hold: the wrist goes to its place, the elbow stays below and outside.
 *
 * @param globals world rotations by joint; those of arm, forearm and hand are changed
 * @param hips where the hips are
 */
export function reachWithArm(globals: Map<JointName, Q>, figure: Figure, hips: Vec3, hold: Hold, t: number): void {
  const weight = holding(hold, t);
  if (weight === 0) return;
  const { joints } = figure.skeleton;
  const [arm, forearm, hand] =
    hold.side === 'left' ? (['LeftArm', 'LeftForearm', 'LeftHand'] as const) : (['RightArm', 'RightForearm', 'RightHand'] as const);
  const sign = hold.side === 'left' ? 1 : -1;
  const place = (name: JointName): Vec3 => {
    const joint = joints.find((j) => j.name === name);
    if (!joint || joint.parent < 0) return hips;
    const parent = joints[joint.parent].name as JointName;
    const out = [0, 0, 0];
    rotate(out, 0, globals.get(parent) ?? [0, 0, 0, 1], 0, joint.offset, 0);
    const from = place(parent);
    return [from[0] + out[0], from[1] + out[1], from[2] + out[2]];
  };
  const length = (name: JointName) => Math.hypot(...(joints.find((j) => j.name === name)?.offset ?? [0, 0, 0]));
  const [shoulder, free] = [place(arm), place(hand)];
  const [a, b] = [length(forearm), length(hand)];
  const target = free.map((v, k) => v + (hold.place[k] - v) * weight);
  const d = target.map((v, k) => v - shoulder[k]);
  const far = Math.hypot(d[0], d[1], d[2]);
  const reach = Math.min(far, 0.998 * (a + b));
  const along: Vec3 = [d[0] / far, d[1] / far, d[2] / far];
  // The elbow as the arm shows it now, made to point down, out and back.
  const bent = place(forearm).map((v, k) => v - shoulder[k]);
  const pole = bent.map((v, k) => v * (1 - weight) + weight * [0.45 * sign, -1, -0.55][k]);
  const on = pole[0] * along[0] + pole[1] * along[1] + pole[2] * along[2];
  const out = unit([pole[0] - on * along[0], pole[1] - on * along[1], pole[2] - on * along[2]]);
  const ahead = (a * a - b * b + reach * reach) / (2 * reach);
  const aside = Math.sqrt(Math.max(0, a * a - ahead * ahead));
  const upper = unit([0, 1, 2].map((k) => along[k] * ahead + out[k] * aside));
  const lower = unit([0, 1, 2].map((k) => along[k] * (reach - ahead) - out[k] * aside));
  globals.set(arm, carried(globals.get(arm) ?? [0, 0, 0, 1], sign, upper));
  globals.set(forearm, carried(globals.get(forearm) ?? [0, 0, 0, 1], sign, lower));
}

/** A rotation turned the shortest way so that its bone (+X on the left, −X on the right) points somewhere. */
function carried(q: Q, sign: number, to: Vec3): Q {
  const from = [0, 0, 0];
  rotate(from, 0, q, 0, [sign, 0, 0], 0);
  const axis = [from[1] * to[2] - from[2] * to[1], from[2] * to[0] - from[0] * to[2], from[0] * to[1] - from[1] * to[0]];
  const w = 1 + from[0] * to[0] + from[1] * to[1] + from[2] * to[2];
  const n = Math.hypot(axis[0], axis[1], axis[2], w);
  const out: Q = [0, 0, 0, 1];
  multiply(out, 0, [axis[0] / n, axis[1] / n, axis[2] / n, w / n], 0, q, 0);
  return out;
}

function unit(v: readonly number[]): Vec3 {
  const n = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / n, v[1] / n, v[2] / n];
}
