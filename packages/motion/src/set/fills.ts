import { USUAL_LEG, type ClipTraits, type MeasuredGait } from './clip-traits';
import { askedSpeed, slotSpeed, type Contract } from './contract';
import type { Gait, Slot } from './slot';

/** Between a jog and a dash, metres a second, for legs of a usual length, where no contract says how fast either is. */
const DASHES = 3.3;
/** A clip farther from the speed of a slot is none for it: strides and time together cannot be warped so much. */
const MOST_WARP = 1.5;
/** Degrees that a turn on the spot, and a pivot, may be off and still be meant for it. */
const TURN_OFF = 22.5;
const PIVOT_OFF = 45;

/**
 * How far a clip is from what a slot asks for: 0 is exactly that. Null when it is something else.
 *
 * @example
 * fills({ kind: 'turn', angle: 90, side: 'left' }, { kind: 'turn', turnDeg: 84 }, NO_CONTRACT).toFixed(2); // '0.27'
 */
export function fills(slot: Slot, traits: ClipTraits, contract: Contract): number | null {
  if (traits.kind !== slot.kind) return null;
  switch (slot.kind) {
    case 'idle':
      return 0;
    case 'loop':
      if (traits.direction !== slot.direction) return null;
      return isGait(slot.gait, traits, contract) ? offSpeed(slotSpeed(slot, contract), traits.speedMps) : null;
    case 'arc': {
      if (traits.turnDegS > 0 !== (slot.side === 'left') || !isGait(slot.gait, traits, contract)) return null;
      const speed = offSpeed(slotSpeed(slot, contract), traits.speedMps);
      const rate = slot.turnDegS ? Math.abs(Math.abs(traits.turnDegS) - slot.turnDegS) / slot.turnDegS : 0;
      return speed === null || rate > 0.6 ? null : speed + rate;
    }
    case 'turn': {
      if (traits.turnDeg > 0 !== (slot.side === 'left')) return null;
      return within(Math.abs(Math.abs(traits.turnDeg) - slot.angle), TURN_OFF);
    }
    case 'start':
    case 'stop':
      if (traits.direction !== slot.direction || (slot.foot && traits.foot !== slot.foot)) return null;
      return isGait(slot.gait, traits, contract) ? offSpeed(slotSpeed(slot, contract), traits.speedMps) : null;
    case 'pivot':
      if (traits.foot !== slot.foot || !isGait(slot.gait, traits, contract)) return null;
      return within(Math.abs(Math.abs(traits.turnDeg) - slot.angle), PIVOT_OFF);
    case 'between':
      if (slot.foot && traits.foot !== slot.foot) return null;
      return traits.gait === measuredAs(slot.gait) && traits.toGait === measuredAs(slot.to) ? 0 : null;
    case 'flight':
      return slot.how === 'hop' && traits.on === slot.on && traits.distanceM > 0.3 === slot.along ? 0 : null;
    case 'step':
      return traits.riseM > 0 === (slot.way === 'up') && traits.levels > 2 === (slot.over === 'stairs') ? 0 : null;
  }
}

const within = (off: number, most: number): number | null => (off <= most ? off / most : null);

/** What a gait of a set is when it is measured. */
export const measuredAs = (gait: Gait): MeasuredGait => (gait === 'jog' || gait === 'dash' ? 'run' : gait);

/** A run is a jog or a dash by whichever speed is nearer. */
function isGait(gait: Gait, { gait: measured, speedMps, legM = USUAL_LEG }: ClipTraits, contract: Contract): boolean {
  if (measured !== measuredAs(gait)) return false;
  return measured !== 'run' || gait === (speedMps < boundary(contract, legM) ? 'jog' : 'dash');
}

function boundary(contract: Contract, legM: number): number {
  const [jog, dash] = [askedSpeed(contract, 'jog', 'forward'), askedSpeed(contract, 'dash', 'forward')];
  return jog && dash ? Math.sqrt(jog * dash) : (DASHES * legM) / USUAL_LEG;
}

/** By the logarithm, so that half as fast and twice as fast are alike. */
function offSpeed(asked: number | null, speed: number): number | null {
  if (asked === null) return 0;
  const off = Math.abs(Math.log(speed / asked));
  return off <= Math.log(MOST_WARP) ? off : null;
}
