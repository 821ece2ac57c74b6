import { lowPass } from '../math/filter';
import type { Arm, Body } from '../model/body';
import type { Globals } from '../model/kinematics';
import type { Contacts, Interval } from '../model/contacts';
import type { Groundwork } from './groundwork';
import { trackOf } from '../model/track';

/** A resting hand is slower than this, metres a second, and stays at rest up to so many times that. */
const SLOW = 0.1;
const HOLD = 1.5;
/** Shorter rests, and gaps between them, are not believed, seconds: a crouch before a leap is shorter. */
const SHORTEST = 0.4;
/** An arm within this of straight down is hanging, the cosine of 28°. */
const HANGING = 0.88;
/** A hand that rests moves at most this share of what its shoulder does, which moves at least so much, metres. */
const STEADIER = 0.5;
const SHOULDER_MOVES = 0.003;
/** Metres that a hand may wander in a rest. */
const WANDER = 0.03;

/**
 * When a hand rests on something, in climbing or leaning: it keeps its place in the world while the shoulder moves over it, and its arm does
 * not just hang. Someone who stands stock-still with a hand held out cannot be told from this, and is not taken for it.
 *
 * @param fps frames a second
 */
export function handContacts(globals: Globals, body: Body, fps: number): { left: Interval[]; right: Interval[] } {
  return { left: restsOf(globals, body.arms.left, fps), right: restsOf(globals, body.arms.right, fps) };
}

/**
 * The contacts of a motion, those of its hands too.
 *
 * @example
 * withHands(ground).leftHand; // undefined
 */
export function withHands({ contacts, globals, body, motion }: Groundwork): Contacts {
  const { left, right } = handContacts(globals, body, motion.fps);
  return { ...contacts, ...(left.length > 0 && { leftHand: left }), ...(right.length > 0 && { rightHand: right }) };
}

function restsOf(globals: Globals, { shoulder, wrist }: Arm, fps: number): Interval[] {
  if (shoulder < 0 || wrist < 0) return [];
  const n = globals.frames;
  const track = (joint: number) => [0, 1, 2].map((k) => lowPass(trackOf(globals, joint, k), 6, fps));
  const hand = track(wrist);
  const over = track(shoulder);
  const speed = (f: number) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(n - 1, f + 1)];
    return b > a ? (Math.hypot(...hand.map((v) => v[b] - v[a])) * fps) / (b - a) : 0;
  };
  const hangs = (f: number) => {
    const d = hand.map((v, k) => v[f] - over[k][f]);
    return -d[1] > HANGING * Math.hypot(d[0], d[1], d[2]);
  };
  const out: { from: number; to: number }[] = [];
  for (let f = 0; f < n; f++) {
    if (speed(f) > SLOW || hangs(f)) continue;
    const from = f;
    while (f < n && speed(f) < HOLD * SLOW && !hangs(f)) f++;
    const last = out.at(-1);
    if (last && from - last.to < SHORTEST * fps) last.to = f;
    else out.push({ from, to: f });
  }
  return out.filter(({ from, to }) => {
    if (to - from < SHORTEST * fps) return false;
    const moves = spread(over, from, to);
    return moves > SHOULDER_MOVES && spread(hand, from, to) < Math.min(WANDER, STEADIER * moves);
  });
}

/** An arm is straight while the wrist is so far from the shoulder, a share of its length. */
const STRAIGHT = 0.94;

/** Whether an arm hangs in a frame, straight and straight down. */
export function isHanging({ positions, joints }: Globals, { shoulder, elbow, wrist }: Arm, f: number): boolean {
  const between = (a: number, b: number) => [0, 1, 2].map((k) => positions[(f * joints + b) * 3 + k] - positions[(f * joints + a) * 3 + k]);
  const [arm, upper, fore] = [between(shoulder, wrist), between(shoulder, elbow), between(elbow, wrist)];
  const far = Math.hypot(...arm);
  return -arm[1] > HANGING * far && far > STRAIGHT * (Math.hypot(...upper) + Math.hypot(...fore));
}

/** Root mean square distance from the mean place over some frames, metres. */
function spread(track: readonly Float64Array[], from: number, to: number): number {
  let sum = 0;
  for (const values of track) {
    let mean = 0;
    for (let f = from; f < to; f++) mean += values[f] / (to - from);
    for (let f = from; f < to; f++) sum += (values[f] - mean) ** 2;
  }
  return Math.sqrt(sum / (to - from));
}
