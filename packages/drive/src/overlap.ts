import { FOOT } from './legs';
import type { Memory } from './memory';
import { expInto, logInto, multiply, multiplyInverseRight, normalize } from './quat';

/** A pose as sources give it: rotations of all joints, the hips, and the feet as `FOOT` has them. */
export interface Pose {
  readonly rotations: Float32Array;
  readonly hips: Float64Array;
  readonly posed: Float64Array;
}

export const poseFor = (joints: number): Pose => ({
  rotations: new Float32Array(joints * 4),
  hips: new Float64Array(3),
  posed: new Float64Array(2 * FOOT),
});

/**
 * The way over from one motion to the next: the difference of pose and velocity at its beginning is carried out of the new motion by a quintic that
 * ends with no difference, no velocity and no acceleration.
 */
export interface Overlap {
  /** Remembers what is shown, once for each step; what was shown a step ago is remembered too. */
  show(pose: Pose, gone: ArrayLike<number>, seconds: number): void;
  /** What was shown, and a step before: rotations, hips and feet one after the other. */
  readonly shown: Float64Array;
  readonly before: Float64Array;
  /** Forgets both. */
  forget(): void;
  /**
   * Begins.
   *
   * @param first what the new motion gives at its entry
   * @param next the same, `seconds` later
   * @param gone how its root goes in between
   * @param bears which feet bear in what is shown, and `wanted` in the new motion at its entry
   */
  begin(
    first: Pose,
    next: Pose,
    gone: ArrayLike<number>,
    seconds: number,
    duration: number,
    bears: ArrayLike<number>,
    wanted: ArrayLike<number>,
  ): void;
  /** Goes on; what is left of the velocity of the root is added to `gone`. */
  advance(seconds: number, gone: Float64Array): void;
  /** In place: adds what is left. A foot that bore goes on to; one that is still in the air, or moves, does not bear yet. */
  apply(pose: Pose, down: Float64Array): void;
  /** In place: the pose mixed with that of the motion that is left, where both are played on. */
  mix(pose: Pose, old: Pose, down: Float64Array, oldDown: ArrayLike<number>): void;
  /** How much of what is left still counts, 1 to 0; it goes on by `advance` alike. */
  share(): number;
  /** Whether it is still going on. */
  isOn(): boolean;
  /** Seconds since it began. */
  elapsed(): number;
}

/** A foot that an overlap holds higher than this over where the pose has it, or still moves quicker, does not bear yet: metres, and metres a second. */
const OFF_GROUND = 0.02;
const MOVES = 0.25;
/** A foot that was in the air when an overlap began goes to where the new motion has it in a step: as high as this share of its way, and so much at the most. */
const RISE = 0.3;
const HIGHEST = 0.06;
/** A difference leaves no steeper than so many times the mean of its way. */
const STEEPEST = 10;
/** However small a difference is, its velocity may carry it about a sixth of this out: metres, and radians. */
const CARRIED_PLACE = 0.9;
const CARRIED_TURN = 5;

/**
 * @param joints of the skeleton
 */
export function overlapOf(joints: number, memory: Memory): Overlap {
  // Joints, then the left foot and toe, and the right ones.
  const turns = joints + 4;
  const numbers = joints * 4 + 3 + 2 * FOOT;
  // What was shown, a step ago and now, and how the root went, a second; whether there are two, one, or none.
  const [before, shown] = [memory.take(numbers), memory.take(numbers)];
  const went = memory.take(3);
  // Steps shown; of the overlap: seconds since it began, and that it lasts.
  const state = memory.take(3);
  // Of hips and both ankles: three numbers each; of joints, feet and toes: a turn as its axis times its angle. Value, then velocity.
  const placeOff = memory.take(9),
    placeRate = memory.take(9);
  const turnOff = memory.take(turns * 3),
    turnRate = memory.take(turns * 3);
  const rootRate = memory.take(3);
  // Of each foot: whether it has borne since the overlap began, and how high its step is.
  const bore = memory.take(2),
    rise = memory.take(2);
  const q = new Float64Array(4);
  const r = new Float64Array(4);
  const [v, w] = [new Float64Array(3), new Float64Array(3)];
  /** Where the turns and the places of a pose lie in what is remembered. */
  const turnAt = (i: number): number => (i < joints ? i * 4 : joints * 4 + 3 + ((i - joints) >> 1) * FOOT + 3 + ((i - joints) & 1) * 4);
  const placeAt = (i: number): number => (i === 0 ? joints * 4 : joints * 4 + 3 + (i - 1) * FOOT);
  const turnsOf = (pose: Pose, i: number): Float32Array | Float64Array => (i < joints ? pose.rotations : pose.posed);
  const turnIn = (i: number): number => (i < joints ? i * 4 : turnAt(i) - joints * 4 - 3);
  const placesOf = (pose: Pose, i: number): Float64Array => (i === 0 ? pose.hips : pose.posed);
  const placeIn = (i: number): number => (i === 0 ? 0 : (i - 1) * FOOT);
  /** How much of a difference, and of its velocity, is left. */
  let value = 0,
    rate = 0,
    // How they change, a second; and how much of a step's height there is.
    valueSlope = 0,
    rateSlope = 0,
    lift = 0;
  const shares = (): void => {
    const T = state[2];
    const t = T > 0 ? Math.min(1, state[1] / T) : 1;
    value = 1 - t * t * t * (10 - 15 * t + 6 * t * t);
    rate = T * (t - 6 * t ** 3 + 8 * t ** 4 - 3 * t ** 5);
    valueSlope = T > 0 ? (-30 * t * t * (1 - t) * (1 - t)) / T : 0;
    rateSlope = 1 - 18 * t * t + 32 * t ** 3 - 15 * t ** 4;
    lift = 64 * (t * (1 - t)) ** 3;
  };
  const isOn = (): boolean => state[1] < state[2] - 1e-9;
  /** A velocity that would carry a difference far out is cut down, all of a vector alike. */
  const bounded = (off: Float64Array, of: Float64Array, o: number, duration: number, carried: number): void => {
    const away = Math.sqrt(off[o] ** 2 + off[o + 1] ** 2 + off[o + 2] ** 2);
    const quick = Math.sqrt(of[o] ** 2 + of[o + 1] ** 2 + of[o + 2] ** 2);
    const most = Math.max(STEEPEST * away, carried) / duration;
    if (quick > most) for (let k = 0; k < 3; k++) of[o + k] *= most / quick;
  };
  return {
    shown,
    before,
    isOn,
    elapsed: () => state[1],
    share() {
      shares();
      return value;
    },
    mix(pose, old, down, oldDown) {
      shares();
      for (let i = 0; i < 3; i++) {
        const [out, from] = [placesOf(pose, i), placesOf(old, i)];
        const o = placeIn(i);
        for (let k = 0; k < 3; k++) out[o + k] += value * (from[o + k] - out[o + k]);
      }
      for (let i = 0; i < turns; i++) {
        const [out, from] = [turnsOf(pose, i), turnsOf(old, i)];
        const o = turnIn(i);
        const like = out[o] * from[o] + out[o + 1] * from[o + 1] + out[o + 2] * from[o + 2] + out[o + 3] * from[o + 3];
        const by = like < 0 ? -value : value;
        for (let k = 0; k < 4; k++) out[o + k] = out[o + k] * (1 - value) + from[o + k] * by;
        normalize(out, o);
      }
      // A foot bears that does so in what counts more.
      if (value > 0.5) for (let side = 0; side < 2; side++) down[side] = oldDown[side];
    },
    forget() {
      state.fill(0);
    },
    show(pose, gone, seconds) {
      before.set(shown);
      for (let i = 0; i < joints * 4; i++) shown[i] = pose.rotations[i];
      shown.set(pose.hips, joints * 4);
      shown.set(pose.posed, joints * 4 + 3);
      if (seconds > 0) for (let k = 0; k < 3; k++) went[k] = gone[k] / seconds;
      state[0] = Math.min(2, state[0] + 1);
    },
    begin(first, next, gone, seconds, duration, bears, wanted) {
      state[1] = 0;
      state[2] = state[0] > 0 ? duration : 0;
      if (state[0] === 0) return;
      const moves = state[0] > 1 && seconds > 0;
      for (let k = 0; k < 3; k++) rootRate[k] = moves ? went[k] - gone[k] / seconds : 0;
      for (let i = 0; i < 3; i++) {
        const at = placeAt(i),
          own = placeIn(i);
        const [a, b] = [placesOf(first, i), placesOf(next, i)];
        for (let k = 0; k < 3; k++) {
          placeOff[i * 3 + k] = shown[at + k] - a[own + k];
          placeRate[i * 3 + k] = moves ? (shown[at + k] - before[at + k] - (b[own + k] - a[own + k])) / seconds : 0;
        }
        bounded(placeOff, placeRate, i * 3, duration, CARRIED_PLACE);
      }
      for (let side = 0; side < 2; side++) {
        const o = 3 + side * 3;
        const away = Math.sqrt(placeOff[o] ** 2 + placeOff[o + 2] ** 2);
        bore[side] = bears[side];
        rise[side] = bears[side] === 0 && wanted[side] > 0 ? Math.min(HIGHEST, RISE * away) : 0;
      }
      for (let i = 0; i < turns; i++) {
        const at = turnAt(i),
          own = turnIn(i);
        const [a, b] = [turnsOf(first, i), turnsOf(next, i)];
        multiplyInverseRight(q, 0, shown, at, a, own);
        logInto(v, 0, q, 0);
        turnOff.set(v, i * 3);
        for (let k = 0; k < 3; k++) turnRate[i * 3 + k] = 0;
        if (!moves) continue;
        // Where it would be a step on, going on as it does: against where the new motion is then.
        multiplyInverseRight(r, 0, shown, at, before, at);
        multiply(q, 0, r, 0, shown, at);
        multiplyInverseRight(r, 0, q, 0, b, own);
        logInto(w, 0, r, 0);
        for (let k = 0; k < 3; k++) turnRate[i * 3 + k] = (w[k] - v[k]) / seconds;
        bounded(turnOff, turnRate, i * 3, duration, CARRIED_TURN);
      }
    },
    advance(seconds, gone) {
      if (!isOn()) return;
      state[1] += seconds;
      shares();
      for (let k = 0; k < 3; k++) gone[k] += rootRate[k] * value * seconds;
    },
    apply(pose, down) {
      if (!isOn()) return;
      shares();
      for (let i = 0; i < 3; i++) {
        const out = placesOf(pose, i);
        const o = placeIn(i);
        for (let k = 0; k < 3; k++) {
          out[o + k] += placeOff[i * 3 + k] * value + placeRate[i * 3 + k] * rate;
        }
        if (i > 0) out[o + 1] += rise[i - 1] * lift;
      }
      for (let side = 0; side < 2; side++) {
        if (down[side] > 0 && bore[side] === 0) {
          const o = 3 + side * 3;
          const up = placeOff[o + 1] * value + placeRate[o + 1] * rate + rise[side] * lift;
          const vx = placeOff[o] * valueSlope + placeRate[o] * rateSlope + rootRate[0] * value;
          const vz = placeOff[o + 2] * valueSlope + placeRate[o + 2] * rateSlope + rootRate[1] * value;
          if (Math.abs(up) > OFF_GROUND || vx * vx + vz * vz > MOVES * MOVES) down[side] = 0;
        }
        bore[side] = down[side];
      }
      for (let i = 0; i < turns; i++) {
        for (let k = 0; k < 3; k++) v[k] = turnOff[i * 3 + k] * value + turnRate[i * 3 + k] * rate;
        expInto(q, 0, v, 0);
        const out = turnsOf(pose, i);
        const o = turnIn(i);
        multiply(out, o, q, 0, out, o);
      }
    },
  };
}
