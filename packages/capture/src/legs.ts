import { RADIANS, type Side } from '@lantern/motion';
import type { Figure } from './figure';
import { kneeOf, legLength, STANCE_KNEE } from './leg-length';
import type { GaitTable } from './gait-table';
import { footInStance, type FootPose } from './foot';
import { hipJoint } from './hip-joint';
import type { Pelvis } from './pelvis';
import { FINE, type Plan, type Stance } from './plan-data';
import { minimumJerk, type Knot, type State } from './minimum-jerk';

/** Columns of a leg's state: direction of the leg (forward, outward), its length, foot pitch, foot yaw against the heading, toes. */
const COLUMNS = 6;
const AHEAD = 0;
const LENGTH = 2;
const PITCH = 3;
/** Least height of a swinging foot in the middle of the swing, metres. */
const CLEARANCE = 0.014;

/**
 * One leg over time: where its ankle is and how the foot points, per fine sample. In stance the foot rules; in swing the leg's
 * own angles go from the one stance to the next, equal in place, velocity and acceleration at both ends.
 */
export function legMotion(figure: Figure, plan: Plan, hips: Pelvis, side: Side): FootPose[] {
  const n = plan.samples;
  const state = Array.from({ length: COLUMNS }, () => new Float64Array(n).fill(Number.NaN));
  const poses: FootPose[] = new Array(n);
  const stances = plan.stances.filter((stance) => stance.side === side).sort((a, b) => a.strike - b.strike);
  const hip = hipJoint(figure, hips, side);
  const stretch = stretchOf(figure);

  for (const stance of stances) {
    const [first, last] = span(stance, n);
    for (let i = first; i <= last; i++) {
      const pose = footInStance(figure, stance, i);
      poses[i] = pose;
      const row = toState(hip(i), pose, hips.heading[i]);
      for (let c = 0; c < COLUMNS; c++) state[c][i] = row[c];
    }
  }
  for (let k = 0; k + 1 < stances.length; k++) {
    const a = span(stances[k], n)[1];
    const b = span(stances[k + 1], n)[0];
    if (b - a < 2 || a < 3 * APART || b > n - 1 - 3 * APART) continue;
    const duration = (b - a) / FINE;
    const table = hips.tables[Math.round((a + b) / 2)];
    state.forEach((values, c) => {
      const end = after(values, b);
      const curve = minimumJerk(
        before(values, a),
        duration > LONG_SWING
          ? heldKnots(c, figure, duration, (t) => hip(a + Math.round(t * FINE))[1])
          : knotsOf(c, figure, table, duration, end[0]),
        end,
        duration,
      );
      for (let i = a + 1; i < b; i++) values[i] = curve((i - a) / FINE);
    });
    const pose = (i: number) =>
      fromState(
        stretch,
        hip(i),
        state.map((values) => values[i]),
        hips.heading[i],
      );
    // A foot that would graze the floor is drawn up, most in the middle of the swing and not at its ends.
    const arch = (i: number) => 64 * (((i - a) * (b - i)) / (b - a) ** 2) ** 3;
    // Over a kerb the foot rises before it gets there.
    const [low, high] = [stances[k].level, stances[k + 1].level];
    const ground = (i: number) => (high > low ? (i - a > 0.3 * (b - a) ? high : low) : i - a > 0.85 * (b - a) ? high : low);
    let lift = 0;
    for (let i = a + 1; i < b; i++) {
      poses[i] = pose(i);
      const short = ground(i) + CLEARANCE * Math.min(1, 3 * arch(i)) - lowestOf(figure, poses[i]);
      if (short > 0) lift = Math.max(lift, short / Math.max(arch(i), 0.1));
    }
    if (lift === 0) continue;
    for (let i = a + 1; i < b; i++) {
      state[LENGTH][i] -= Math.min(lift, 0.3) * arch(i);
      poses[i] = pose(i);
    }
  }
  // Outside the first and last stance the nearest pose is held; scripts that begin in mid-gait cut that off.
  const known = poses.findIndex((pose) => pose !== undefined);
  poses.fill(poses[known], 0, known);
  for (let i = 1; i < n; i++) poses[i] ??= poses[i - 1];
  return poses;
}

/** A foot that is up for longer than a step is held there: the knee well bent, the shin a little behind, the foot hanging on from it and well off the floor. */
const LONG_SWING = 1.3;
const HELD_FROM = 0.32;
const HELD_TO = 0.36;
/** Close enough that the smoothest curve through equal values does not swing between them, seconds. */
const HELD_EVERY = 0.3;
const HELD = { ahead: -4 * RADIANS, knee: 98, pitch: -62 * RADIANS, high: 0.06 };

/** @param hipHeight after some seconds of the swing, metres: the lower he crouches, the further the leg is drawn up */
function heldKnots(column: number, figure: Figure, duration: number, hipHeight: (seconds: number) => number): Knot[] {
  const holds = Math.ceil((duration - HELD_FROM - HELD_TO) / HELD_EVERY);
  const hangs = lowestOf(figure, { ankle: [0, 0, 0], pitch: HELD.pitch, yaw: 0, bend: 0 });
  const value = (at: number): number => {
    if (column === AHEAD) return HELD.ahead;
    if (column === PITCH) return HELD.pitch;
    return Math.min(legLength(figure, HELD.knee), (hipHeight(at) + hangs - HELD.high) / Math.cos(HELD.ahead));
  };
  if (column !== AHEAD && column !== LENGTH && column !== PITCH) return [];
  return Array.from({ length: holds + 1 }, (_, i) => {
    const at = HELD_FROM + ((duration - HELD_FROM - HELD_TO) * i) / holds;
    return { at, value: value(at) };
  });
}

/** What a column of a leg's state passes through between two stances. */
function knotsOf(column: number, figure: Figure, table: GaitTable, duration: number, end: number): Knot[] {
  if (column === PITCH) return swingPitch(table, duration, end);
  return column === LENGTH ? swingKnots(figure, table, duration, end) : [];
}

/** Knee angles as leg lengths: near full stretch the angle is the root of the length and would kick where the length goes smoothly. */
const swingKnots = (figure: Figure, table: GaitTable, duration: number, strike: number): Knot[] => [
  { at: table.kneeAt * duration, value: legLength(figure, table.kneePeak) },
  { at: table.kneeDownAt * duration, value: legLength(figure, table.kneeDown) },
  { at: table.kneeLateAt * duration, value: legLength(figure, kneeOf(figure, strike) + table.kneeLate) },
];

const swingPitch = (table: GaitTable, duration: number, strike: number): Knot[] => [
  { at: table.kneeAt * duration, value: table.pitchEarly * RADIANS },
  { at: table.kneeDownAt * duration, value: table.pitchDown * RADIANS },
  { at: table.kneeLateAt * duration, value: strike + table.pitchLate * RADIANS },
];

/** The lowest point of a sole: heel, ball or toe tip. */
function lowestOf(figure: Figure, { ankle, pitch, bend }: FootPose): number {
  const { ankleHeight, heelBack, ballAhead, ballHeight, toeLength } = figure;
  const at = (ahead: number, up: number, turn: number) => ahead * Math.sin(turn) + up * Math.cos(turn);
  const heel = at(-heelBack, -ankleHeight, pitch);
  const ball = at(ballAhead, ballHeight - ankleHeight, pitch);
  const toes = pitch + bend;
  return ankle[1] + Math.min(heel, ball + at(0, -ballHeight, toes), ball + at(toeLength, -ballHeight, toes));
}

/** First and last fine sample inside a stance. */
function span(stance: Stance, n: number): [number, number] {
  return [Math.max(0, Math.ceil(stance.strike)), Math.min(n - 1, Math.floor(stance.off))];
}

/** Samples between the values of a one-sided difference: 8 ms, so that the grain of the path does not pass for acceleration. */
const APART = 4;

function before(v: Float64Array, i: number): State {
  return oneSided(v, i, -APART);
}

function after(v: Float64Array, i: number): State {
  return oneSided(v, i, APART);
}

function oneSided(v: Float64Array, i: number, step: number): State {
  const h = step / FINE;
  const [a, b, c, d] = [v[i], v[i + step], v[i + 2 * step], v[i + 3 * step]];
  return [a, (-11 * a + 18 * b - 9 * c + 2 * d) / (6 * h), (2 * a - 5 * b + 4 * c - d) / (h * h)];
}

function toState(hip: readonly number[], pose: FootPose, heading: number): number[] {
  const dx = pose.ankle[0] - hip[0],
    dy = pose.ankle[1] - hip[1],
    dz = pose.ankle[2] - hip[2];
  const forward = dx * Math.sin(heading) + dz * Math.cos(heading);
  const left = dx * Math.cos(heading) - dz * Math.sin(heading);
  const length = Math.hypot(dx, dy, dz);
  return [Math.atan2(forward, -dy), Math.atan2(left, Math.hypot(forward, dy)), length, pose.pitch, pose.yaw - heading, pose.bend];
}

/** Past the stretch of a leg in stance its length is let run softly against that of an almost straight one. */
interface Stretch {
  readonly free: number;
  readonly room: number;
}

function stretchOf(figure: Figure): Stretch {
  const free = legLength(figure, STANCE_KNEE);
  return { free, room: legLength(figure, 3) - free };
}

function fromState({ free, room }: Stretch, hip: readonly number[], state: readonly number[], heading: number): FootPose {
  const [ahead, outward, reach, pitch, yaw, bend] = state;
  const over = Math.max(0, reach - free) / room;
  const length = Math.min(reach, free) + (room * over) / Math.sqrt(1 + over * over);
  const forward = length * Math.sin(ahead) * Math.cos(outward);
  const down = length * Math.cos(ahead) * Math.cos(outward);
  const left = length * Math.sin(outward);
  return {
    ankle: [
      hip[0] + forward * Math.sin(heading) + left * Math.cos(heading),
      hip[1] - down,
      hip[2] + forward * Math.cos(heading) - left * Math.sin(heading),
    ],
    pitch,
    yaw: yaw + heading,
    bend,
  };
}
