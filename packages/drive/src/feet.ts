import {
  BEARS,
  decay,
  FAR,
  footOf,
  HOLDS,
  LEVEL,
  NEED,
  NEEDED,
  OFFSET,
  RELEASE,
  SINCE,
  STEPS,
  toRoot,
  turnedSince,
  UNDER,
  type Foot,
} from './foot';
import { reachWithLeg } from './leg';
import { followChain, FOOT, kneeAxes, legChain } from './legs';
import type { Memory } from './memory';
import { heading, multiply, rotate, type Numbers } from './quat';
import { SIDES, type PlayClip, type PlaySkeleton } from './play-set';

/** A leg is straightened easily to this share of its length. */
const EASY = 0.986;
/** Hips come down by no more than this, metres, and take about this long to, seconds. */
const LOWEST = 0.05;
const LOWERING = 0.2;

/** Where a leg would have to be so much longer than it may be stretched, its foot takes a step of its own instead of sliding, metres. */
const TOO_FAR = 0.006;
/** The same is looked for this far ahead, seconds. */
const AHEAD = 0.02;
/** A foot that stands farther than this from where the pose of somebody who stands has it takes a step of its own, metres; slower than this he stands, m/s. */
const ASIDE = 0.08;
const STANDS = 0.08;
/** In a step of its own a foot rises by this share of its way, and by so much at the most, metres. */
const RISE = 0.3;
const HIGHEST = 0.05;

/** In the middle of a step of its own a leg is shorter than its length by this share at the least. */
const BENDS = 0.035;

/** A foot comes to the height of the ground under it in about this many seconds: quicker up, so that it clears an edge, than down. */
const UP = 0.05;
const DOWN = 0.09;
/** The body comes after the feet in about this many seconds; of the way from the lower foot to the higher it takes this share. */
const BODY_RISES = 0.14;
const TO_HIGHER = 0.25;

/** Feet that stay where they came down, whatever moves the body. */
export interface Feet {
  /** Height of the ground under the left, and the right foot, metres: told by the game. */
  readonly ground: Float64Array;
  /**
   * In place: a pose with its feet held, joint 0 on the root; those that bear stay, those that have been let go come back to the pose smoothly.
   *
   * @param posed the left and the right foot as the pose wants them, in the root's axes (see `FOOT`)
   * @param down in place: whether the left, and the right foot bear; a foot that takes a step of its own does not
   * @param seconds since the last call
   */
  hold(rotations: Float32Array, hips: Numbers, root: ArrayLike<number>, posed: ArrayLike<number>, down: Numbers, seconds: number): void;
  /** Forgets where the feet are. */
  reset(): void;
}

/** @param like a clip of the skeleton, that the knees are read off */
export function heldFeet(skeleton: PlaySkeleton, like: PlayClip, memory: Memory, mayStep: boolean): Feet {
  const chain = legChain(skeleton);
  const axes = kneeAxes(skeleton, like);
  const feet = SIDES.map((side): Foot => footOf(skeleton.legs[side], skeleton.soles[side], memory));
  const rootTurn = new Float64Array(4);
  const turn = new Float64Array(4);
  const foot = new Float64Array(4);
  const back = new Float64Array(4);
  const v = new Float64Array(3);
  const { place, world } = chain;
  const dropped = memory.take(1);
  const ground = new Float64Array(2);
  // How high the body is over the floor of its clips.
  const raised = memory.take(1);
  const wanted = new Float64Array(3);
  // Where the root was a step ago.
  const went = memory.take(2);

  /** Places of the sole as posed, and which of them is lowest. */
  const readSole = ({ sole, points, ankle, leg, by }: Foot): number => {
    const a = leg.ankle * 3;
    let low = 0;
    for (let i = 0; i < sole.length; i++) {
      const { joint, x, y, z } = sole[i];
      const o = i * 3;
      rotate(points, o, world, joint * 4, x, y, z);
      for (let k = 0; k < 3; k++) points[o + k] += place[joint * 3 + k] - place[a + k];
      rotate(points, o, by, 0, points[o], points[o + 1], points[o + 2]);
      for (let k = 0; k < 3; k++) points[o + k] += ankle[k];
      if (points[o + 1] < points[low * 3 + 1]) low = i;
    }
    return low;
  };
  /** In place: where a point of the sole is with the foot's offset. */
  const held = (own: Foot, i: number): void => {
    heading(turn, 0, own.offset[3]);
    rotate(v, 0, turn, 0, own.points[i * 3] - own.ankle[0], 0, own.points[i * 3 + 2] - own.ankle[2]);
    own.anchor[0] = own.ankle[0] + own.offset[0] + v[0];
    own.anchor[1] = own.ankle[2] + own.offset[2] + v[2];
  };

  /** How much longer than it may be stretched the leg would have to be to reach where the foot is held, metres. */
  const tooFar = ({ leg: { hip, knee, ankle }, ankle: wanted, offset }: Foot): number => {
    const h = hip * 3;
    const most = Math.max(EASY * (between(place, hip, knee) + between(place, knee, ankle)), between(place, hip, ankle));
    const x = wanted[0] + offset[0] - place[h],
      y = wanted[1] + offset[1] - place[h + 1],
      z = wanted[2] + offset[2] - place[h + 2];
    return Math.sqrt(x * x + y * y + z * z) - most;
  };

  /** How much lower the hips would have to be for the leg to reach where the foot is held without being straightened more than it was, metres. */
  const lack = ({ leg: { hip, knee, ankle }, ankle: wanted, offset }: Foot): number => {
    const h = hip * 3;
    const length = between(place, hip, knee) + between(place, knee, ankle);
    const most = Math.max(EASY * length, between(place, hip, ankle));
    const x = wanted[0] + offset[0] - place[h],
      z = wanted[2] + offset[2] - place[h + 2];
    const y = place[h + 1] + dropped[0] - wanted[1] - offset[1];
    return Math.max(0, y - Math.sqrt(Math.max(0, most * most - x * x - z * z)));
  };

  /** @returns whether it bears */
  const follow = (own: Foot, wants: boolean, facing: number, speed: number, seconds: number): boolean => {
    const low = readSole(own);
    own.before.set(own.offset);
    const { offset } = own;
    // A step of its own is made to its end.
    if (own.now[STEPS] > 0 && own.now[SINCE] >= RELEASE - 1e-9) own.now[STEPS] = 0;
    const bears = wants && own.now[STEPS] === 0;
    if (bears) {
      if (own.now[HOLDS] === 0) {
        // It has come down: from here on it stays.
        decay(own, facing, seconds);
        own.now[HOLDS] = 1;
        own.now[NEED] = 0;
        toRoot(own.landed, offset, facing);
        own.now[BEARS] = low;
        held(own, low);
        own.now[FAR] = tooFar(own);
      } else {
        offset[3] -= turnedSince(own);
        const at = own.now[BEARS] * 3;
        heading(turn, 0, offset[3]);
        rotate(v, 0, turn, 0, own.points[at] - own.ankle[0], 0, own.points[at + 2] - own.ankle[2]);
        offset[0] = own.anchor[0] - v[0] - own.ankle[0];
        offset[2] = own.anchor[1] - v[2] - own.ankle[2];
        // The change from one point of the sole to the next moves nothing.
        if (own.now[BEARS] !== low) {
          own.now[BEARS] = low;
          held(own, low);
        }
        const away = Math.sqrt(offset[0] ** 2 + offset[2] ** 2);
        const isOther = feet[0].now[STEPS] > 0 || feet[1].now[STEPS] > 0;
        const far = tooFar(own);
        // Stretched so quickly that it would snap straight within a few frames, it is let go before that.
        const soon = seconds > 0 ? far + ((far - own.now[FAR]) / seconds) * AHEAD : far;
        own.now[FAR] = far;
        if (mayStep && seconds > 0 && (Math.max(far, soon) > TOO_FAR || (away > ASIDE && speed < STANDS && !isOther))) {
          own.now[HOLDS] = 0;
          own.now[STEPS] = Math.min(HIGHEST, RISE * away);
          own.now[SINCE] = 0;
          own.now[NEEDED] = Math.max(own.now[NEED], lack(own));
          own.left.set(own.before);
          own.goal.fill(0);
          decay(own, facing, seconds);
        }
      }
    } else if (own.now[HOLDS] > 0) {
      own.now[HOLDS] = 0;
      own.now[SINCE] = 0;
      own.left.set(offset);
      own.now[NEEDED] = own.now[NEED];
      // As much as it went from the pose, it will go again: next time it lands half of that to the other side.
      toRoot(own.goal, offset, facing);
      for (let k = 0; k < OFFSET; k++) own.goal[k] = (own.landed[k] - own.goal[k]) / 2;
      decay(own, facing, seconds);
    } else decay(own, facing, seconds);
    const t = own.now[SINCE] / RELEASE;
    offset[1] = own.now[LEVEL] + Math.max(0, -own.points[low * 3 + 1]) + own.now[STEPS] * 64 * (t * (1 - t)) ** 3;
    for (let k = 0; k < 4; k++) own.last[k] = own.turned[k];
    if (seconds > 0 && own.now[HOLDS] > 0) {
      for (let k = 0; k < OFFSET; k++) own.slope[k] = (offset[k] - own.before[k]) / seconds;
    }
    return own.now[HOLDS] > 0;
  };

  /** In place: where a foot that takes a step of its own is wanted, no farther than a bent leg reaches: its knee bends from the beginning on. */
  const bend = ({ leg: { hip, knee, ankle }, now }: Foot): void => {
    const t = now[SINCE] / RELEASE;
    const most = (between(place, hip, knee) + between(place, knee, ankle)) * (1 - BENDS * (16 * t * t * (1 - t) * (1 - t)) ** 2);
    const h = hip * 3;
    const far = Math.sqrt((wanted[0] - place[h]) ** 2 + (wanted[1] - place[h + 1]) ** 2 + (wanted[2] - place[h + 2]) ** 2);
    if (far > most) for (let k = 0; k < 3; k++) wanted[k] = place[h + k] + ((wanted[k] - place[h + k]) * most) / far;
  };
  /** The ground under the feet: one that stands stays on what it came down on. */
  const climb = (seconds: number): void => {
    for (let s = 0; s < 2; s++) {
      const { now } = feet[s];
      if (now[HOLDS] === 0) now[UNDER] = ground[s];
      const off = now[UNDER] - now[LEVEL];
      now[LEVEL] += off * (1 - Math.exp(-seconds / (off > 0 ? UP : DOWN)));
    }
    const low = Math.min(feet[0].now[LEVEL], feet[1].now[LEVEL]),
      high = Math.max(feet[0].now[LEVEL], feet[1].now[LEVEL]);
    raised[0] += (low + TO_HIGHER * (high - low) - raised[0]) * (1 - Math.exp(-seconds / BODY_RISES));
  };
  return {
    ground,
    hold(rotations, hips, root, posed, down, seconds) {
      climb(seconds);
      heading(rootTurn, 0, root[2]);
      // As low as either leg needed it in its last stance.
      const low = Math.min(LOWEST, Math.max(feet[0].now[NEEDED], feet[1].now[NEEDED]));
      dropped[0] += (low - dropped[0]) * (1 - Math.exp(-seconds / LOWERING));
      hips[1] += raised[0] - dropped[0];
      for (let s = 0; s < 2; s++) {
        const { toe } = feet[s].leg;
        for (let k = 0; toe >= 0 && k < 4; k++) rotations[toe * 4 + k] = posed[s * FOOT + 7 + k];
      }
      followChain(chain, skeleton, rotations, hips, root, rootTurn);
      for (let s = 0; s < 2; s++) {
        const { ankle, turned, by, leg } = feet[s];
        const o = s * FOOT;
        rotate(ankle, 0, rootTurn, 0, posed[o], posed[o + 1], posed[o + 2]);
        ankle[0] += root[0];
        ankle[2] += root[1];
        multiply(turned, 0, rootTurn, 0, posed, o + 3);
        // What turns the foot of the chain as the pose wants it: turned · world⁻¹.
        for (let k = 0; k < 3; k++) back[k] = -world[leg.ankle * 4 + k];
        back[3] = world[leg.ankle * 4 + 3];
        multiply(by, 0, turned, 0, back, 0);
      }
      const dx = root[0] - went[0],
        dz = root[1] - went[1];
      const speed = seconds > 0 ? Math.sqrt(dx * dx + dz * dz) / seconds : Infinity;
      went[0] = root[0];
      went[1] = root[1];
      for (let s = 0; s < 2; s++) down[s] = follow(feet[s], down[s] > 0, root[2], speed, seconds) ? 1 : 0;
      for (let s = 0; s < 2; s++) {
        const { leg, offset, ankle, turned } = feet[s];
        if (feet[s].now[HOLDS] > 0) feet[s].now[NEED] = Math.max(feet[s].now[NEED], lack(feet[s]));
        heading(turn, 0, offset[3]);
        multiply(foot, 0, turn, 0, turned, 0);
        for (let k = 0; k < 3; k++) wanted[k] = ankle[k] + offset[k];
        if (feet[s].now[STEPS] > 0) bend(feet[s]);
        const bears = feet[s].now[HOLDS] > 0;
        reachWithLeg(
          rotations,
          place,
          world,
          skeleton.parents,
          leg,
          wanted[0],
          wanted[1],
          wanted[2],
          foot,
          axes[SIDES[s]],
          feet[s].knee,
          bears,
          seconds,
        );
      }
    },
    reset() {
      for (const own of feet) {
        own.offset.fill(0);
        own.left.fill(0);
        own.slope.fill(0);
        own.goal.fill(0);
        own.knee.fill(0);
        own.now[HOLDS] = 0;
        own.now[SINCE] = RELEASE;
        own.now[NEED] = own.now[NEEDED] = own.now[STEPS] = 0;
        own.now[LEVEL] = own.now[UNDER] = ground[feet.indexOf(own)];
      }
      dropped[0] = 0;
      raised[0] = Math.min(ground[0], ground[1]);
    },
  };
}

const between = (place: Float64Array, a: number, b: number): number =>
  Math.sqrt((place[a * 3] - place[b * 3]) ** 2 + (place[a * 3 + 1] - place[b * 3 + 1]) ** 2 + (place[a * 3 + 2] - place[b * 3 + 2]) ** 2);
