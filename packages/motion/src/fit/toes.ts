import { smoothStep5 } from '../math/smooth';
import type { Contacts } from '../model/contacts';
import { bendTips } from '../anatomy/bend-tips';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import type { FitPlan } from './plan';

/** Toes that were not captured lie flat for this long on after a contact, seconds. */
const FLAT_AFTER = 0.12;

/**
 * In place: toes that the source does not have lie flat while the ball bears and the heel comes up, as toes do; and toes that would go through
 * the floor are bent up.
 *
 * @param ground level of the floor, metres
 * @param slack how deep a tip may be before it is lifted, metres: bending moves the ball too
 * @returns where all joints were before: but for toes, where they are
 */
export function bendToes(
  motion: Motion,
  { character, drives, targetBody }: FitPlan,
  contacts: Contacts,
  ground: number,
  slack: number,
): Globals {
  const globals = forwardKinematics(motion);
  for (const side of ['left', 'right'] as const) {
    const { toe } = targetBody.legs[side];
    if (toe < 0) continue;
    const flat = drives[toe].kind === 'turn' ? null : flatness(contacts[side], motion);
    bendTips(motion, globals, { toe, ...character.soles[side] }, ground, slack, flat);
  }
  return globals;
}

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
