import { exp, fromAxisAngle, log, multiply, rotate, type Vec3 } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { nearestOfSegments } from '../math/segments';
import { cross, minus, norm, plus, times, unit, vecAt } from '../math/vec';
import type { Body, Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { copyMotion, cutMotion, type Motion } from '../model/motion';
import type { BodyCapsules, Capsule } from '../character/body-capsules';
import { pointAt } from './touch-limb';
import { series } from '../math/series';

/** What is moved out of what: a limb turned about its first joint. */
interface Mover {
  readonly joint: number;
  readonly of: readonly Capsule[];
  readonly outOf: readonly Capsule[];
  /** How freely it may be moved in a frame: 0 while it bears, 1 some frames away from that. */
  readonly free: (f: number) => number;
}

/** How deep limbs are in the body, metres, frame by frame. */
export interface Depths {
  readonly deepest: number;
  readonly frame: number;
  readonly frames: number;
}

/** Seconds in which a limb comes out of the way, and goes back. */
const EASE = 0.16;
/** Rounds of turning out, in a frame and of all frames. */
const TURNS = 8;
const ROUNDS = 16;
/** Frames after which a foot that bore is free. */
const FREE = 5;
/** Nearer than this nothing is mended, metres. */
const ENOUGH = 0.0015;

/**
 * Turns arms out of trunk and legs, and legs that do not bear out of each other, each about its first joint, as far as it must; it comes in and goes out
 * smoothly, and what touches nothing stays as it is to the bit.
 *
 * @param room metres that they stay apart
 */
export function clearLimbs(motion: Motion, body: Body, capsules: BodyCapsules, contacts: Contacts | null, room: number): Motion {
  const out = copyMotion(motion);
  for (const mover of moversOf(body, capsules, contacts)) {
    const needs = new Float64Array(motion.frames * 3);
    let turns: Float64Array = new Float64Array(motion.frames * 3);
    for (let round = 0; round < ROUNDS; round++) {
      const globals = forwardKinematics(out);
      let hasMore = false;
      for (let f = 0; f < motion.frames; f++) {
        if (mover.free(f) < 1 || depthAt(globals, f, mover, room) <= ENOUGH) continue;
        hasMore = true;
        // What easing took of it is asked for on top.
        const lacks = minus(turnedOut(out, f, mover, room, vecAt(turns, f)), vecAt(turns, f));
        needs.set(plus(vecAt(needs, f), lacks), f * 3);
      }
      if (!hasMore) break;
      turns = eased(needs, Math.max(2, Math.round(EASE * motion.fps)));
      for (let i = 0; i < turns.length; i++) turns[i] *= mover.free(Math.floor(i / 3));
      apply(motion, out, mover.joint, turns);
    }
  }
  return out;
}

/** How deep arms and legs are in the body, without any room between. */
export function depthsOf(motion: Motion, body: Body, capsules: BodyCapsules, contacts: Contacts | null): Depths {
  const globals = forwardKinematics(motion);
  const movers = moversOf(body, capsules, contacts);
  let [deepest, frame, frames] = [0, 0, 0];
  for (let f = 0; f < motion.frames; f++) {
    const depth = Math.max(0, ...movers.map((mover) => (mover.free(f) < 1 ? 0 : depthAt(globals, f, mover, 0))));
    if (depth > ENOUGH) frames++;
    if (depth > deepest) [deepest, frame] = [depth, f];
  }
  return { deepest, frame, frames };
}

function moversOf(body: Body, { trunk, thighs, shins, arms }: BodyCapsules, contacts: Contacts | null): Mover[] {
  const sides = ['left', 'right'] as const;
  const other = (side: Side): Side => (side === 'left' ? 'right' : 'left');
  return [
    ...sides.map((side) => ({
      joint: body.arms[side].shoulder,
      of: arms[side],
      outOf: [...trunk, thighs.left, thighs.right],
      free: () => 1,
    })),
    ...sides.map((side) => ({
      joint: body.legs[side].hip,
      of: [shins[side]],
      outOf: [shins[other(side)]],
      free: freeBetween(contacts?.[side] ?? null),
    })),
  ].filter(({ joint, of }) => joint >= 0 && of.length > 0);
}

/** Without contacts nothing is known of when a leg bears: it is left alone. */
function freeBetween(contacts: readonly Interval[] | null): (f: number) => number {
  return (f) => {
    if (!contacts) return 0;
    const away = Math.min(FREE, ...contacts.map(({ from, to }) => Math.max(0, from - f, f - to + 1)));
    return smoothStep5(away / FREE);
  };
}

interface Hit {
  readonly depth: number;
  /** Where it is on the mover, and which way is out. */
  readonly at: Vec3;
  readonly out: Vec3;
}

function deepestHit(globals: Globals, f: number, { of, outOf }: Mover, room: number): Hit | null {
  let worst: Hit | null = null;
  for (const a of of) {
    const [p, q] = [pointAt(globals, a.from, f), pointAt(globals, a.to, f)];
    for (const b of outOf) {
      const near = nearestOfSegments(p, q, pointAt(globals, b.from, f), pointAt(globals, b.to, f));
      const away = minus(near.a, near.b);
      const depth = a.radius + b.radius + room - norm(away);
      if (depth > (worst?.depth ?? 0)) worst = { depth, at: near.a, out: unit(away) };
    }
  }
  return worst;
}

const depthAt = (globals: Globals, f: number, mover: Mover, room: number): number => deepestHit(globals, f, mover, room)?.depth ?? 0;

/** The turn of the mover's first joint, in the axes of what it hangs from, that brings it out in a frame. */
function turnedOut(motion: Motion, f: number, mover: Mover, room: number, before: Vec3): Vec3 {
  const pose = cutMotion(motion, f, f);
  const { joints } = motion.skeleton;
  const up = joints[mover.joint].parent;
  const total = [0, 0, 0, 1];
  exp(total, 0, before, 0);
  const step = [0, 0, 0, 1];
  const axis = [0, 0, 0];
  for (let i = 0; i < TURNS; i++) {
    const globals = forwardKinematics(pose);
    const hit = deepestHit(globals, 0, mover, room);
    if (!hit || hit.depth <= ENOUGH / 2) break;
    const lever = minus(hit.at, vecAt(globals.positions, mover.joint));
    const about = cross(lever, hit.out);
    if (norm(about) < 1e-6) break;
    // In the axes of the joint above, before the joint's own rotation.
    const [x, y, z, w] = globals.rotations.subarray(up * 4, up * 4 + 4);
    rotate(axis, 0, [-x, -y, -z, w], 0, unit(about), 0);
    const turn = fromAxisAngle([axis[0], axis[1], axis[2]], Math.min(0.35, (1.02 * hit.depth) / Math.max(0.05, norm(about))));
    for (let k = 0; k < 4; k++) step[k] = turn[k];
    multiply(pose.rotations, mover.joint * 4, step, 0, pose.rotations, mover.joint * 4);
    multiply(total, 0, step, 0, total, 0);
  }
  const out: [number, number, number] = [0, 0, 0];
  log(out, 0, total, 0);
  return out;
}

/** Turns that come in and go out smoothly and are nowhere less than they have to be: the largest about each frame, then averaged. */
function eased(needs: Float64Array, width: number): Float64Array {
  const frames = needs.length / 3;
  const size = series(frames, (f) => norm(vecAt(needs, f)));
  const widest = new Float64Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    let best = -1;
    for (let g = Math.max(0, f - width); g <= Math.min(frames - 1, f + width); g++)
      if (size[g] > 0 && (best < 0 || size[g] > size[best])) best = g;
    if (best < 0) continue;
    // In the direction of the nearest that needs it.
    let near = best;
    for (let d = 0; d <= width; d++) {
      const g = [f - d, f + d].find((own) => own >= 0 && own < frames && size[own] > 0);
      if (g !== undefined) {
        near = g;
        break;
      }
    }
    widest.set(times(unit(vecAt(needs, near)), size[best]), f * 3);
  }
  const out = new Float64Array(frames * 3);
  // A window whose edges are soft, no wider than what was widened.
  const window = series(2 * width + 1, (i) => 1 + Math.cos((Math.PI * (i - width)) / (width + 1)));
  const sum = window.reduce((all, w) => all + w, 0);
  for (let f = 0; f < frames; f++)
    for (let i = 0; i < window.length; i++) {
      const g = Math.min(frames - 1, Math.max(0, f + i - width));
      for (let k = 0; k < 3; k++) out[f * 3 + k] += (window[i] / sum) * widest[g * 3 + k];
    }
  return out;
}

/** In place: a joint of the motion turned, from what it was. */
function apply(motion: Motion, out: Motion, joint: number, turns: Float64Array): void {
  const J = motion.skeleton.joints.length;
  const turn = [0, 0, 0, 1];
  for (let f = 0; f < motion.frames; f++) {
    const at = (f * J + joint) * 4;
    if (turns[f * 3] === 0 && turns[f * 3 + 1] === 0 && turns[f * 3 + 2] === 0) continue;
    exp(turn, 0, turns, f * 3);
    multiply(out.rotations, at, turn, 0, motion.rotations, at);
  }
}
