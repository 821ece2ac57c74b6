import { z } from 'zod';

/** What a set calls ways of going: a jog and a dash are both runs, told apart by their speed. */
export const GAITS = ['hush', 'walk', 'jog', 'dash'] as const;
export type Gait = (typeof GAITS)[number];

/** Directions of travel against the facing, in eighths of a turn to the left. */
export const DIRECTIONS = [
  'forward',
  'forward-left',
  'left',
  'backward-left',
  'backward',
  'backward-right',
  'right',
  'forward-right',
] as const;
export type Direction = (typeof DIRECTIONS)[number];

const gait = z.enum(GAITS);
const direction = z.enum(DIRECTIONS).default('forward');
const foot = z.enum(['left', 'right']);
const side = z.enum(['left', 'right']);
const angle = z.number().min(5).max(360);

const kinds = [
  z.object({ kind: z.literal('idle') }),
  /** `speedMps`: where it is not the one that the contract asks of the gait. */
  z.object({ kind: z.literal('loop'), gait, direction, speedMps: z.number().min(0.1).max(15).optional() }),
  z.object({
    kind: z.literal('arc'),
    gait,
    side,
    speedMps: z.number().min(0.1).max(15).optional(),
    turnDegS: z.number().min(5).max(720).optional(),
  }),
  /** On the spot, by `angle` degrees. */
  z.object({ kind: z.literal('turn'), angle, side }),
  /** `foot`: the one that lands first; left out, either. Direction: where he goes in the end against how he faced at first. */
  z.object({ kind: z.literal('start'), gait, foot: foot.optional(), direction }),
  /** `foot`: the one that lands last. */
  z.object({ kind: z.literal('stop'), gait, foot: foot.optional(), direction }),
  /** He goes on in another direction by `angle` degrees; `foot`: the one that he pushes off. */
  z.object({ kind: z.literal('pivot'), gait, foot, angle }),
  /** From one gait into another; `foot`: the first to land in the other one. */
  z.object({ kind: z.literal('between'), gait, to: gait, foot: foot.optional() }),
  z.object({
    kind: z.literal('flight'),
    how: z.enum(['hop', 'leap']),
    on: z.enum(['both', 'left', 'right']),
    along: z.boolean().default(true),
  }),
  z.object({ kind: z.literal('step'), over: z.enum(['kerb', 'stairs']), way: z.enum(['up', 'down']) }),
] as const;

/** What a game expects to find in a set: a kind of clip with its parameters. */
export const slotSchema = z.discriminatedUnion('kind', kinds);
export type Slot = z.infer<typeof slotSchema>;
export type SlotInput = z.input<typeof slotSchema>;
export type SlotKind = Slot['kind'];
export type SlotOfKind<Kind extends SlotKind> = Extract<Slot, { kind: Kind }>;

/**
 * What a slot goes by in files: its kind and its parameters with slashes between them.
 *
 * @example
 * slotId(slotSchema.parse({ kind: 'stop', gait: 'jog', foot: 'right' })); // 'stop/jog/right'
 */
export function slotId(slot: Slot): string {
  const straight = (way: Direction) => (way === 'forward' ? [] : [way]);
  const words = (): (string | number)[] => {
    switch (slot.kind) {
      case 'idle':
        return [];
      case 'loop':
        return [slot.gait, slot.direction, ...numbers(slot.speedMps)];
      case 'arc':
        return [slot.gait, slot.side, ...numbers(slot.speedMps, slot.turnDegS)];
      case 'turn':
        return [slot.side, slot.angle];
      case 'start':
      case 'stop':
        return [slot.gait, ...(slot.foot ? [slot.foot] : []), ...straight(slot.direction).map((way) => (slot.foot ? way : `to-${way}`))];
      case 'pivot':
        return [slot.gait, slot.foot, slot.angle];
      case 'between':
        return [slot.gait, slot.to, ...(slot.foot ? [slot.foot] : [])];
      case 'flight':
        return [slot.how, slot.on, slot.along ? 'along' : 'on-the-spot'];
      case 'step':
        return [slot.over, slot.way];
    }
  };
  return [slot.kind, ...words()].join('/');
}

const numbers = (...values: (number | undefined)[]): number[] => values.filter((value) => value !== undefined);

const otherSide = <S extends 'left' | 'right'>(own: S): 'left' | 'right' => (own === 'left' ? 'right' : 'left');

const otherWay = (own: Direction): Direction => DIRECTIONS[(8 - DIRECTIONS.indexOf(own)) % 8];

/**
 * What a clip that fills a slot fills when it is mirrored; null where that is the same slot.
 *
 * @example
 * slotOnOtherSide({ kind: 'turn', angle: 90, side: 'left' }).side; // 'right'
 */
export function slotOnOtherSide(slot: Slot): Slot | null {
  const mirrored = (): Slot => {
    switch (slot.kind) {
      case 'loop':
        return { ...slot, direction: otherWay(slot.direction) };
      case 'arc':
      case 'turn':
        return { ...slot, side: otherSide(slot.side) };
      case 'start':
      case 'stop':
        return { ...slot, foot: slot.foot && otherSide(slot.foot), direction: otherWay(slot.direction) };
      case 'pivot':
        return { ...slot, foot: otherSide(slot.foot) };
      case 'between':
        return { ...slot, foot: slot.foot && otherSide(slot.foot) };
      case 'flight':
        return { ...slot, on: slot.on === 'both' ? 'both' : otherSide(slot.on) };
      case 'idle':
      case 'step':
        return slot;
    }
  };
  const other = mirrored();
  return slotId(other) === slotId(slot) ? null : other;
}
