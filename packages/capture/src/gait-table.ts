/**
 * How one walks at a speed. Times are fractions of the stride since heel strike, lengths metres, angles degrees.
 * Values after the norms of gait analysis (Perry; Winter).
 */
export interface GaitTable {
  readonly duty: number;
  readonly width: number;
  readonly toesOut: number;
  readonly strikePitch: number;
  readonly offPitch: number;
  readonly flat: number;
  readonly heelOff: number;
  readonly toeBend: number;
  /** Where the ankle stands at mid-stance, ahead of the hips. */
  readonly midStance: number;
  readonly bob: number;
  readonly sway: number;
  readonly list: number;
  readonly axial: number;
  readonly lean: number;
  readonly ripple: number;
  readonly armSwing: number;
  readonly elbow: number;
  readonly elbowSwing: number;
  /** What the knee passes through at three instants of the swing: its greatest flexion, half-way down, and (above its angle at the strike) late. */
  readonly kneeAt: number;
  readonly kneePeak: number;
  readonly kneeDownAt: number;
  readonly kneeDown: number;
  readonly kneeLateAt: number;
  readonly kneeLate: number;
  /** The same for the foot's pitch, toes up; the last is above its pitch at the strike. */
  readonly pitchEarly: number;
  readonly pitchDown: number;
  readonly pitchLate: number;
  /** Hips above the standing height (negative: below). */
  readonly rise: number;
}

export const WALK: GaitTable = {
  duty: 0.62,
  width: 0.1,
  toesOut: 7,
  strikePitch: 13,
  offPitch: 67,
  flat: 0.114,
  heelOff: 0.365,
  toeBend: 43,
  midStance: -0.122,
  bob: 0.018,
  sway: 0.022,
  list: 4.9,
  axial: 3.2,
  lean: 2.5,
  ripple: 0.09,
  armSwing: 17,
  elbow: 24,
  elbowSwing: 11,
  kneeAt: 0.307,
  kneePeak: 65,
  kneeDownAt: 0.618,
  kneeDown: 36,
  kneeLateAt: 0.838,
  kneeLate: 2.8,
  pitchEarly: -60,
  pitchDown: -2,
  pitchLate: -0.5,
  rise: -0.02,
};

export const JOG: GaitTable = {
  duty: 0.354,
  width: 0.05,
  toesOut: 7,
  strikePitch: 11,
  offPitch: 48,
  flat: 0.05,
  heelOff: 0.18,
  toeBend: 31,
  midStance: -0.141,
  bob: 0,
  sway: 0.012,
  list: 4,
  axial: 5,
  lean: 9,
  ripple: 0.06,
  armSwing: 27,
  elbow: 88,
  elbowSwing: 10,
  kneeAt: 0.538,
  kneePeak: 90,
  kneeDownAt: 0.755,
  kneeDown: 45,
  kneeLateAt: 0.88,
  kneeLate: 1.1,
  pitchEarly: -44,
  pitchDown: -7,
  pitchLate: 4.9,
  rise: -0.031,
};

/** Standing: what a walk becomes as its speed goes to nothing. */
export const STAND: GaitTable = {
  ...WALK,
  width: 0.19,
  strikePitch: 6,
  offPitch: 44,
  midStance: 0,
  bob: 0,
  sway: 0.012,
  list: 0.5,
  axial: 0,
  lean: 0.5,
  ripple: 0,
  armSwing: 1.5,
  elbow: 13,
  elbowSwing: 1,
  kneePeak: 50,
  kneeDown: 28,
  pitchEarly: -32,
  pitchDown: -6,
  rise: 0,
};

const KEYS = Object.keys(WALK) as (keyof GaitTable)[];
export const WALK_SPEED = 1.3;
export const JOG_SPEED = 2.8;

/** The table at a speed: standing to walk to jog, blended smoothly; between 1.7 and 2.5 m/s lies the change of gait. */
export function gaitAt(speed: number): GaitTable {
  if (last?.speed === speed) return last.table;
  const toWalk = smooth(speed / WALK_SPEED);
  const toJog = smooth((speed - 1.7) / 0.8);
  const table = { ...WALK } as Record<keyof GaitTable, number>;
  for (const key of KEYS) {
    const walk = STAND[key] + (WALK[key] - STAND[key]) * toWalk;
    table[key] = walk + (JOG[key] - walk) * toJog;
  }
  last = { speed, table };
  return table;
}

/** Asked for sample by sample, mostly at the speed of the one before. */
let last: { readonly speed: number; readonly table: GaitTable } | null = null;

/** Strides a second: a walk's cadence grows with the root of the speed, a jog's in a straight line. */
export function strideRate(speed: number): number {
  const walk = Math.sqrt((60 * Math.max(speed, 0.75)) / 0.0063) / 120;
  const jog = (148 + 5.4 * speed) / 120;
  return walk + (jog - walk) * smooth((speed - 1.7) / 0.8);
}

/** 0 to 1 with no velocity and no acceleration at either end. */
export function smooth(t: number): number {
  const x = Math.min(1, Math.max(0, t));
  return x * x * x * (10 - 15 * x + 6 * x * x);
}
