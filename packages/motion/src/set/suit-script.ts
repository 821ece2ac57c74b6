import { askedSpeed, type Contract } from './contract';
import { USUAL } from './shot-usual';
import type { Slot } from './slot';

/** What the suit is asked for. */
export interface SuitScript {
  readonly script: string;
  readonly seconds: number;
  readonly speedMps?: number;
}

/** The script of the suit that plays a slot. */
export function suitScript(slot: Slot, contract: Contract): SuitScript | null {
  if (slot.kind === 'idle') return { script: 'idle', seconds: 12 };
  if (slot.kind === 'turn') return { script: 'turns', seconds: 20 };
  if (slot.kind === 'flight' && slot.how === 'hop' && slot.along) return { script: 'hop', seconds: 12 };
  if (slot.kind === 'step') return slot.way === 'up' ? { script: slot.over, seconds: 10 } : null;
  if (slot.kind === 'loop') {
    const speedMps = slot.speedMps ?? askedSpeed(contract, slot.gait, slot.direction) ?? USUAL[slot.gait];
    if (slot.direction === 'forward' && slot.gait !== 'dash') return { script: slot.gait, seconds: 12, speedMps };
    if (slot.direction === 'backward' && slot.gait === 'walk')
      return { script: 'backwards', seconds: 12, speedMps: Math.min(1.2, speedMps) };
    if (slot.direction === 'left' && slot.gait === 'walk') return { script: 'sideways', seconds: 12, speedMps: 0.5 };
    return null;
  }
  if ((slot.kind === 'start' || slot.kind === 'stop') && slot.direction === 'forward' && (slot.gait === 'walk' || slot.gait === 'jog'))
    return { script: 'start-stop', seconds: 20, speedMps: askedSpeed(contract, slot.gait, 'forward') ?? USUAL[slot.gait] };
  if (slot.kind === 'arc' && slot.gait === 'walk' && slot.side === 'left') return { script: 'rounds', seconds: 40 };
  return null;
}
