import { gaitAt, smooth, strideRate, type GaitTable } from './gait-table';

/** A manner of going: its gait by speed, its cadence, and which way the body faces along the path. */
export interface Style {
  readonly table: (speed: number) => GaitTable;
  /** Strides a second. */
  readonly strideRate: (speed: number) => number;
  /** Radians from the direction of travel to the facing: 0 ahead, a quarter turn for going sideways. */
  readonly facing: number;
}

export const PLAIN: Style = { table: gaitAt, strideRate, facing: 0 };

/** Crouched and creeping: knees and back bent, short quiet steps set down nearly flat, hands held. */
export const HUSH: Style = {
  facing: 0,
  strideRate: (speed) => 0.82 * strideRate(speed),
  table: (speed) => {
    const table = gaitAt(speed);
    const on = smooth(speed / 0.4);
    const mix = (key: keyof GaitTable, value: number) => table[key] + (value - table[key]) * on;
    return {
      ...table,
      duty: mix('duty', 0.66),
      rise: mix('rise', -0.125),
      lean: mix('lean', 19),
      bob: mix('bob', 0.008),
      strikePitch: mix('strikePitch', 5),
      offPitch: mix('offPitch', 46),
      kneePeak: mix('kneePeak', 84),
      kneeDown: mix('kneeDown', 60),
      width: mix('width', 0.14),
      armSwing: mix('armSwing', 7),
      elbow: mix('elbow', 62),
      midStance: mix('midStance', -0.1),
    };
  },
};

/** Side-steps to the left: the feet never cross, the body faces at right angles to where it goes. */
export const SIDEWAYS: Style = {
  facing: -Math.PI / 2,
  strideRate: (speed) => 0.8 + 0.5 * Math.min(1, speed),
  table: (speed) => {
    const table = gaitAt(0);
    const on = smooth(speed / 0.4);
    return {
      ...table,
      duty: 0.64,
      width: table.width + (0.36 - table.width) * on,
      midStance: 0,
      strikePitch: 3,
      offPitch: 30,
      flat: 0.05,
      heelOff: 0.5,
      kneePeak: 42,
      kneeDown: 26,
      pitchEarly: -18,
      pitchDown: -4,
      rise: -0.05 * on,
      sway: 0.008,
      list: 1,
    };
  },
};

/** The same to the right. */
export const SIDEWAYS_RIGHT: Style = { ...SIDEWAYS, facing: Math.PI / 2 };

/** Ahead and to one side, facing ahead: the feet a little wider apart, so that they pass. */
const aslant = (facing: number): Style => ({
  facing,
  strideRate,
  table: (speed) => {
    const table = gaitAt(speed);
    return { ...table, width: table.width + 0.06 * smooth(speed / 0.4) };
  },
});
export const ASLANT_LEFT = aslant(-Math.PI / 4);
export const ASLANT_RIGHT = aslant(Math.PI / 4);
