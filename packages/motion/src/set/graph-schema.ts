import { BREAK_OFFS, ENTRIES } from '@lantern/drive';
import { z } from 'zod';

const id = z.string().min(1).max(200);
const word = z.string().trim().min(1).max(60);
const number = z.number().min(-1e6).max(1e6);
/** Where something stands in the picture, pixels. */
const place = z.object({ x: number, y: number });

/** What a game tells the graph: a number, a switch that is on or off, or a press, which is true until a transition has used it. */
export const graphInputSchema = z.discriminatedUnion('kind', [
  z.object({
    name: word,
    kind: z.literal('number'),
    from: number.default(0),
    to: number.default(1),
    start: number.default(0),
    unit: z.string().max(12).default(''),
  }),
  z.object({ name: word, kind: z.literal('switch'), start: z.boolean().default(false) }),
  z.object({ name: word, kind: z.literal('press') }),
]);
export type GraphInput = z.infer<typeof graphInputSchema>;

/** What a state plays: a clip once or looping, a field that inputs of the graph steer, or nothing that has been chosen yet. */
export const statePlaysSchema = z.union([
  z.object({ clip: id, loop: z.boolean().default(true) }),
  z.object({ field: id, inputs: z.array(word).min(1).max(2) }),
]);
export type StatePlaysOf = z.infer<typeof statePlaysSchema>;

export const graphStateSchema = z.object({
  name: word,
  plays: statePlaysSchema.nullable().default(null),
  at: place.optional(),
});
export type GraphState = z.infer<typeof graphStateSchema>;

export const conditionSchema = z.discriminatedUnion('is', [
  z.object({ input: word, is: z.enum(['above', 'below']), value: number }),
  z.object({ input: word, is: z.enum(['on', 'off', 'pressed']) }),
]);
export type Condition = z.infer<typeof conditionSchema>;

/** A way from one state, or from any, to another. */
export const transitionSchema = z.object({
  from: word.nullable(),
  to: word,
  /** All of them have to hold. */
  when: z.array(conditionSchema).max(12).default([]),
  /** Not before a share of the clip is played, or not but where a foot lands. */
  leaveAfter: z
    .union([z.object({ share: z.number().min(0).max(1) }), z.object({ landing: z.enum(['left', 'right']) })])
    .nullable()
    .default(null),
  /** Seconds. */
  overlap: z.number().min(0).max(3).default(0.2),
  entry: z.enum(ENTRIES).default('phase'),
  breakOff: z.enum(BREAK_OFFS).default('anything'),
  urgent: z.boolean().default(false),
  fade: z.boolean().default(false),
});
export type Transition = z.infer<typeof transitionSchema>;
export type TransitionInput = z.input<typeof transitionSchema>;

/** How a game gets from one motion of a set to the next; it names clips and fields as the set does. */
export const graphSchema = z.object({
  inputs: z.array(graphInputSchema).max(30).default([]),
  initial: z.string().max(60).default(''),
  states: z.array(graphStateSchema).max(100).default([]),
  /** In the order in which they are tried. */
  transitions: z.array(transitionSchema).max(500).default([]),
  /** Written into the picture. */
  comments: z
    .array(z.object({ text: z.string().max(500), at: place }))
    .max(100)
    .default([]),
});
export type Graph = z.infer<typeof graphSchema>;
export type GraphInputs = z.input<typeof graphSchema>;

export const EMPTY_GRAPH: Graph = graphSchema.parse({});
