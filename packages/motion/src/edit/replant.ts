import { wrapAngle } from '../math/angles';
import { fromHeading, multiply, multiplyInverse, rotate } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import type { Contacts, Interval } from '../model/contacts';
import type { Side } from '../model/body';
import type { Groundwork } from '../measure/groundwork';
import { between, type Travel } from '../model/travel';
import { moveFrames, movePoint, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { reachFeet } from './reach-feet';

/** Roll of the body about the direction that it goes in, per frame, radians; positive to the left. */
export interface Lean {
  readonly angle: ArrayLike<number>;
  readonly course: ArrayLike<number>;
}

export interface Replanted {
  readonly motion: Motion;
  /** How far the hips came down so that the legs reach, at the most, metres. */
  readonly hipsDownM: number;
}

/**
 * A motion on another way, its stride kept: the body goes along from the one to the other, frame by frame; a foot that bears stays as it came
 * down, moved as a whole to where the new way passes in the middle of its stance; a foot in the air is led from the one place to the next.
 *
 * @param found the motion in the world, its contacts settled
 * @param from its way, one entry per frame
 * @param to the new one
 * @param placedAt the frame whose place on the new way a contact takes; left out, its middle
 */
export function replant(
  found: Groundwork,
  contacts: Contacts,
  from: Travel,
  to: Travel,
  lean: Lean | null = null,
  placedAt?: (contact: Interval) => number,
): Replanted {
  const { motion } = found;
  const { frames } = motion;
  const out = copyMotion(motion);
  for (let f = 0; f < frames; f++) {
    moveFrames(out, between(from, to, f), f, f + 1);
    if (lean && lean.angle[f] !== 0) roll(out, f, to, lean.course[f], lean.angle[f]);
  }
  const middle = ({ from: a, to: b }: Interval) => (a + b) >> 1;
  const at = placedAt ?? middle;
  const drop = placeFeet(
    out,
    found,
    contacts,
    (contact) => between(from, to, Math.min(frames - 1, at(contact))),
    (f) => between(from, to, f),
  );
  return { motion: out, hipsDownM: drop.reduce((most, v) => Math.max(most, v), 0) };
}

/**
 * In place: each foot put where its contacts have been moved to, each as a whole; in the air it is led from the one place to the next. The feet turn
 * with their places, whatever the body has done, and the legs follow.
 *
 * @param motion its body is where it shall be already
 * @param found of the motion whose feet they were
 * @param moveOf what moves a contact
 * @param inTheAir what moves a foot of a frame before the first contact, or after the last
 * @param settle in place: changes where an ankle is, metres, and how the foot is turned in the world
 * @returns how far the hips came down in every frame so that the legs reach, metres
 */
export function placeFeet(
  motion: Motion,
  found: Pick<Groundwork, 'globals' | 'body'>,
  contacts: Contacts,
  moveOf: (contact: Interval, side: Side) => FloorTransform,
  inTheAir: (f: number) => FloorTransform,
  settle?: (side: Side, f: number, ankle: Float64Array, turn: Float64Array) => void,
): Float64Array {
  const { globals, body } = found;
  const { frames } = motion;
  const J = motion.skeleton.joints.length;
  const moved = forwardKinematics(motion);
  const targets = { left: new Float64Array(frames * 3), right: new Float64Array(frames * 3) };
  const world = new Float64Array(4);
  const place = new Float64Array(3);
  for (const side of ['left', 'right'] as const) {
    const { ankle } = body.legs[side];
    const parent = motion.skeleton.joints[ankle].parent;
    const placed = placements(contacts[side], (contact) => moveOf(contact, side), inTheAir, frames);
    for (let f = 0; f < frames; f++) {
      const { before, after, u } = placed(f);
      const p = (f * J + ankle) * 3;
      const [x, y, z] = [globals.positions[p], globals.positions[p + 1], globals.positions[p + 2]];
      // Half-way between two places is half-way between where they put this foot, not between turns about a far origin.
      const [a, b] = [placeBy(before, x, y, z), placeBy(after, x, y, z)];
      for (let k = 0; k < 3; k++) place[k] = a[k] + (b[k] - a[k]) * u;
      // The foot points as it came down, wherever the body has turned to.
      const turn = before.turn + wrapAngle(after.turn - before.turn) * u;
      multiply(world, 0, fromHeading(turn), 0, globals.rotations, (f * J + ankle) * 4);
      settle?.(side, f, place, world);
      targets[side].set(place, f * 3);
      multiplyInverse(motion.rotations, (f * J + ankle) * 4, moved.rotations, (f * J + parent) * 4, world, 0);
      // Of all that legs are reached with, only this has changed.
      moved.rotations.set(world, (f * J + ankle) * 4);
    }
  }
  return reachFeet(motion, moved, body, targets, true);
}

/** Rolls the body about the line of its way on the floor. */
function roll(motion: Motion, f: number, way: Travel, h: number, angle: number): void {
  const J = motion.skeleton.joints.length;
  const half = -angle / 2;
  const turn = [Math.sin(h) * Math.sin(half), 0, Math.cos(h) * Math.sin(half), Math.cos(half)];
  const p = motion.rootPositions;
  const arm = [p[f * 3] - way.x[f], p[f * 3 + 1] - way.y[f], p[f * 3 + 2] - way.z[f]];
  rotate(arm, 0, turn, 0, arm, 0);
  p.set([way.x[f] + arm[0], way.y[f] + arm[1], way.z[f] + arm[2]], f * 3);
  multiply(motion.rotations, f * J * 4, turn, 0, motion.rotations, f * J * 4);
}

function placeBy(transform: FloorTransform, ...place: [number, number, number]): [number, number, number] {
  movePoint(place, 0, transform, place, 0);
  return place;
}

/** What moves a foot in a frame: its contact's transform, or in the air part of the way from one's to the next's. */
interface Placement {
  readonly before: FloorTransform;
  readonly after: FloorTransform;
  readonly u: number;
}

function placements(
  contacts: readonly Interval[],
  moveOf: (contact: Interval) => FloorTransform,
  inTheAir: (f: number) => FloorTransform,
  frames: number,
): (f: number) => Placement {
  const held = contacts
    .filter((c) => c.to > 0 && c.from < frames)
    .map((c) => {
      const [a, b] = [Math.max(0, c.from), Math.min(frames, c.to)];
      return { from: a, to: b, move: moveOf({ from: a, to: b }) };
    });
  let next = 0;
  return (f) => {
    while (next < held.length && held[next].to <= f) next++;
    const here = held[next];
    if (here && f >= here.from) return { before: here.move, after: here.move, u: 0 };
    const last = held[next - 1];
    const start = last ? last.to - 1 : 0;
    const end = here ? here.from : frames - 1;
    const u = end > start ? smoothStep5((f - start) / (end - start)) : 1;
    // Where the clip begins or ends in the air the foot goes along with the body.
    return { before: last?.move ?? inTheAir(f), after: here?.move ?? inTheAir(f), u };
  };
}
