import { z, type ZodRawShape, type ZodType } from 'zod';
import type { Cast } from '../character/character';
import type { MirrorMap } from '../anatomy/mirror-map';
import type { SavedFit } from '../fit/settings';
import type { Clip } from '../model/clip';
import type { FrameMap } from '../model/frame-map';

/**
 * The order of work. A step may stand where its stages allow; behind a later one it would do nothing, or undo what was done, and the recipe is
 * refused when it is read (see `orderProblems`).
 */
export const STAGES = ['body', 'ground', 'strides', 'cycle', 'evenness', 'way', 'root', 'time', 'keys'] as const;
export type Stage = (typeof STAGES)[number];

/** What a step is given besides the clip. */
export interface StepContext {
  /** The characters that clips may be fitted to, by what recipes call them. */
  readonly cast: Cast;
}

/** What is settled for the suit that a take comes from. */
export interface Suit {
  /** Of the take's skeleton. */
  readonly signature: string;
  readonly fits: readonly SavedFit[];
}

/** What is known where a step is added. */
export interface StepWish {
  /** The clip as it comes into the step; null where it is not known yet, as for a clip that is just being made. */
  readonly clip: Clip | null;
  /** What recipes call the project's characters, the one to be preferred first. */
  readonly characters: readonly string[];
}

/** The one figure of a step: what it was before and is after. */
export interface StepReport {
  readonly label: string;
  /** The figure of clips that it is, whose bound counts for it. */
  readonly figure?: 'tick' | 'slideCm' | 'sinkCm';
  /** Empty for a ratio. */
  readonly unit: string;
  readonly digits: number;
  /** Null where it cannot be told, as of a skeleton that is no person's. */
  readonly before: number | null;
  readonly after: number | null;
  /** The frame of what goes out at which it is worst. */
  readonly at?: number;
}

/** What every step has: which one it is in its recipe, and whether it is switched off. */
const HEAD = {
  /** Which one it is, where several of a kind stand in a recipe; left out, its kind, with a number from the second on. */
  id: z.string().min(1).max(60).optional(),
  off: z.boolean().optional(),
};

/** The schema of a step: its kind, its head and its parameters, each with a good default where there is one. */
export const stepObject = <Kind extends string, Shape extends ZodRawShape>(kind: Kind, shape: Shape) =>
  z.object({ kind: z.literal(kind), ...HEAD, ...shape });

/** All that is known of one kind of step, in one place: nothing outside of its file asks what kind a step is. */
export interface StepDefinition<Kind extends string, Step, Input = Step> {
  readonly kind: Kind;
  readonly title: string;
  /** What it is for, in a line. */
  readonly about: string;
  /** The first and the last stage in which it may stand. */
  readonly stages: readonly [Stage, Stage];
  /** A second one in the same recipe would do nothing. */
  readonly once?: true;
  /** The step with what is settled for the take's suit put in where the step itself says nothing. */
  settle?(step: Step, suit: Suit): Step;
  /** It sets a pose right, frame by frame: with it switched off the clip has the same frames, as they were captured. */
  readonly corrects?: true;
  /** Left is right behind it. */
  readonly swapsSides?: true;
  /** Whether frames behind it are counted from an instant that it finds by itself, wherever the clip is cut. */
  countsAnew?(step: Step): boolean;
  /** What a person gets who adds it: good parameters, worked out from what the clip is. */
  create(wish: StepWish): Omit<Input, 'kind' | 'id' | 'off'>;
  apply(clip: Clip, step: Step, context: StepContext): Clip;
  /** The same step when the clip is cut elsewhere, or its take brought to another rate. */
  mapTime(step: Step, time: FrameMap): Step;
  /** The same step for the other side of the clip. */
  otherSide(step: Step, joints: MirrorMap | null): Step;
  /**
   * For every frame of what goes out the frame of what came in that is shown there (from 0, whole or between two). Null: none is a single one of
   * them. Left out: they are the same.
   */
  readonly sourceFrames?: ((before: Clip, after: Clip, step: Step) => Float64Array) | null;
  /** What its card shows. */
  report?(before: Clip, after: Clip, step: Step): StepReport | null;
  /** What of it cannot be done on this clip, in sentences; the rest of it is done. */
  troubles?(before: Clip, step: Step): readonly string[];
}

/**
 * Defines a step.
 *
 * @example
 * const schema = stepObject('still', { frame: z.int().min(0).default(0) });
 * const still = defineStep(schema, {
 *   title: 'Still', about: 'One pose, held.', stages: ['body', 'time'],
 *   create: () => ({}),
 *   apply: (clip, { frame }) => ({ ...clip, motion: pickFrames(clip.motion, [frame, frame]) }),
 *   mapTime: (step, time) => ({ ...step, frame: mapFrame(time, step.frame) }),
 *   otherSide: asItIs,
 * });
 */
export function defineStep<Kind extends string, Schema extends ZodType<{ kind: Kind }>>(
  schema: Schema & { readonly shape: { readonly kind: z.ZodLiteral<Kind> } },
  definition: Omit<StepDefinition<Kind, z.infer<Schema>, z.input<Schema>>, 'kind'>,
) {
  return { kind: schema.shape.kind.value, schema, ...definition };
}

/** For what says nothing of sides or frames. */
export const asItIs = <Step>(step: Step): Step => step;
