import { wrapAngle } from '../math/angles';
import type { Contacts } from '../model/contacts';
import { headings } from '../measure/heading';
import { bodyOf } from '../anatomy/body-of';
import type { Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { alignSigns, copyMotion, cutMotion, type Motion } from '../model/motion';
import { mirrorMotion } from '../anatomy/mirror-motion';

/**
 * A clip's other side: the motion across the sagittal plane of its first frame (of the root, once there is one), so that it begins where it
 * began and faces where it faced; travel, contacts and what lies beyond the cut follow. Twice is the clip itself.
 */
export function mirrorClip(clip: Clip): Clip {
  const { travel } = clip;
  // Once there is a root its own plane counts, in whose space the body is.
  const plane = travel ? { turn: travel.heading[0], x: travel.x[0], z: travel.z[0] } : sagittal(clip.motion);
  const bodyPlane = travel ? { turn: 0, x: 0, z: 0 } : plane;
  const across = (motion: Motion): Motion => {
    const moved = copyMotion(motion);
    moveFrames(moved, invert(bodyPlane));
    const out = mirrorMotion(moved);
    moveFrames(out, bodyPlane);
    alignSigns(out);
    return out;
  };
  return {
    ...clip,
    motion: across(clip.motion),
    lead: clip.lead && across(clip.lead),
    tail: clip.tail && across(clip.tail),
    travel: clip.travel && mirrorTravel(clip.travel, plane),
    way: clip.way && mirrorTravel(clip.way, plane),
    belt: clip.belt && mirrorShift(clip.belt, plane.turn),
    contacts: clip.contacts && swapContacts(clip.contacts),
  };
}

/** The place and facing of the first frame. */
function sagittal(motion: Motion): FloorTransform {
  const first = cutMotion(motion, 0, 0);
  const body = bodyOf(motion);
  const turn = body ? wrapAngle(headings(forwardKinematics(first), body)[0]) : 0;
  return { turn, x: motion.rootPositions[0], z: motion.rootPositions[2] };
}

/** A way across a plane. */
function mirrorTravel(way: Travel, plane: FloorTransform): Travel {
  const [c, s] = [Math.cos(plane.turn), Math.sin(plane.turn)];
  const n = way.x.length;
  const out = { x: new Float64Array(n), y: way.y.slice(), z: new Float64Array(n), heading: new Float64Array(n) };
  for (let f = 0; f < n; f++) {
    const [dx, dz] = [way.x[f] - plane.x, way.z[f] - plane.z];
    const [left, ahead] = [dx * c - dz * s, dx * s + dz * c];
    out.x[f] = plane.x - left * c + ahead * s;
    out.z[f] = plane.z + left * s + ahead * c;
    out.heading[f] = 2 * plane.turn - way.heading[f];
  }
  return out;
}

/** A shift, frame by frame, across a plane that faces somewhere. */
function mirrorShift({ x, z }: Pick<Travel, 'x' | 'z'>, turn: number): Pick<Travel, 'x' | 'z'> {
  const [c, s] = [Math.cos(2 * turn), Math.sin(2 * turn)];
  return { x: x.map((v, f) => -v * c + z[f] * s), z: z.map((v, f) => v * c + x[f] * s) };
}

/** What the left foot and hand did is what the right ones do. */
export function swapContacts({ left, right, leftHand, rightHand, ...rest }: Contacts): Contacts {
  return { ...rest, left: right, right: left, ...(rightHand && { leftHand: rightHand }), ...(leftHand && { rightHand: leftHand }) };
}
