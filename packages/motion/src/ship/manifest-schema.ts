import { z } from 'zod';
import { graphSchema } from '../set/graph-schema';
import { contractSchema } from '../set/contract';

const point = z.tuple([z.number(), z.number(), z.number()]);
const interval = z.tuple([z.number(), z.number()]);
const contacts = z.object({ left: z.array(interval), right: z.array(interval) });

const foot = z.object({
  hip: z.string(),
  knee: z.string(),
  foot: z.string(),
  toe: z.string().nullable(),
  hand: z.string().nullable(),
  /** The joints that go where foot and hand go, where the file has them. */
  footTarget: z.string().optional(),
  handTarget: z.string().optional(),
  /** Heel, ball and tip, in the axes of the joint that each is fixed to. */
  sole: z.array(z.object({ joint: z.string(), at: point })),
});

const event = z.union([
  z.object({ at: z.number(), kind: z.literal('footfall'), foot: z.enum(['left', 'right']) }),
  z.object({ at: z.number(), kind: z.literal('mark'), name: z.string() }),
]);

/** What a shipped set says of itself, version 1: everything that a game needs beside the keys. Seconds, metres, degrees to the left. */
export const manifestSchema = z.object({
  oldLantern: z.literal(1),
  kind: z.literal('set'),
  set: z.string(),
  character: z.string().nullable(),
  file: z.string(),
  fps: z.number(),
  up: z.literal('+y'),
  forward: z.literal('+z'),
  metresPerUnit: z.literal(1),
  joints: z.object({ root: z.string(), hips: z.string(), left: foot, right: foot }),
  /** Joints that are each other's other side. */
  mirror: z.array(z.tuple([z.string(), z.string()])).default([]),
  /** Whether travel is on the root, or only in the table beside a clip. */
  rootMotion: z.enum(['root', 'table']).default('root'),
  home: z.object({ clip: z.string(), frame: z.number() }).nullable(),
  clips: z.array(
    z.object({
      name: z.string(),
      animation: z.string(),
      /** Where it is not in the manifest's own file. */
      file: z.string().optional(),
      seconds: z.number(),
      /** Keys, the first and the last counted; of a loop the last is the first, one cycle on. */
      frames: z.int(),
      loop: z.boolean(),
      /** Height of the floor in the clip, metres: that of the sole when it stands. */
      floorM: z.number(),
      slot: z.string().nullable(),
      gait: z.string().nullable(),
      direction: z.string().nullable(),
      speedMps: z.number(),
      turnDegS: z.number(),
      distanceM: z.number(),
      /** The foot that comes down first, and last. */
      startsOn: z.enum(['left', 'right']).nullable().default(null),
      endsOn: z.enum(['left', 'right']).nullable().default(null),
      /** In a loop an end may pass the length. */
      contacts,
      events: z.array(event),
      /** Seconds to phase, straight between; empty where there are no steps. */
      phase: z.array(interval),
      /** Frame by frame: the root's speed and turn, and the seconds until a foot comes down; −1 where none does any more. */
      curves: z.record(z.string(), z.object({ every: z.number(), values: z.array(z.number()) })).optional(),
      /** The clip that it is the other side of. */
      mirrorOf: z.string().nullable().default(null),
      /** Of a loop without its last key: where its root would be at it, over the first, metres and radians. */
      lastKey: z.literal('left out').optional(),
      cycle: z.object({ x: z.number(), z: z.number(), heading: z.number() }).optional(),
      figures: z.record(z.string(), z.unknown()).default({}),
    }),
  ),
  fields: z.array(
    z.object({
      name: z.string(),
      inputs: z.array(z.string()),
      points: z.array(z.object({ clip: z.string(), at: z.array(z.number()), place: z.tuple([z.number(), z.number()]) })),
      triangles: z.array(z.int()),
      scale: z.tuple([z.number(), z.number()]),
      holdFeet: z.boolean(),
      pace: z.number(),
      polar: z.boolean(),
    }),
  ),
  graph: graphSchema.nullable(),
  contract: contractSchema,
  /** The animation of one pose that difference clips are over, and these: each added to a pose moves it as its clip moves the base. */
  differences: z.object({ base: z.string(), clips: z.array(z.object({ clip: z.string(), animation: z.string() })) }).optional(),
});
export type Manifest = z.infer<typeof manifestSchema>;
