import type { Body } from '../model/body';
import { bodyOf } from '../model/body-of';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { addBelt, findBelt, type Belt } from './belt';
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
  // Feet that all slide back alike under hips that stay are planted on a floor that moves: everything about them is found as if they went.
  const belt = findBelt(globals, body, motion.fps);
  const going = belt ? onTheWay(motion, belt) : motion;
  const moving = belt ? forwardKinematics(going) : globals;
  const standing = soles(going, moving, body);
  const hips = Float64Array.from({ length: globals.frames }, (_, f) => globals.positions[(f * globals.joints + body.hips) * 3 + 1]);
  return {
    motion,
    globals,
    body,
    soles: belt ? withoutBelt(standing, belt, motion.fps) : standing,
    contacts: contacts(standing, motion.fps, hips),
    belt,
    weighted: weightedJoints(body),
    headings: headings(globals, body),
  };
}

/** Someone who walked on the spot as if the floor stood and he went. */
export function onTheWay(motion: Motion, belt: Belt): Motion {
  const rootPositions = motion.rootPositions.slice();
  addBelt(rootPositions, belt, motion.fps);
  return { ...motion, rootPositions };
}

function withoutBelt(soles: Soles, belt: Belt, fps: number): Soles {
  const back = (track: Float32Array) => {
    const out = track.slice();
    addBelt(out, belt, fps, -1);
    return out;
  };
  const foot = ({ heel, ball, tip }: Soles['left']) => ({ heel: back(heel), ball: back(ball), tip: back(tip) });
  return { ...soles, left: foot(soles.left), right: foot(soles.right) };
}
