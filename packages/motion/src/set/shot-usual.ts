import { askedSpeed, type Contract } from './contract';
import type { Gait, Slot } from './slot';

/** Speeds where a game asks for none, metres a second. */
export const USUAL: Readonly<Record<Gait, number>> = { hush: 0.7, walk: 1.3, jog: 2.6, dash: 4 };
/** Metres to get up to speed in, and to come to a stop in. */
export const RUN_UP: Readonly<Record<Gait, number>> = { hush: 1, walk: 2, jog: 3, dash: 8 };
/** Four good strides at a gait, to the whole metre. */
export const LENGTH: Readonly<Record<Gait, number>> = { hush: 5, walk: 7, jog: 10, dash: 16 };

/** Radius of an arc: as asked, else one that a person leans into a little. */
export function radiusOf(slot: Extract<Slot, { kind: 'arc' }>, contract: Contract): number {
  const mps = slot.speedMps ?? askedSpeed(contract, slot.gait, 'forward') ?? USUAL[slot.gait];
  const rate = slot.turnDegS ?? contract.turnRateDegS[slot.gait] ?? 60;
  return Math.max(0.5, mps / ((rate * Math.PI) / 180));
}
