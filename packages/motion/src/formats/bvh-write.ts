import { DEGREES } from '../math/angles';
import { multiply, rotate, type Vec3 } from '../math/quat';
import type { Motion } from '../model/motion';
import { childrenOf, restPose } from '../model/skeleton';

export interface WriteBvhOptions {
  /** File units in one metre of the motion; 100 writes centimetres. */
  readonly unitsPerMetre?: number;
  /** Digits after the point; six keep positions to 10⁻⁵ mm and angles to 10⁻⁶ °. */
  readonly digits?: number;
}

const DEFAULTS: Required<WriteBvhOptions> = { unitsPerMetre: 100, digits: 6 };

/**
 * Writes a motion as BVH with channels Z X Y. BVH has no rest rotations: joints that have one get axes that are
 * level in the rest pose, and every joint stays where it was.
 *
 * @param motion in metres, Y up
 * @returns the text, lines ended by a line feed
 *
 * @example
 * writeBvh(motion).split('\n')[0]; // 'HIERARCHY'
 */
export function writeBvh(motion: Motion, options: WriteBvhOptions = {}): string {
  const { unitsPerMetre, digits } = { ...DEFAULTS, ...options };
  const { joints } = motion.skeleton;
  const children = childrenOf(motion.skeleton);
  const rest = restPose(motion.skeleton).rotations;
  const number = (value: number) => {
    const text = value.toFixed(digits);
    return Number(text) === 0 ? (0).toFixed(digits) : text;
  };
  const vector = (v: ArrayLike<number>, i = 0) => [v[i], v[i + 1], v[i + 2]].map((x) => number(x * unitsPerMetre)).join(' ');
  const turned = (v: Vec3, joint: number) => {
    const out = [0, 0, 0];
    rotate(out, 0, rest, joint * 4, v, 0);
    return out;
  };

  const lines = ['HIERARCHY'];
  const order: number[] = [];
  const write = (j: number, depth: number) => {
    const tab = '\t'.repeat(depth);
    const joint = joints[j];
    const moves = j === 0 || motion.translations?.has(j);
    order.push(j);
    lines.push(`${tab}${j === 0 ? 'ROOT' : 'JOINT'} ${joint.name}`, `${tab}{`);
    lines.push(`${tab}\tOFFSET ${vector(j === 0 ? [0, 0, 0] : turned(joint.offset, joint.parent))}`);
    const positions = moves ? 'Xposition Yposition Zposition ' : '';
    lines.push(`${tab}\tCHANNELS ${moves ? 6 : 3} ${positions}Zrotation Xrotation Yrotation`);
    for (const child of children[j]) write(child, depth + 1);
    const tips = joint.endSites.length > 0 || children[j].length > 0 ? joint.endSites : [[0, 0, 0] as const];
    for (const tip of tips) {
      lines.push(`${tab}\tEnd Site`, `${tab}\t{`, `${tab}\t\tOFFSET ${vector(turned(tip, j))}`, `${tab}\t}`);
    }
    lines.push(`${tab}}`);
  };
  write(0, 0);
  lines.push('MOTION', `Frames: ${motion.frames}`, `Frame Time: ${(1 / motion.fps).toFixed(8)}`);

  const q = [0, 0, 0, 1];
  const p = [0, 0, 0];
  for (let f = 0; f < motion.frames; f++) {
    const row: string[] = [];
    for (const j of order) {
      // In level axes: q′ = (rest of the parent) · q · (rest of the joint)⁻¹.
      const inverse = [-rest[j * 4], -rest[j * 4 + 1], -rest[j * 4 + 2], rest[j * 4 + 3]];
      multiply(q, 0, motion.rotations, (f * joints.length + j) * 4, inverse, 0);
      if (j > 0) multiply(q, 0, rest, joints[j].parent * 4, q, 0);
      if (j === 0) row.push(vector(motion.rootPositions, f * 3));
      const t = motion.translations?.get(j);
      if (t) {
        rotate(p, 0, rest, joints[j].parent * 4, t, f * 3);
        row.push(vector(p));
      }
      row.push(...eulerZXY(q).map((angle) => number(angle * DEGREES)));
    }
    lines.push(row.join(' '));
  }
  return `${lines.join('\n')}\n`;
}

/** Angles z, x, y with q = Z(z) · X(x) · Y(y); at the pole y is 0. */
function eulerZXY(q: readonly number[]): [number, number, number] {
  const [x, y, z, w] = q;
  const [aside, along] = [-2 * (x * z - w * y), 1 - 2 * (x * x + y * y)];
  // From both sine and cosine: the sine alone loses half its digits near the pole, and does not tell how near it is.
  const aboutX = Math.atan2(2 * (y * z + w * x), Math.hypot(aside, along));
  const aboutY = Math.hypot(aside, along) < 1e-9 ? 0 : Math.atan2(aside, along);
  // Near the pole either of the two others is only known roughly; the last is what the first two leave, so that together they are right.
  const left = [0, 0, 0, 1];
  multiply(left, 0, q, 0, [0, -Math.sin(aboutY / 2), 0, Math.cos(aboutY / 2)], 0);
  multiply(left, 0, left, 0, [-Math.sin(aboutX / 2), 0, 0, Math.cos(aboutX / 2)], 0);
  return [2 * Math.atan2(left[2], left[3]), aboutX, aboutY];
}
