import { fromAxisAngle, multiply, multiplyInverse, type Vec3 } from '../math/quat';
import { cross, minus, norm, unit, vecAt } from '../math/vec';
import type { Contacts } from '../measure/contacts';
import { forwardKinematics } from '../model/kinematics';
import { followPoint } from '../model/fixed-point';
import type { Motion } from '../model/motion';
import { smoothStep5 } from '../math/smooth';
import type { FitPlan } from './plan';

/** Toes that were not captured lie flat for this long on after a contact, seconds. */
const FLAT_AFTER = 0.12;
/** No toe bends further up, radians. */
const MOST_BEND = 1.2;

/**
 * In place: toes that the source does not have lie flat while the ball bears and the heel comes up, as toes do; and toes that would go through
 * the floor are bent up.
 *
 * @param ground level of the floor, metres
 * @param slack how deep a tip may be before it is lifted, metres: bending moves the ball too
 */
export function bendToes(
  motion: Motion,
  { character, drives, targetBody }: FitPlan,
  contacts: Contacts,
  ground: number,
  slack: number,
): void {
  const globals = forwardKinematics(motion);
  const J = globals.joints;
  for (const side of ['left', 'right'] as const) {
    const { ankle, toe } = targetBody.legs[side];
    if (toe < 0) continue;
    const { ball, tip } = character.soles[side];
    const [balls, tips] = [followPoint(globals, ball), followPoint(globals, tip)];
    const flat = drives[toe].kind === 'turn' ? null : flatness(contacts[side], motion);
    const local = [0, 0, 0, 1];
    for (let f = 0; f < motion.frames; f++) {
      const along = minus(vecAt(tips, f), vecAt(balls, f));
      const length = norm(along);
      const level = Math.hypot(along[0], along[2]);
      if (length < 1e-6 || level < 1e-6) continue;
      const dips = Math.asin(Math.max(-1, Math.min(1, along[1] / length)));
      // As far as the floor asks, toes that lie flat no higher than the ball, which may be in it still; or all the way to flat.
      const over = Math.max(-1, Math.min(flat ? 0 : 1, (ground - slack - balls[f * 3 + 1]) / length));
      const least = over > along[1] / length ? Math.asin(over) - dips : 0;
      const asked = flat && dips < 0 ? Math.max(least, -dips * flat[f]) : least;
      if (asked <= 1e-5) continue;
      // Up is about the axis that points to the foot's right.
      const axis: Vec3 = unit(cross(along, [0, 1, 0]));
      multiply(local, 0, fromAxisAngle(axis, Math.min(MOST_BEND, asked)), 0, globals.rotations, (f * J + toe) * 4);
      multiplyInverse(motion.rotations, (f * J + toe) * 4, globals.rotations, (f * J + parentOf(motion, toe, ankle)) * 4, local, 0);
    }
  }
}

const parentOf = (motion: Motion, toe: number, ankle: number): number => {
  const { parent } = motion.skeleton.joints[toe];
  return parent < 0 ? ankle : parent;
};

/** 1 in contacts, and on for a moment after them. */
function flatness(contacts: Contacts['left'], { frames, fps }: Motion): Float64Array {
  const out = new Float64Array(frames);
  const span = Math.max(2, Math.round(FLAT_AFTER * fps));
  for (const { from, to } of contacts) {
    for (let f = Math.max(0, from - span); f < Math.min(frames, to + span); f++) {
      out[f] = Math.max(out[f], 1 - smoothStep5(Math.max(from - f, f - to + 1, 0) / span));
    }
  }
  return out;
}
