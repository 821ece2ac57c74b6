import { RADIANS, type Side } from '@lantern/motion';
import type { JointName } from './figure';
import { smooth, type GaitTable } from './gait-table';
import { aboutX, aboutY, aboutZ, chain, type Q } from './turns';

const TURN = 2 * Math.PI;

export interface ArmState {
  readonly table: GaitTable;
  /** Strides. */
  readonly phase: number;
  /** How far this arm swings, as a share of what the gait has. */
  readonly vigour: number;
  readonly breath: number;
  /** −1 crouched before a hop, 1 at its top. */
  readonly leap: number;
  readonly roll: number;
  readonly brow: number;
  /** How much lower this shoulder hangs, radians. */
  readonly hangs: number;
}

/**
 * One arm: it is forward at the strike of the other foot; the shoulder goes along, the elbow bends later and the wrist later still. What
 * bends late bends most where the arm turns back. Source: Murray, Sepic, Barnard 1967; Meyns and others 2013.
 */
export function setArm(
  globals: Map<JointName, Q>,
  side: Side,
  { ribs, hang }: { readonly ribs: Q; readonly hang: Q },
  state: ArmState,
): void {
  const { table, phase, vigour, breath, leap, roll, brow, hangs } = state;
  const sign = side === 'left' ? 1 : -1;
  const swings = (late: number) => Math.cos(TURN * (phase - (side === 'left' ? 0.5 : 0) - late));
  const running = smooth((table.elbow - 30) / 50);
  const swing = swings(0);
  const share = Math.min(1, table.armSwing / 17) * vigour;
  const rolls = Math.sin(Math.PI * roll);
  const flexion = (table.armSwing * vigour * swing - 2 - 8 * running + 38 * leap + 62 * brow) * RADIANS;
  const elbow = (table.elbow + table.elbowSwing * vigour * swings(0.05) + 40 * Math.max(0, leap) + 120 * brow) * RADIANS;
  // Past the hip an arm is a little further out; running, the hands come towards the middle in front.
  const outward = (10 + 1.5 * share * (1 - swing * swing) + 6 * running + 20 * brow) * RADIANS;
  const inward = (14 + 16 * running + (3 + 7 * running) * share * swing + 48 * brow) * RADIANS;
  const shrug = (1.1 * breath - 2 + 9 * roll + (1 + 0.8 * running) * share * swings(0.12) + 10 * brow) * RADIANS - hangs;
  const forward = ((2 + 2.5 * running) * share * swings(0.03) - 8 * rolls + 5 * brow) * RADIANS;
  const flop = (3.5 + 0.5 * running) * share * swings(0.14);

  const [collar, arm, forearm, hand] =
    side === 'left'
      ? (['LeftCollar', 'LeftArm', 'LeftForearm', 'LeftHand'] as const)
      : (['RightCollar', 'RightArm', 'RightForearm', 'RightHand'] as const);
  globals.set(collar, chain(ribs, aboutZ(sign * shrug), aboutY(-sign * forward)));
  const down = chain(hang, aboutX(-flexion), aboutZ(-sign * (Math.PI / 2 - outward)), aboutX(inward));
  globals.set(arm, down);
  const bent = chain(down, aboutY(-sign * elbow));
  globals.set(forearm, bent);
  const turn = (4 * running - 3 * share * swings(0.1)) * RADIANS;
  globals.set(hand, chain(bent, aboutX(turn), aboutZ(-sign * (4 - 12 * brow) * RADIANS), aboutY(-sign * (7 + flop) * RADIANS)));
}
