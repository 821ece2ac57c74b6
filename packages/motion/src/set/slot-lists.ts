import { slotSchema, type Slot, type SlotInput } from './slot';
import type { SlotList } from './slot-list-names';

const both = <Of extends SlotInput>(make: (side: 'left' | 'right') => Of): Of[] => [make('left'), make('right')];

/** Enough for somebody who waits, walks, jogs, turns, sets off and stops. */
const MODEST: readonly SlotInput[] = [
  { kind: 'idle' },
  { kind: 'loop', gait: 'walk' },
  { kind: 'loop', gait: 'jog' },
  { kind: 'loop', gait: 'walk', direction: 'backward' },
  ...both((side) => ({ kind: 'arc' as const, gait: 'jog' as const, side })),
  ...both((side) => ({ kind: 'turn' as const, angle: 90, side })),
  ...both((foot) => ({ kind: 'start' as const, gait: 'walk' as const, foot })),
  ...both((foot) => ({ kind: 'stop' as const, gait: 'walk' as const, foot })),
];

/** What a character with a set of his own is given. */
const FULL: readonly SlotInput[] = [
  { kind: 'idle' },
  { kind: 'loop', gait: 'hush' },
  { kind: 'loop', gait: 'walk' },
  ...both((side) => ({ kind: 'loop' as const, gait: 'walk' as const, direction: `forward-${side}` as const })),
  ...both((side) => ({ kind: 'loop' as const, gait: 'walk' as const, direction: side })),
  { kind: 'loop', gait: 'walk', direction: 'backward' },
  { kind: 'loop', gait: 'hush', direction: 'backward' },
  { kind: 'loop', gait: 'jog' },
  { kind: 'loop', gait: 'dash' },
  ...both((side) => ({ kind: 'arc' as const, gait: 'walk' as const, side })),
  ...both((side) => ({ kind: 'arc' as const, gait: 'jog' as const, side })),
  ...[45, 90, 180].flatMap((angle) => both((side) => ({ kind: 'turn' as const, angle, side }))),
  ...both((foot) => ({ kind: 'start' as const, gait: 'jog' as const, foot })),
  { kind: 'start', gait: 'walk' },
  ...both((foot) => ({ kind: 'stop' as const, gait: 'jog' as const, foot })),
  { kind: 'stop', gait: 'walk' },
  ...both((foot) => ({ kind: 'pivot' as const, gait: 'jog' as const, foot, angle: 180 })),
  { kind: 'flight', how: 'hop', on: 'both' },
  { kind: 'step', over: 'kerb', way: 'up' },
];

/**
 * A ready list of slots, to begin with.
 *
 * @example
 * slotList('full').length; // 31
 */
export const slotList = (name: SlotList): Slot[] => (name === 'modest' ? MODEST : FULL).map((slot) => slotSchema.parse(slot));
