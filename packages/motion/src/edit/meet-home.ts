import { wrapAngle } from '../math/angles';
import { exp, fromHeading, log, multiply, multiplyInverse, rotate, type Vec3 } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { headings } from '../measure/heading';
import type { Groundwork } from '../measure/groundwork';
import type { Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { leading, movePoint, type FloorTransform } from '../model/floor-transform';
import { homeMotion, type HomePose } from '../model/home-pose';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { placeFeet } from './replant';

/** An end that is brought home: its frame, and the frames in which the body comes into the pose before it or leaves it after it. */
export interface HomeEnd {
  readonly frame: number;
  readonly before: number;
  readonly after: number;
}

const SIDES = ['left', 'right'] as const;

/**
 * A motion in the world whose ends are in the home pose: put where the body is and faces there, what differs from it added on top of the motion and let
 * go over some frames. Feet go to where they stand in the home pose: a contact that reaches an end is moved as a whole, and the swing beside it takes up
 * the way; a contact that reaches from one end to another cannot move, and there the pose is put over that foot instead.
 *
 * Idea: Witkin, Popović, *Motion Warping*, 1995.
 *
 * @param found the motion as it comes
 * @param ends in the order of time
 */
export function meetHome(found: Groundwork, contacts: Contacts, pose: HomePose, ends: readonly HomeEnd[]): Motion {
  const { motion, globals, body } = found;
  const { frames } = motion;
  const J = motion.skeleton.joints.length;
  const placed = ends.map((end) => placeHome(found, contacts, pose, ends, end));
  const out = copyMotion(motion);
  const [turn, by] = [new Float64Array(4), new Float64Array(3)];
  for (let f = 0; f < frames; f++) {
    const shares = ends.map((end) => shareAt(end, f));
    if (shares.every((share) => share === 0)) continue;
    for (let j = 0; j < J; j++) {
      for (let k = 0; k < 3; k++) by[k] = placed.reduce((sum, { turns }, i) => sum + shares[i] * turns[j * 3 + k], 0);
      exp(turn, 0, by, 0);
      const at = (f * J + j) * 4;
      // The body turns in the world, joints against their parents.
      if (j === 0) multiply(out.rotations, at, turn, 0, motion.rotations, at);
      else multiply(out.rotations, at, motion.rotations, at, turn, 0);
    }
    out.translations?.forEach((t, j) => {
      for (const [i, { places }] of placed.entries()) {
        const moved = places.get(j);
        for (let k = 0; moved && k < 3; k++) t[f * 3 + k] += shares[i] * moved[k];
      }
    });
    for (let k = 0; k < 3; k++) out.rootPositions[f * 3 + k] += placed.reduce((sum, { shift }, i) => sum + shares[i] * shift[k], 0);
  }
  const still: FloorTransform = { turn: 0, x: 0, z: 0 };
  const moveOf = (contact: Interval, side: Side) => {
    const i = ends.findIndex(({ frame }) => reaches(contact, frame));
    return i < 0 || isFixed(contact, ends) ? still : placed[i].feet[side];
  };
  placeFeet(
    out,
    { globals, body },
    contacts,
    moveOf,
    () => still,
    (side, f, ankle, turned) => ends.forEach((end, i) => settleFoot(placed[i].rolls[side], shareAt(end, f), ankle, turned)),
  );
  return out;
}

/** In place: a foot turned about its ball by a share of what lays it as in the home pose, and raised by as much as that. */
function settleFoot({ roll, rise, ball }: Roll, share: number, ankle: Float64Array, turned: Float64Array): void {
  if (share === 0) return;
  const [turn, arm] = [new Float64Array(4), new Float64Array(3)];
  rotate(arm, 0, turned, 0, ball, 0);
  for (let k = 0; k < 3; k++) ankle[k] += arm[k];
  exp(
    turn,
    0,
    roll.map((v) => v * share),
    0,
  );
  multiply(turned, 0, turn, 0, turned, 0);
  rotate(arm, 0, turned, 0, ball, 0);
  for (let k = 0; k < 3; k++) ankle[k] -= arm[k];
  ankle[1] += rise * share;
}

/** What lays a foot as in the home pose: a turn in the world about the ball, as a vector of rotation, and how far the ball rises, metres. */
interface Roll {
  readonly roll: readonly number[];
  readonly rise: number;
  /** The ball in the ankle's own axes. */
  readonly ball: Vec3;
}

/** A contact that is cut off by the last frame ends one after it. */
const reaches = ({ from, to }: Interval, frame: number) => from <= frame && frame < to;

/** It reaches ends that would have it in different places. */
const isFixed = (contact: Interval, ends: readonly HomeEnd[]) => ends.filter(({ frame }) => reaches(contact, frame)).length > 1;

const shareAt = ({ frame, before, after }: HomeEnd, f: number): number => {
  const room = f <= frame ? before : after;
  const away = Math.abs(f - frame);
  return away === 0 ? 1 : away >= room ? 0 : smoothStep5(1 - away / room);
};

interface Placed {
  /** What each joint is turned by, as vectors of rotation: joint 0 in the world, the others in their own axes. */
  readonly turns: Float64Array;
  /** What other joints are moved by against their parents, where they move, metres. */
  readonly places: ReadonlyMap<number, readonly number[]>;
  /** What joint 0 is moved by, metres. */
  readonly shift: readonly number[];
  /** What brings the feet to where they stand. */
  readonly feet: Readonly<Record<Side, FloorTransform>>;
  readonly rolls: Readonly<Record<Side, Roll>>;
}

function placeHome(
  { motion, globals, body, soles, headings: facing }: Groundwork,
  contacts: Contacts,
  pose: HomePose,
  ends: readonly HomeEnd[],
  { frame }: HomeEnd,
): Placed {
  const { skeleton, fps } = motion;
  const J = skeleton.joints.length;
  const home = homeMotion(pose, skeleton, fps, [0, soles.floor, 0]);
  const goal = forwardKinematics(home);
  const over = putOver(goal, headings(goal, body)[0], globals, facing[frame], frame, body.hips);
  // Feet that cannot go to the pose have it come to them.
  const fixed = SIDES.filter((side) => contacts[side].some((contact) => reaches(contact, frame) && isFixed(contact, ends)));
  const at =
    fixed.length > 0
      ? overFeet(
          goal,
          globals,
          frame,
          fixed.map((side) => body.legs[side].ankle),
          over,
        )
      : over;
  const turn = fromHeading(at.turn);
  const q = new Float64Array(4);
  const turns = new Float64Array(J * 3);
  for (let j = 0; j < J; j++) {
    const own = (frame * J + j) * 4;
    if (j === 0) {
      // In the world: home · own⁻¹.
      const [x, y, z, w] = motion.rotations.subarray(own, own + 4);
      multiply(q, 0, turn, 0, home.rotations, 0);
      multiply(q, 0, q, 0, [-x, -y, -z, w], 0);
    } else multiplyInverse(q, 0, motion.rotations, own, home.rotations, j * 4);
    if (q[3] < 0) for (let k = 0; k < 4; k++) q[k] = -q[k];
    log(turns, j * 3, q, 0);
    if (j > 0 && !pose.turns[skeleton.joints[j].name]) turns.fill(0, j * 3, j * 3 + 3);
  }
  const place = [0, 0, 0];
  movePoint(place, 0, at, home.rootPositions, 0);
  const shift = place.map((v, k) => v - motion.rootPositions[frame * 3 + k]);
  /** How far a foot without a toe turns about the vertical to lie as in the pose. */
  const turnBetween = (ankle: number): number => {
    const [x, y, z, w] = globals.rotations.subarray((frame * J + ankle) * 4, (frame * J + ankle) * 4 + 4);
    multiply(q, 0, turn, 0, goal.rotations, ankle * 4);
    multiply(q, 0, q, 0, [-x, -y, -z, w], 0);
    return 2 * Math.atan2(q[1], q[3]);
  };
  const feet = (side: Side) => {
    const { ankle, toe } = body.legs[side];
    const ball = toe >= 0 ? toe : ankle;
    const own = (frame * J + ball) * 3;
    const stands = [0, 0, 0];
    movePoint(stands, 0, at, goal.positions, ball * 3);
    const yaw = toe >= 0 ? at.turn + yawOf(goal, 0, ankle, toe) - yawOf(globals, frame, ankle, toe) : turnBetween(ankle);
    return leading({ x: globals.positions[own], z: globals.positions[own + 2] }, { x: stands[0], z: stands[2] }, wrapAngle(yaw));
  };
  const rollOf = (side: Side, move: FloorTransform): Roll => {
    const { ankle, toe } = body.legs[side];
    const ball = toe >= 0 ? toe : ankle;
    const [now, then] = [new Float64Array(4), new Float64Array(4)];
    multiply(now, 0, fromHeading(move.turn), 0, globals.rotations, (frame * J + ankle) * 4);
    multiply(then, 0, turn, 0, goal.rotations, ankle * 4);
    multiply(then, 0, then, 0, [-now[0], -now[1], -now[2], now[3]], 0);
    if (then[3] < 0) for (let k = 0; k < 4; k++) then[k] = -then[k];
    const roll = [0, 0, 0];
    log(roll, 0, then, 0);
    const isFixedFoot = contacts[side].some((contact) => reaches(contact, frame) && isFixed(contact, ends));
    return {
      roll: isFixedFoot ? [0, 0, 0] : roll,
      rise: isFixedFoot ? 0 : goal.positions[ball * 3 + 1] - globals.positions[(frame * J + ball) * 3 + 1],
      ball: toe >= 0 ? skeleton.joints[toe].offset : [0, 0, 0],
    };
  };
  const moves = { left: feet('left'), right: feet('right') };
  const places = new Map(
    [...(home.translations ?? [])].flatMap(([j, goalPlace]) => {
      const own = motion.translations?.get(j);
      return own ? [[j, [0, 1, 2].map((k) => goalPlace[k] - own[frame * 3 + k])] as const] : [];
    }),
  );
  return { turns, places, shift, feet: moves, rolls: { left: rollOf('left', moves.left), right: rollOf('right', moves.right) } };
}

/** Where a foot points on the floor. */
function yawOf({ positions, joints }: Globals, f: number, ankle: number, toe: number): number {
  const [a, t] = [(f * joints + ankle) * 3, (f * joints + toe) * 3];
  return Math.atan2(positions[t] - positions[a], positions[t + 2] - positions[a + 2]);
}

/** Puts the pose where the hips are, facing as the body does. */
function putOver(goal: Globals, goalFacing: number, globals: Globals, facing: number, frame: number, hips: number): FloorTransform {
  const at = (p: ArrayLike<number>, i: number) => ({ x: p[i], z: p[i + 2] });
  return leading(at(goal.positions, hips * 3), at(globals.positions, (frame * globals.joints + hips) * 3), facing - goalFacing);
}

/** The same turn, put so that some ankles are where they are in the motion, as nearly as can be. */
function overFeet(goal: Globals, globals: Globals, frame: number, ankles: readonly number[], { turn }: FloorTransform): FloorTransform {
  const moved = [0, 0, 0];
  let [x, z] = [0, 0];
  for (const ankle of ankles) {
    movePoint(moved, 0, { turn, x: 0, z: 0 }, goal.positions, ankle * 3);
    const p = (frame * globals.joints + ankle) * 3;
    x += (globals.positions[p] - moved[0]) / ankles.length;
    z += (globals.positions[p + 2] - moved[2]) / ankles.length;
  }
  return { turn, x, z };
}
