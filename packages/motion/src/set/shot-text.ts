import { askedSpeed, type Contract } from './contract';
import { LENGTH, radiusOf, RUN_UP } from './shot-usual';
import type { Direction, Gait, Slot } from './slot';

const VERB: Readonly<Record<Gait, string>> = { hush: 'Hush-walk', walk: 'Walk', jog: 'Jog', dash: 'Dash' };

const GOING: Readonly<Record<Direction, string>> = {
  forward: '',
  'forward-left': ' ahead and to the left, facing ahead,',
  left: ' to the left, facing ahead,',
  'backward-left': ' back and to the left, facing ahead,',
  backward: ' backwards',
  'backward-right': ' back and to the right, facing ahead,',
  right: ' to the right, facing ahead,',
  'forward-right': ' ahead and to the right, facing ahead,',
};

/** The sentence that a performer follows for a slot. */
export function shotText(slot: Slot, contract: Contract): string {
  switch (slot.kind) {
    case 'idle':
      return 'Stand at ease for 10 s, feet where they are, eyes ahead.';
    case 'loop':
      return `${VERB[slot.gait]}${GOING[slot.direction]}${atSpeed(slot.speedMps ?? askedSpeed(contract, slot.gait, slot.direction))}${slot.direction.includes('left') || slot.direction.includes('right') ? '' : ','} straight, ${LENGTH[slot.gait]} m, four good strides.`;
    case 'arc':
      return `${VERB[slot.gait]} round a circle to the ${slot.side}${atSpeed(slot.speedMps ?? askedSpeed(contract, slot.gait, 'forward'))}, ${radiusOf(slot, contract).toFixed(1)} m from its middle, twice round.`;
    case 'turn':
      return `Stand, turn ${words(slot.angle)} to the ${slot.side} on the spot, and stand again.`;
    case 'start':
      return `Stand, then ${VERB[slot.gait].toLowerCase()} off${GOING[slot.direction]}${slot.foot ? `, ${slot.foot} foot first` : ''}, ${RUN_UP[slot.gait] + 2} m, two good strides.`;
    case 'stop':
      return `${VERB[slot.gait]} stop${slot.foot ? ` on the ${slot.foot} foot` : ''}${GOING[slot.direction]}, ${RUN_UP[slot.gait]} m run-up, two good strides.`;
    case 'pivot':
      return `${VERB[slot.gait]}, push off the ${slot.foot} foot at the mark and ${slot.angle >= 150 ? 'come back the way you came' : `go on ${words(slot.angle)} to the ${slot.foot === 'left' ? 'right' : 'left'}`}, ${RUN_UP[slot.gait]} m run-up.`;
    case 'between':
      return `${VERB[slot.gait]}, then ${VERB[slot.to].toLowerCase()} on${slot.foot ? `, ${slot.foot} foot first` : ''} without a break, two good strides of each.`;
    case 'flight':
      return `Stand, ${slot.how} ${slot.along ? 'ahead' : 'on the spot'} ${slot.on === 'both' ? 'on both feet' : `on the ${slot.on} foot`} three times, and stand.`;
    case 'step':
      return slot.over === 'kerb'
        ? `Walk ${slot.way} the kerb without breaking your step, two strides before it and after it.`
        : `Walk ${slot.way} the stairs, a foot to each, two strides before them and after them.`;
  }
}

const atSpeed = (mps: number | null): string => (mps === null ? '' : ` at ${mps.toFixed(1)} m/s`);

function words(angle: number): string {
  if (angle === 45) return 'an eighth of a turn';
  if (angle === 90) return 'a quarter';
  if (angle === 180) return 'right about';
  return `${angle}°`;
}
