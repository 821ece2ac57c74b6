import { z } from 'zod';
import type { Clip } from '../model/clip';
import type { MirrorMap } from '../anatomy/mirror-map';
import type { FrameMap } from '../model/frame-map';
import type { StepContext, StepDefinition, StepReport, StepWish, Suit } from './definition';
import { between } from './between';
import { clean } from './clean';
import { clearance } from './clearance';
import { corrections } from './corrections';
import { delay } from './delay';
import { evenOut } from './even-out';
import { exactDistance } from './exact-distance';
import { exactTurn } from './exact-turn';
import { extend } from './extend';
import { fit } from './fit';
import { floor } from './floor';
import { footLock } from './foot-lock';
import { handLock } from './hand-lock';
import { hands } from './hands';
import { hips } from './hips';
import { loop } from './loop';
import { meetHome } from './meet-home';
import { mirror } from './mirror';
import { path } from './path';
import { retime } from './retime';
import { speed } from './speed';
import { thin } from './thin';
import { travel } from './travel';
import { typicalCycleStep } from './typical-cycle';
import { series } from '../math/series';

/** Every kind of step, in the order of work. A new one is a file and a line here. */
const STEPS = {
  clean,
  fit,
  floor,
  'typical-cycle': typicalCycleStep,
  mirror,
  loop,
  'even-out': evenOut,
  speed,
  extend,
  path,
  'exact-turn': exactTurn,
  'exact-distance': exactDistance,
  between,
  hips,
  delay,
  hands,
  clearance,
  'foot-lock': footLock,
  'hand-lock': handLock,
  'meet-home': meetHome,
  corrections,
  travel,
  retime,
  thin,
};

const ALL = Object.values(STEPS);
const [first, ...others] = ALL.map(({ schema }) => schema);

/** A step as it stands in a file: told apart by `kind`, parameters and `id` optional. */
export const bareStep = z.discriminatedUnion('kind', [first, ...others]);
type BareStep = z.infer<typeof bareStep>;
export type RecipeStepInput = z.input<typeof bareStep>;

export type StepKind = BareStep['kind'];
/** A step of a recipe: its `id` tells it from others of its kind. */
export type RecipeStep = BareStep & { readonly id: string };
export type StepOfKind<Kind extends StepKind> = Extract<RecipeStep, { kind: Kind }>;

/** One step with all its parameters; its id is its kind unless it has one. */
export const stepSchema = bareStep.transform((step): RecipeStep => ({ ...step, id: step.id ?? step.kind }));

type ByKind = { [Kind in StepKind]: Extract<BareStep, { kind: Kind }> };
type InputByKind = { [Kind in StepKind]: Extract<RecipeStepInput, { kind: Kind }> };
const DEFINITIONS: { readonly [Kind in StepKind]: StepDefinition<Kind, ByKind[Kind], InputByKind[Kind]> } = STEPS;

/** What is known of a kind of step whatever its parameters: what it is called, what it is for, where it may stand. */
export type AboutStep = Pick<StepDefinition<StepKind, unknown>, 'kind' | 'title' | 'about' | 'stages' | 'once'>;

/** Every kind in the order of work. */
export const STEP_LIST: readonly AboutStep[] = ALL;

/**
 * @example
 * aboutStep('foot-lock').title; // 'Foot lock'
 */
export const aboutStep = (kind: StepKind): AboutStep => STEPS[kind];

/**
 * Applies one step; a step that is switched off changes nothing.
 *
 * @throws InputError when the clip is none that the step can be done to, with what to do about it
 *
 * @example
 * applyStep(cutClip(motion, best.from, best.to), stepSchema.parse({ kind: 'loop' })).loop; // true
 */
export function applyStep<Kind extends StepKind>(clip: Clip, step: ByKind[Kind], context: StepContext = { cast: new Map() }): Clip {
  return step.off ? clip : DEFINITIONS[step.kind as Kind].apply(clip, step, context);
}

/** The same step when its clip is cut elsewhere, or its take brought to another rate. */
export const mapStep = (step: RecipeStep, time: FrameMap): RecipeStep => ({ ...mapped(step, time), id: step.id });

function mapped<Kind extends StepKind>(step: ByKind[Kind], time: FrameMap): ByKind[Kind] {
  return DEFINITIONS[step.kind as Kind].mapTime(step, time);
}

/** The same step for the other side of the clip. */
export const stepOnOtherSide = (step: RecipeStep, joints: MirrorMap | null = null): RecipeStep => ({
  ...sideSwapped(step, joints),
  id: step.id,
});

function sideSwapped<Kind extends StepKind>(step: ByKind[Kind], joints: MirrorMap | null): ByKind[Kind] {
  return DEFINITIONS[step.kind as Kind].otherSide(step, joints);
}

/** The step with what is settled for the take's suit put in. */
export const settleStep = (step: RecipeStep, suit: Suit): RecipeStep => ({ ...settled(step, suit), id: step.id });

function settled<Kind extends StepKind>(step: ByKind[Kind], suit: Suit): ByKind[Kind] {
  return DEFINITIONS[step.kind as Kind].settle?.(step, suit) ?? step;
}

/** Whether frames behind a step are counted from an instant that it finds by itself. */
export function countsAnew<Kind extends StepKind>(step: ByKind[Kind]): boolean {
  return !step.off && (DEFINITIONS[step.kind as Kind].countsAnew?.(step) ?? false);
}

/**
 * Whether left is right behind a step.
 *
 * @example
 * isMirror({ kind: 'mirror', off: true }); // false
 */
export const isMirror = ({ kind, off }: Pick<BareStep, 'kind' | 'off'>): boolean => !off && DEFINITIONS[kind].swapsSides === true;

/**
 * A recipe whose steps that set poses right are switched off: the same frames, as they were captured.
 *
 * @example
 * asCaptured(recipeSchema.parse([{ kind: 'clean' }, { kind: 'loop' }])).map(({ off }) => off === true); // [true, false]
 */
export const asCaptured = (steps: readonly RecipeStep[]): RecipeStep[] =>
  steps.map((step) => (DEFINITIONS[step.kind].corrects ? { ...step, off: true } : step));

/**
 * For every frame after a step the frame before it that is shown there; null where there is no single one.
 *
 * @param clips before it and after it, looked at only where they are needed
 */
export function framesBefore<Kind extends StepKind>(
  step: ByKind[Kind],
  clips: { readonly before: Clip; readonly after: Clip },
): Float64Array | null {
  const { sourceFrames } = DEFINITIONS[step.kind as Kind];
  if (sourceFrames === null) return null;
  return sourceFrames ? sourceFrames(clips.before, clips.after, step) : series(clips.after.motion.frames, (f) => f);
}

/**
 * The figure of a step; null where it has none, or is switched off.
 *
 * @example
 * const cut = cutClip(motion, best.from, best.to);
 * const step = stepSchema.parse({ kind: 'loop' });
 * reportOf(step, cut, applyStep(cut, step)).label; // 'tick'
 */
export function reportOf<Kind extends StepKind>(step: ByKind[Kind], before: Clip, after: Clip): StepReport | null {
  return step.off ? null : (DEFINITIONS[step.kind as Kind].report?.(before, after, step) ?? null);
}

/**
 * What of a step cannot be done on a clip, in sentences; the rest of it is done.
 *
 * @param clips before it, looked at only where it is needed
 *
 * @example
 * troublesOf(stepSchema.parse({ kind: 'loop' }), { before: cutClip(motion, 10, 40) }); // []
 */
export function troublesOf<Kind extends StepKind>(step: ByKind[Kind], clips: { readonly before: Clip }): readonly string[] {
  const { troubles } = DEFINITIONS[step.kind as Kind];
  return step.off || !troubles ? [] : troubles(clips.before, step);
}

/**
 * A new step with what is good for the clip that it is added to.
 *
 * @example
 * createStep('foot-lock').kind; // 'foot-lock'
 */
export function createStep(kind: StepKind, wish: StepWish = { clip: null, characters: [] }): RecipeStep {
  return stepSchema.parse({ kind, ...STEPS[kind].create(wish) });
}

/**
 * The first step of a kind that is switched on.
 *
 * @example
 * stepOf(recipeSchema.parse([{ kind: 'loop' }]), 'loop').kind; // 'loop'
 */
export function stepOf<Kind extends StepKind>(steps: readonly RecipeStep[], kind: Kind): StepOfKind<Kind> | undefined {
  const isIt = (step: RecipeStep): step is StepOfKind<Kind> => step.kind === kind && !step.off;
  return steps.find(isIt);
}
