import { multiply } from '../math/quat';
import { wrapAngle } from '../math/angles';
import type { Contacts } from '../measure/contacts';
import { headings } from '../measure/heading';
import { InputError } from '../error';
import type { Body } from '../anatomy/body';
import { bodyOf } from '../anatomy/body-of';
import type { Clip, Travel } from '../model/clip';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { mirrorMap, reflect, type MirrorPair } from '../anatomy/mirror-map';
import { alignSigns, copyMotion, cutMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';

/**
 * A motion seen in the mirror x = 0, on the same skeleton. Joints without a partner are mirrored where they are.
 *
 * @throws InputError `mirror` when a limb of one side is not the partner of the other side's
 */
export function mirrorMotion(motion: Motion): Motion {
  const { skeleton, frames } = motion;
  const body = bodyOf(motion);
  const { pairs, before, after } = mirrorMap(skeleton);
  if (body) checkLimbs(skeleton, body, pairs);
  const J = skeleton.joints.length;
  const out = copyMotion(motion);
  const q = [0, 0, 0, 1];
  for (let f = 0; f < frames; f++) {
    out.rootPositions[f * 3] = -motion.rootPositions[f * 3];
    for (let j = 0; j < J; j++) {
      reflect(q, 0, motion.rotations, (f * J + pairs[j].partner) * 4);
      multiply(q, 0, before, j * 4, q, 0);
      multiply(out.rotations, (f * J + j) * 4, q, 0, after, j * 4);
    }
  }
  if (!motion.translations) return out;
  const translations = new Map<number, Float32Array>();
  for (const [j, t] of motion.translations) {
    const { partner } = pairs[j];
    const source = motion.translations.get(partner) ?? t;
    translations.set(j, mirrorPlaces(source, before, j));
  }
  return { ...out, translations };
}

/** Limbs that are not each other's partners would change sides in part. */
function checkLimbs({ joints }: Skeleton, { legs, arms }: Body, pairs: readonly MirrorPair[]): void {
  const check = (left: number, right: number, what: string) => {
    if (left < 0 || right < 0 || pairs[left].partner === right) return;
    throw new InputError(
      'mirror',
      `The ${what} cannot be mirrored: “${joints[left].name}” and “${joints[right].name}” hang on joints that are not each other’s partners.`,
      { joint: joints[left].name },
    );
  };
  for (const part of ['hip', 'knee', 'ankle'] as const) check(legs.left[part], legs.right[part], 'legs');
  for (const part of ['shoulder', 'elbow', 'wrist'] as const) check(arms.left[part], arms.right[part], 'arms');
}

/** Local places reflected and carried into the other parent's axes. */
function mirrorPlaces(source: Float32Array, turn: Float64Array, j: number): Float32Array {
  const out = new Float32Array(source.length);
  const [x, y, z, w] = [0, 1, 2, 3].map((k) => turn[j * 4 + k]);
  for (let i = 0; i < source.length; i += 3) {
    const v = [-source[i], source[i + 1], source[i + 2]];
    const t = [2 * (y * v[2] - z * v[1]), 2 * (z * v[0] - x * v[2]), 2 * (x * v[1] - y * v[0])];
    out[i] = v[0] + w * t[0] + y * t[2] - z * t[1];
    out[i + 1] = v[1] + w * t[1] + z * t[0] - x * t[2];
    out[i + 2] = v[2] + w * t[2] + x * t[1] - y * t[0];
  }
  return out;
}

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
