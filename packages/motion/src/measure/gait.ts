import type { Body } from '../model/body';
import { bodyOf } from '../model/body-of';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { beltSpeed, offTheBelt, type Belt } from './belt';
import { contacts, type Contacts } from './contacts';
import { headings } from './heading';
import { soles, type Soles } from './soles';
import { weightedJoints, type WeightedJoints } from './weights';

/** What most figures start from, worked out once for a motion. */
export interface Gait {
  readonly motion: Motion;
  readonly globals: Globals;
  readonly body: Body;
  readonly soles: Soles;
  readonly contacts: Contacts;
  /** Of someone who walks on the spot: how fast he would go. Null for everyone else. */
  readonly belt: Belt | null;
  /** What counts how much when poses are compared. */
  readonly weighted: WeightedJoints;
  /** Radians, unwrapped. */
  readonly headings: Float64Array;
}

/**
 * Forward kinematics, body parts, sole points, contacts and headings of a motion.
 *
 * @param motion metres, Y up
 * @returns null when the skeleton is not a person's
 */
export function gait(motion: Motion): Gait | null {
  const known = KNOWN.get(motion);
  if (known !== undefined) return known;
  const found = workOut(motion);
  if (motion.frames * motion.skeleton.joints.length <= MOST_KEPT) KNOWN.set(motion, found);
  return found;
}

/** A motion's gait is asked for by step after step; motions never change once they are made. */
const KNOWN = new WeakMap<Motion, Gait | null>();
/** Larger ones take too much room, frames times joints. */
const MOST_KEPT = 100_000;

function workOut(motion: Motion): Gait | null {
  const body = bodyOf(motion);
  if (!body) return null;
  const globals = forwardKinematics(motion);
  const found = soles(motion, globals, body);
  const hips = Float64Array.from({ length: globals.frames }, (_, f) => globals.positions[(f * globals.joints + body.hips) * 3 + 1]);
  // Feet that all slide back alike under hips that stay are planted on a floor that moves.
  const belt = beltSpeed(found, globals, body, motion.fps);
  return {
    motion,
    globals,
    body,
    soles: found,
    contacts: contacts(belt ? offTheBelt(found, belt, motion.fps) : found, motion.fps, hips),
    belt,
    weighted: weightedJoints(body),
    headings: headings(globals, body),
  };
}
