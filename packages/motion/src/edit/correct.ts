import { bodyOf } from '../anatomy/body-of';
import { pathTo } from '../anatomy/body-look';
import { reachWithLeg, kneeAxis } from '../anatomy/leg-ik';
import { mirrorMap } from '../anatomy/mirror-map';
import { fromHeading, multiply, multiplyInverse, rotate, type Vec3 } from '../math/quat';
import { vecAt } from '../math/vec';
import { groundwork } from '../measure/groundwork';
import { wayOf } from '../measure/way';
import type { Body } from '../model/body';
import type { FixedPoint } from '../model/fixed-point';
import type { FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, cutMotion, type Motion } from '../model/motion';
import { jointTurns } from './joint-turns';
import { layerCourse, PER_KEY, type LayerCourse } from './layer-course';
import type { Layer, Touch } from './layers';
import { soundTouches } from './layer-troubles';
import { touchGoals, touchRamp } from './touch-goals';
import { pointAt, touchingLimb, touchLimb, type TouchingLimb } from './touch-limb';

/** A clip as it is played, in the world, on which layers are laid. */
export interface Corrected {
  readonly motion: Motion;
  /** The frame of it at which the clip begins. */
  readonly start: number;
  /** Frames of the loop; null when the clip is none. */
  readonly cycle: number | null;
  /** Where a number of turns of the loop leads. */
  readonly round: (turns: number) => FloorTransform;
}

/**
 * Layers that are done: those that are not muted, or those that are alone.
 *
 * @example
 * layersDone([{ name: 'a', muted: true }, { name: 'b' }].map((own) => layerSchema.parse({ ...own, keys: [{ frame: 0, joint: 'Head' }] }))).length; // 1
 */
export function layersDone<Of extends Pick<Layer, 'muted' | 'alone' | 'weight' | 'keys' | 'touches'>>(layers: readonly Of[]): Of[] {
  const heard = layers.filter(({ muted }) => !muted);
  const alone = heard.filter((layer) => layer.alone);
  return (alone.length > 0 ? alone : heard).filter(
    ({ weight, keys, touches }) =>
      (typeof weight === 'number' ? weight > 0 : weight.some(({ value }) => value > 0)) && keys.length + touches.length > 0,
  );
}

/**
 * Lays correction layers over a motion, one after the other, each over what those before it left: first what carries the legs, with the feet where they
 * were if they are to stay, then the other keys, then the touches. Outside of all fades nothing is changed.
 *
 * Idea: displacement layers of Witkin and Popović, *Motion Warping*, 1995, and Bruderlin and Williams, *Motion Signal Processing*, 1995.
 */
export function correct(shown: Corrected, layers: readonly Layer[]): Motion {
  const motion = copyMotion(shown.motion);
  const on: Corrected = { ...shown, motion };
  for (const layer of layersDone(layers)) {
    const course = layerCourse(layer, shown.cycle);
    if (layer.keys.length > 0) layKeys(on, layer, course);
    for (const touch of soundTouches(layer, motion)) layTouch(on, touch, course);
  }
  return motion;
}

/** A stretch of frames in which something is done. */
type Stretch = readonly [from: number, to: number];

function stretchesOf(frames: number, isOn: (f: number) => boolean): Stretch[] {
  const out: Stretch[] = [];
  for (let f = 0; f < frames; f++) {
    if (!isOn(f)) continue;
    const from = f;
    while (f < frames && isOn(f)) f++;
    out.push([from, f]);
  }
  return out;
}

/** In place: frames of a motion worked on as a motion of their own. */
function onStretch(motion: Motion, [from, to]: Stretch, work: (own: Motion) => void): void {
  const own = cutMotion(motion, from, to - 1);
  work(own);
  motion.rotations.set(own.rotations, from * motion.skeleton.joints.length * 4);
  motion.rootPositions.set(own.rootPositions, from * 3);
}

function layKeys({ motion, start }: Corrected, layer: Layer, course: LayerCourse): void {
  const { joints } = motion.skeleton;
  const names = new Map(joints.map(({ name }, j) => [name, j]));
  const keyed = course.joints.flatMap((name) => {
    const joint = names.get(name);
    return joint === undefined ? [] : [{ name, joint }];
  });
  const body = layer.feet ? bodyOf(motion) : null;
  const carriers = new Set(
    body ? [body.legs.left.hip, body.legs.right.hip].flatMap((hip) => pathTo(motion.skeleton, hip).slice(0, -1)) : [],
  );
  const carrying = keyed.filter(({ joint }) => carriers.has(joint));
  const shift = shiftOf(motion, keyed, course, -start);
  if (body && carrying.length > 0) {
    for (const [from, to] of stretchesOf(motion.frames, (f) => course.ramp(f - start) > 0)) {
      onStretch(motion, [from, to], (own) => {
        const before = forwardKinematics(own);
        shift?.(own, from);
        turnJoints(own, carrying, course, from - start);
        keepFeet(own, before, body);
      });
    }
  } else shift?.(motion, 0);
  const others = body ? keyed.filter(({ joint }) => !carriers.has(joint)) : keyed;
  turnJoints(motion, others, course, -start);
}

type Keyed = readonly { readonly name: string; readonly joint: number }[];

/** @param first the frame of the clip at the motion's first */
function turnJoints(motion: Motion, keyed: Keyed, course: LayerCourse, first: number): void {
  const J = motion.skeleton.joints.length;
  const turns = jointTurns(motion.skeleton);
  const asked = new Array<number>(PER_KEY).fill(0);
  const turn = [0, 0, 0, 1];
  for (const { name, joint } of keyed) {
    for (let f = 0; f < motion.frames; f++) {
      course.at(name, f + first, asked);
      if (asked[0] === 0 && asked[1] === 0 && asked[2] === 0) continue;
      turns.toLocal(turn, 0, joint, asked);
      multiply(motion.rotations, (f * J + joint) * 4, motion.rotations, (f * J + joint) * 4, turn, 0);
    }
  }
}

/** What shifts the first joint along its way, in place, in a piece of the motion; null where nothing does. */
function shiftOf(motion: Motion, keyed: Keyed, course: LayerCourse, first: number): ((own: Motion, from: number) => void) | null {
  const root = keyed.find(({ joint }) => joint === 0);
  if (!root) return null;
  const asked = new Array<number>(PER_KEY).fill(0);
  const shifts = new Float64Array(motion.frames * 3);
  for (let f = 0; f < motion.frames; f++) {
    course.at(root.name, f + first, asked);
    for (let k = 0; k < 3; k++) shifts[f * 3 + k] = asked[3 + k];
  }
  if (shifts.every((value) => value === 0)) return null;
  const { heading } = wayOf(copyMotion(motion), false, { of: 'hips', smooth: 'stride' });
  for (let f = 0; f < motion.frames; f++) rotate(shifts, f * 3, fromHeading(heading[f]), 0, shifts, f * 3);
  return (own, from) => {
    for (let i = 0; i < own.frames * 3; i++) own.rootPositions[i] += shifts[from * 3 + i];
  };
}

/** In place: feet go back to where they were, turned as they were. */
function keepFeet(motion: Motion, before: ReturnType<typeof forwardKinematics>, body: Body): void {
  const { joints } = motion.skeleton;
  const moved = forwardKinematics(motion);
  for (const side of ['left', 'right'] as const) {
    const leg = body.legs[side];
    // The leg as it was turned in the world: then bent and swung to where its foot stays.
    for (let f = 0; f < motion.frames; f++) {
      const base = f * joints.length;
      multiplyInverse(
        motion.rotations,
        (base + leg.hip) * 4,
        moved.rotations,
        (base + joints[leg.hip].parent) * 4,
        before.rotations,
        (base + leg.hip) * 4,
      );
    }
    const now = forwardKinematics(motion);
    const bend = kneeAxis(now, leg);
    for (let f = 0; f < motion.frames; f++) reachWithLeg(motion, now, f, leg, vecAt(before.positions, f * before.joints + leg.ankle), bend);
  }
}

function layTouch(on: Corrected, touch: Touch, course: LayerCourse): void {
  const { motion, start, cycle } = on;
  const found =
    touch.limb.endsWith('foot') || touch.target.to === 'floor' || touch.target.to === 'prop' ? groundwork(copyMotion(motion)) : null;
  const body = bodyOf(motion);
  const limb = body && touchingLimb(motion.skeleton, body, touch.limb, found ? ballsOf(found.soles.points) : null);
  if (!body || !limb) return;
  // Of a loop the same touch also comes in the turns before and after.
  const turns = cycle === null ? [0] : turnsIn(on, touch, cycle);
  for (const turn of turns) {
    const shift = turn * (cycle ?? 0);
    const at = (f: number) => f - start - shift;
    const weightAt = (f: number) => touchRamp(touch, at(f)) * touch.weight * course.weight(at(f));
    for (const stretch of stretchesOf(motion.frames, (f) => weightAt(f) > 0)) {
      const first = at(stretch[0]);
      onStretch(motion, stretch, (own) => {
        const globals = forwardKinematics(own);
        const points = Array.from({ length: own.frames }, (_, f) => pointAt(globals, limb.point, f));
        const goals = touchGoals(touch, {
          globals,
          points,
          first,
          floorM: found?.contacts.floorM ?? 0,
          round: on.round(turn),
          joint: touchedJoint(own, touch, limb),
        });
        const weights = points.map((_, f) => weightAt(stretch[0] + f));
        touchLimb(own, body, limb, goals, weights, touch);
      });
    }
  }
}

/** The turns of a loop, before and after the clip's own, in which a touch reaches into what is played. */
function turnsIn({ motion, start }: Corrected, { from, to, fadeIn, fadeOut }: Touch, cycle: number): number[] {
  const low = Math.ceil((-start - to - fadeOut) / cycle);
  const high = Math.floor((motion.frames - 1 - start - from + fadeIn) / cycle);
  return Array.from({ length: Math.max(0, high - low + 1) }, (_, i) => low + i);
}

const ballsOf = (points: NonNullable<ReturnType<typeof groundwork>>['soles']['points']): Record<'left' | 'right', FixedPoint> | null =>
  points ? { left: points.left.ball, right: points.right.ball } : null;

function touchedJoint({ skeleton }: Motion, { target }: Touch, limb: TouchingLimb): { index: number; local: Vec3 } | null {
  if (target.to !== 'joint') return null;
  const index = skeleton.joints.findIndex(({ name }) => name === target.joint);
  if (index < 0 || index === limb.point.joint) return null;
  // From the rest pose's axes into the joint's own.
  const { reference } = mirrorMap(skeleton);
  const [x, y, z, w] = reference.subarray(index * 4, index * 4 + 4);
  const local: [number, number, number] = [0, 0, 0];
  rotate(local, 0, [-x, -y, -z, w], 0, target.at, 0);
  return { index, local };
}
