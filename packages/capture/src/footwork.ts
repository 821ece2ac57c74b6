import type { Side } from '@lantern/motion';
import { smooth } from './gait-table';
import { quintic } from './quintic';

const FINE = 480;
const GRAVITY = 9.81;

/** What feet do between standing and standing, other than going along. */
export type Footwork =
  /** `hops` one after the other, `stride` metres each, `air` seconds each, on both feet or on one. */
  | { readonly hops: number; readonly stride: number; readonly air: number; readonly on: Side | 'both' }
  /** Turn on the spot by some degrees, positive to the left, in small steps. */
  | { readonly spin: number };

/** A foot leaves the ground and lands `ahead` metres on, turned by `turn`; seconds and metres from the start of the footwork. */
interface Rise {
  readonly side: Side;
  readonly off: number;
  readonly strike: number;
  readonly ahead: number;
  readonly turn: number;
}

export interface FootworkPlan {
  readonly samples: number;
  /** Of the hips along the path, metres, per fine sample. */
  readonly ahead: Float64Array;
  /** Radians. */
  readonly turn: Float64Array;
  /** Of the hips above standing, metres; NaN where it is nothing special. */
  readonly height: Float64Array;
  readonly rises: readonly Rise[];
}

/** @param early seconds by which each foot leaves the ground before the other in a leap off both */
export const footwork = (work: Footwork, early: Readonly<Record<Side, number>>): FootworkPlan =>
  'hops' in work ? hop(work, early) : spin(work);

/** Crouch before the first hop, contact between two, and getting up after the last, seconds. */
const CROUCH = 0.55;
const REBOUND = { both: 0.4, one: 0.3 };
/** On one leg he does not go down so far. */
const RECOVER = { both: 0.7, one: 0.5 };
/** How much later the foot lands that was the first to leave, as a share of how much earlier it left. */
const LANDS_LATE = 0.2;
/** Hips above standing at take-off (on the toes) and at landing (knees bent), metres. */
const TAKE_OFF = 0.035;
const LANDING = -0.075;

function hop({ hops, stride, air, on }: Extract<Footwork, { hops: number }>, early: Readonly<Record<Side, number>>): FootworkPlan {
  const legs = on === 'both' ? 'both' : 'one';
  const [between, up] = [REBOUND[legs], RECOVER[legs]];
  const period = air + between;
  const seconds = CROUCH + hops * period - between + up;
  const samples = Math.ceil(seconds * FINE);
  const pace = stride / period;
  const ahead = new Float64Array(samples);
  const height = new Float64Array(samples);
  const launch = (LANDING - TAKE_OFF) / air + (GRAVITY * air) / 2;
  const fall = launch - GRAVITY * air;
  const end = CROUCH + hops * period - between;
  const crouch = quintic([0, 0, 0], [TAKE_OFF, launch, -GRAVITY], CROUCH);
  const rebound = quintic([LANDING, fall, -GRAVITY], [TAKE_OFF, launch, -GRAVITY], between);
  const recover = quintic([LANDING, fall, -GRAVITY], [0, 0, 0], up);
  for (let i = 0; i < samples; i++) {
    const t = i / FINE;
    // The body is at full pace in the air: it gathers way in the crouch and loses it after the last landing.
    const v = pace * smooth((t - 0.2) / (CROUCH - 0.2)) * (1 - smooth((t - end) / 0.45));
    ahead[i] = i === 0 ? 0 : ahead[i - 1] + v / FINE;
    const inCycle = (t - CROUCH) % period;
    if (t < CROUCH) height[i] = crouch(t);
    else if (t >= end) height[i] = recover(t - end);
    else if (inCycle < air) height[i] = TAKE_OFF + launch * inCycle - (GRAVITY / 2) * inCycle ** 2;
    else height[i] = rebound(inCycle - air);
  }
  const at = (t: number) => ahead[Math.min(samples - 1, Math.max(0, Math.round(t * FINE)))];
  const rises: Rise[] = [];
  for (const side of ['left', 'right'] as const) {
    if (on !== 'both' && on !== side) {
      // The first leap is off both feet; then one leg is held up until he stands again.
      rises.push({ side, off: CROUCH, strike: seconds + 0.25, ahead: ahead[samples - 1], turn: 0 });
      continue;
    }
    for (let k = 0; k < hops; k++) {
      const off = CROUCH + k * period;
      const strike = off + air;
      const stands = k === hops - 1 ? ahead[samples - 1] : at(strike + between / 2);
      // Off both feet, one is the first to leave, and a little later to land.
      const first = on === 'both' ? early[side] : 0;
      rises.push({ side, off: off - first, strike: strike + LANDS_LATE * first, ahead: stands, turn: 0 });
    }
  }
  return { samples, ahead, turn: new Float64Array(samples), height, rises: rises.sort((a, b) => a.off - b.off) };
}

const STEP_SECONDS = 0.52;
const SWING = 0.34;

function spin({ spin: degrees }: Extract<Footwork, { spin: number }>): FootworkPlan {
  const pairs = Math.max(1, Math.ceil(Math.abs(degrees) / 55));
  const seconds = 0.3 + pairs * 2 * STEP_SECONDS;
  const samples = Math.ceil(seconds * FINE);
  const total = (degrees * Math.PI) / 180;
  const first: Side = degrees > 0 ? 'left' : 'right';
  const rises: Rise[] = [];
  for (let k = 0; k < pairs * 2; k++) {
    const off = 0.22 + k * STEP_SECONDS;
    // The foot on the inside opens the turn, the other one closes up to it.
    const side = k % 2 === 0 ? first : first === 'left' ? 'right' : 'left';
    rises.push({ side, off, strike: off + SWING, ahead: 0, turn: (total * (Math.floor(k / 2) + 1)) / pairs });
  }
  return {
    samples,
    ahead: new Float64Array(samples),
    turn: Float64Array.from({ length: samples }, (_, i) => total * turned((i / FINE - 0.1) / (seconds - 0.2))),
    height: new Float64Array(samples).fill(Number.NaN),
    rises,
  };
}

/** 0 to 1, steady in the middle. */
function turned(t: number): number {
  const x = Math.min(1, Math.max(0, t));
  return 0.5 * x + 0.5 * smooth(x);
}
