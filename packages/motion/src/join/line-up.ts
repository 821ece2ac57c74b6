import { bodyOf } from '../anatomy/body-of';
import { RADIANS } from '../math/angles';
import { solveFloor } from '../measure/align';
import { weightedJoints } from '../measure/weights';
import type { Body, Side } from '../model/body';
import type { Contacts } from '../model/contacts';
import type { FloorTransform } from '../model/floor-transform';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import type { JoinInto } from './schema';

/** The instants of two pieces that are put over each other: a motion of one frame each, and whether each foot bears then. */
export interface Meeting {
  readonly pose: Motion;
  readonly bears: Readonly<Record<Side, boolean>>;
  /** The level of the floor that it stands on, metres. */
  readonly floorM: number;
}

/** What two pieces were put over each other by. */
export type MetBy = 'left foot' | 'right foot' | 'hips';

/** Whether a foot bears in a frame. */
export function bearsAt(contacts: Contacts, side: Side, frame: number): boolean {
  return contacts[side].some(({ from, to }) => frame >= from && frame < to);
}

/**
 * The turn and shift on the floor that put the coming piece where the leaving one is: turned so that the poses fit best as a whole, and shifted so that a
 * chosen point meets: a foot, the hips, or, left open, whichever foot is planted in both, else the one that is in one of them. The body stays upright, and on
 * the floor.
 */
export function lineUp(leaving: Meeting, coming: Meeting, { line, by, height }: JoinInto): { transform: FloorTransform; by: MetBy } {
  const body = bodyOf(leaving.pose);
  const [a, b] = [forwardKinematics(leaving.pose), forwardKinematics(coming.pose)];
  const turn = turnBetween(a, b, body) + (by?.turnDeg ?? 0) * RADIANS;
  const met = line === 'planted' ? plantedIn(leaving, coming) : line;
  const joint = body ? (met === 'hips' ? body.hips : body.legs[met === 'left foot' ? 'left' : 'right'].ankle) : 0;
  const p = (g: Globals, k: number) => g.positions[joint * 3 + k];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return {
    transform: {
      turn,
      x: p(a, 0) - (c * p(b, 0) + s * p(b, 2)) + (by?.x ?? 0),
      z: p(a, 2) - (c * p(b, 2) - s * p(b, 0)) + (by?.z ?? 0),
      // Each stands on its own floor, wherever a suit believed that to be; by choice the point meets in height as well.
      y: height ? p(a, 1) - p(b, 1) : leaving.floorM - coming.floorM,
    },
    by: met,
  };
}

function plantedIn(leaving: Meeting, coming: Meeting): MetBy {
  const sides = ['left', 'right'] as const;
  const both = sides.find((side) => leaving.bears[side] && coming.bears[side]);
  const one = sides.find((side) => leaving.bears[side] || coming.bears[side]);
  const side = both ?? one;
  return side ? `${side} foot` : 'hips';
}

/** The turn of the best alignment of two poses, by the joints that count when poses are compared. */
function turnBetween(a: Globals, b: Globals, body: Body | null): number {
  const { joints, weights } = body ? weightedJoints(body) : { joints: [0], weights: [1] };
  let [ax, az, bx, bz, cross, dot] = [0, 0, 0, 0, 0, 0];
  joints.forEach((j, k) => {
    const [px, pz, qx, qz] = [a.positions[j * 3], a.positions[j * 3 + 2], b.positions[j * 3], b.positions[j * 3 + 2]];
    const w = weights[k];
    ax += w * px;
    az += w * pz;
    bx += w * qx;
    bz += w * qz;
    dot += w * (px * qx + pz * qz);
    cross += w * (px * qz - pz * qx);
  });
  return solveFloor({ total: 1, ax, az, bx, bz, cross, dot }).turn;
}
