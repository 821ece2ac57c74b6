import { z } from 'zod';
import { DIRECTIONS, GAITS, type Direction, type Gait, type Slot } from './slot';

const gait = z.enum(GAITS);
const perGait = (least: number, most: number) => z.partialRecord(gait, z.number().min(least).max(most)).default({});

/** The game's numbers; what is left out the game does not care about. */
export const contractSchema = z.object({
  /** Metres a second, by gait and direction of travel. */
  speedMps: z.partialRecord(gait, z.partialRecord(z.enum(DIRECTIONS), z.number().min(0.1).max(15))).default({}),
  /** From standing to the speed of a gait, and back, metres a second squared. */
  accelerationMps2: perGait(0.1, 50),
  decelerationMps2: perGait(0.1, 50),
  /** Metres from the command to stop to standing. */
  stoppingM: perGait(0.05, 20),
  /** Of arcs, degrees a second. */
  turnRateDegS: perGait(1, 720),
  /** On the spot. */
  turnAnglesDeg: z.array(z.number().min(5).max(360)).max(20).default([]),
  hopHeightM: z.number().min(0.01).max(3).optional(),
  hopLengthM: z.number().min(0.01).max(10).optional(),
  stepHeightM: z.number().min(0.01).max(1).optional(),
  capsuleRadiusM: z.number().min(0.05).max(3).optional(),
});
export type Contract = z.infer<typeof contractSchema>;

/** A game that asks for nothing yet. */
export const NO_CONTRACT: Contract = contractSchema.parse({});

/** The speed that a game asks of a gait in a direction. */
export const askedSpeed = ({ speedMps }: Contract, gait: Gait, direction: Direction): number | null => speedMps[gait]?.[direction] ?? null;

/**
 * The speed at which a slot's clip shall go; null where nobody says.
 *
 * @example
 * slotSpeed({ kind: 'loop', gait: 'walk', direction: 'left' }, contractSchema.parse({ speedMps: { walk: { left: 1.1 } } })); // 1.1
 */
export function slotSpeed(slot: Slot, contract: Contract): number | null {
  if (slot.kind === 'loop') return slot.speedMps ?? askedSpeed(contract, slot.gait, slot.direction);
  if (slot.kind === 'arc') return slot.speedMps ?? askedSpeed(contract, slot.gait, 'forward');
  if (slot.kind === 'start' || slot.kind === 'stop') return askedSpeed(contract, slot.gait, slot.direction);
  return null;
}
