import { wrapAngle } from '../math/angles';
import { fromHeading, multiply, multiplyInverse, rotate } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import type { Contacts, Interval } from '../model/contacts';
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
 */
export function replant(found: Groundwork, contacts: Contacts, from: Travel, to: Travel, lean: Lean | null = null): Replanted {
  const { motion, globals, body } = found;
  const { frames } = motion;
  const J = motion.skeleton.joints.length;
  const out = copyMotion(motion);
  for (let f = 0; f < frames; f++) {
    moveFrames(out, between(from, to, f), f, f + 1);
    if (lean && lean.angle[f] !== 0) roll(out, f, to, lean.course[f], lean.angle[f]);
  }
  const moved = forwardKinematics(out);
  const targets = { left: new Float64Array(frames * 3), right: new Float64Array(frames * 3) };
  const world = new Float64Array(4);
  for (const side of ['left', 'right'] as const) {
    const { ankle } = body.legs[side];
    const parent = motion.skeleton.joints[ankle].parent;
    const placed = placements(contacts[side], from, to, frames);
    for (let f = 0; f < frames; f++) {
      const { before, after, u } = placed(f);
      const p = (f * J + ankle) * 3;
      const [x, y, z] = [globals.positions[p], globals.positions[p + 1], globals.positions[p + 2]];
      // Half-way between two places is half-way between where they put this foot, not between turns about a far origin.
      const [a, b] = [placeBy(before, x, y, z), placeBy(after, x, y, z)];
      for (let k = 0; k < 3; k++) targets[side][f * 3 + k] = a[k] + (b[k] - a[k]) * u;
      // The foot points as it came down, wherever the body has turned to.
      const turn = before.turn + wrapAngle(after.turn - before.turn) * u;
      multiply(world, 0, fromHeading(turn), 0, globals.rotations, (f * J + ankle) * 4);
      multiplyInverse(out.rotations, (f * J + ankle) * 4, moved.rotations, (f * J + parent) * 4, world, 0);
      // Of all that legs are reached with, only this has changed.
      moved.rotations.set(world, (f * J + ankle) * 4);
    }
  }
  const drop = reachFeet(out, moved, body, targets, true);
  return { motion: out, hipsDownM: drop.reduce((most, v) => Math.max(most, v), 0) };
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

function placements(contacts: readonly Interval[], from: Travel, to: Travel, frames: number): (f: number) => Placement {
  const held = contacts
    .filter((c) => c.to > 0 && c.from < frames)
    .map((c) => {
      const [a, b] = [Math.max(0, c.from), Math.min(frames, c.to)];
      return { from: a, to: b, move: between(from, to, Math.min(frames - 1, (a + b) >> 1)) };
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
    return { before: last?.move ?? between(from, to, f), after: here?.move ?? between(from, to, f), u };
  };
}
