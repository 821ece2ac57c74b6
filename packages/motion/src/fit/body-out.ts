import { lowPass } from '../math/filter';
import { spreadOut } from '../math/spread-out';
import { minus, turned, vecAt } from '../math/vec';
import type { FixedPoint } from '../model/fixed-point';
import type { Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import type { Character, CharacterSkin } from '../character/character';

/** Parts that someone sits or lies on. */
const SEAT = ['hips', 'spine', 'leftThigh', 'rightThigh'] as const;
/** So many points of the skin are followed. */
const POINTS = 60;
/** Hips higher over the floor than this, metres, have nothing of the seat on it. */
const HIGH = 0.6;
/** The whole body is lifted no quicker than this, hertz. */
const HERTZ = 3;

/** Points of the skin of hips, back and thighs, each fixed to the joint that carries most of it. */
export function seatPoints({ skin, parts }: Pick<Character, 'skin' | 'parts'>): FixedPoint[] {
  const joints = new Set(SEAT.flatMap((part) => parts.parts[part]?.joints ?? []));
  const carried = strongest(skin).flatMap((joint, v) => (joints.has(joint) ? [{ joint, v }] : []));
  const step = Math.max(1, Math.floor(carried.length / POINTS));
  return carried
    .filter((_, i) => i % step === 0)
    .map(({ joint, v }) => {
      const q = skin.bindRotations.subarray(joint * 4, joint * 4 + 4);
      return { joint, local: turned([-q[0], -q[1], -q[2], q[3]], 0, minus(vecAt(skin.positions, v), vecAt(skin.bindPositions, joint))) };
    });
}

function strongest({ joints, weights }: CharacterSkin): number[] {
  return Array.from({ length: joints.length / 4 }, (_, v) => {
    let best = v * 4;
    for (let i = v * 4 + 1; i < v * 4 + 4; i++) if (weights[i] > weights[best]) best = i;
    return joints[best];
  });
}

/** How deep the seat is below the ground in every frame, metres; 0 where it is not. */
export function seatDepths(globals: Globals, points: readonly FixedPoint[], hips: number, ground: number): Float64Array {
  const out = new Float64Array(globals.frames);
  for (let f = 0; f < globals.frames; f++) {
    if (globals.positions[(f * globals.joints + hips) * 3 + 1] - ground > HIGH) continue;
    for (const { joint, local } of points) {
      const at = f * globals.joints + joint;
      out[f] = Math.max(out[f], ground - globals.positions[at * 3 + 1] - turned(globals.rotations, at * 4, local)[1]);
    }
  }
  return out;
}

/** In place: lifts the whole body, smoothly, so that hips, back and thighs stay out of the floor. */
export function keepSeatOut(motion: Motion, depths: Float64Array): void {
  if (depths.every((depth) => depth === 0)) return;
  const lift = lowPass(spreadOut(depths, Math.round((0.25 * motion.fps) / HERTZ)), HERTZ, motion.fps);
  for (let f = 0; f < motion.frames; f++) motion.rootPositions[f * 3 + 1] += Math.max(0, lift[f]);
}
