import {
  createStep,
  stepOf,
  timeMap,
  type ClipRecipe,
  type Closing,
  type RecipeStep,
  type Skeleton,
  type StepKind,
  type StepOfKind,
  type StrideTraces,
  type TimePin,
} from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useMemo, useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import { useWholeSteps } from '@/data/fits';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { useStageOptions } from '@/stage/stage-options';
import { useProjectData, type ProjectData, type TakeInfo } from '@/data/project';
import { core } from '@/worker/core';
import type { ClipMeasured, MirroredPair } from '@/worker/core.worker';
import { pinsInStep } from '../retime/time-pins';

type RetimeStep = StepOfKind<'retime'>;

/** What the cards of a recipe show and do besides changing their step. */
export interface AboutRecipe {
  readonly measured: ClipMeasured | null;
  readonly closings: readonly Closing[];
  readonly traces: StrideTraces | null;
  readonly joints: readonly string[];
  readonly joint: string;
  readonly onJoint: (joint: string) => void;
  /** Joints that are mirrored without certainty. */
  readonly unsure: readonly string[];
  readonly pairs: readonly string[];
  /** Frames of the clip, less one, and its rate. */
  readonly cycle: number | undefined;
  readonly fps: number;
  /** Frame of the clip under the playhead. */
  readonly frameNow: () => number;
  /** The same, with the frame before time was changed. */
  readonly sourceNow: () => TimePin;
  /** A new step of a kind, with what is good for the clip. */
  readonly created: (kind: StepKind) => Promise<RecipeStep>;
  /** Shows a frame of the clip. */
  readonly onGo: (frame: number) => void;
  readonly isDrawing: boolean;
  readonly onDraw: (on: boolean) => void;
  /** Other clips whose footfalls can be taken over. */
  readonly others: readonly ClipDoc[];
  readonly onInStep: (id: string, step: RetimeStep, put: (step: RetimeStep) => void) => void;
}

const NO_CLOSINGS: readonly Closing[] = [];
const NO_JOINTS: Skeleton['joints'] = [];
const NO_PAIRS: readonly MirroredPair[] = [];
/** Less sure of a joint's partner than this, and it is said. */
const SURE = 0.7;
/** Milliseconds without a change before the other ways of closing are worked out. */
const QUIET = 400;

interface Shown {
  /** Of what the clip is cut from, once it is open. */
  readonly joints: Skeleton['joints'] | undefined;
  readonly cycle: number | undefined;
  readonly loop: boolean;
  readonly measured: ClipMeasured | null;
  readonly onGo: (frame: number) => void;
}

/** Waits until nothing has changed for a moment: the worker is first of all for what is shown. */
function quiet(signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, QUIET);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      reject(new Error('overtaken'));
    });
  });
}

/** The project's characters, the one that its clips are fitted to first. */
const charactersOf = (data: ProjectData | undefined): string[] =>
  data ? [...new Set([...(data.project.fitTo ? [data.project.fitTo] : []), ...data.characters.map(({ id }) => id)])] : [];

/** The pairs of a mirror in words, and those that are not certain with what they rest on. */
function pairsInWords(all: readonly MirroredPair[]): { unsure: string[]; pairs: string[] } {
  return {
    pairs: all
      .filter(({ isFirst }) => isFirst)
      .map(({ joint, partner, confidence }) => `${joint} ⇄ ${partner}, ${Math.round(confidence * 100)} %`),
    unsure: all.filter(({ confidence }) => confidence < SURE).map(({ joint, reason }) => `${joint}: ${reason}`),
  };
}

/** What the worker is asked besides the clip itself, once that is there. @param recipe null until then */
function useAsked(id: string, recipe: ClipRecipe | null, joint: string) {
  const has = (kind: StepKind) => recipe !== null && stepOf(recipe.steps, kind) !== undefined;
  const closings = useQuery<readonly Closing[]>({
    queryKey: ['closings', id, recipe],
    enabled: has('loop'),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: async ({ signal }): Promise<readonly Closing[]> => {
      await quiet(signal);
      return recipe ? core().closings(id, recipe) : [];
    },
  });
  const traces = useQuery({
    queryKey: ['strides', id, recipe, joint],
    enabled: has('typical-cycle'),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().strides(id, recipe, joint) : null),
  });
  const mirrored = useQuery<readonly MirroredPair[]>({
    queryKey: ['mirrored', id, recipe],
    enabled: has('mirror'),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().mirrored(id, recipe) : []),
  });
  return {
    closings: has('loop') ? (closings.data ?? NO_CLOSINGS) : NO_CLOSINGS,
    traces: traces.data ?? null,
    mirrored: mirrored.data ?? NO_PAIRS,
  };
}

/** Asks the worker for it once the clip itself is there. */
export function useAboutRecipe(
  takes: readonly TakeInfo[],
  take: TakeInfo | null,
  doc: ClipDoc | null,
  docs: readonly ClipDoc[],
  { joints: all = NO_JOINTS, cycle, loop, measured, onGo }: Shown,
): AboutRecipe {
  const { enqueueSnackbar } = useSnackbar();
  const joints = useMemo(() => all.map(({ name }) => name), [all]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [drawing, setDrawing] = useState<string | null>(null);
  const joint = chosen && joints.includes(chosen) ? chosen : (joints.find((name) => /foot|ankle/i.test(name)) ?? joints[0] ?? '');
  const whole = useWholeSteps();
  const { data } = useProjectData();
  const characters = useMemo(() => charactersOf(data), [data]);
  const recipeOf = ({ source: { from, to }, steps }: ClipDoc, of: TakeInfo | null): ClipRecipe => ({ from, to, steps: whole(steps, of) });
  const recipe = doc && recipeOf(doc, take);
  const id = take ? takeKey(take) : '';
  const { closings, traces, mirrored } = useAsked(id, measured !== null && recipe !== null ? recipe : null, joint);
  const { unsure, pairs } = useMemo(() => pairsInWords(mirrored), [mirrored]);
  const frameNow = () => Math.round(usePlayer.getState().frame) % Math.max(1, cycle ?? 1);
  const others = docs.filter((d) => d.id !== doc?.id && stepOf(d.steps, 'loop'));
  return {
    measured,
    closings,
    traces,
    joints,
    joint,
    onJoint: setChosen,
    unsure,
    pairs,
    cycle,
    fps: take?.passport.fps ?? 60,
    frameNow,
    sourceNow: () => {
      const to = frameNow();
      const step = doc && stepOf(doc.steps, 'retime');
      const untimed = step && measured?.steps[step.id]?.untimed;
      if (!untimed || !cycle) return { from: to, to };
      const rest = [{ from: 0, to: 0 }, ...step.pins.filter((pin) => pin.from < untimed.frames), { from: untimed.frames, to: cycle }];
      return { from: Number(timeMap(rest, loop)[to].toFixed(1)), to };
    },
    created: async (kind) => {
      const wish = { clip: null, characters };
      if (!recipe) return createStep(kind, wish);
      // Where the clip cannot be made as it is, the step begins with what is good for any.
      return core()
        .createdStep(id, recipe, kind, characters)
        .catch(() => createStep(kind, wish));
    },
    onGo,
    isDrawing: drawing !== null && drawing === doc?.id,
    onDraw: (on) => {
      setDrawing(on && doc ? doc.id : null);
      // The whole way is seen while it is drawn.
      if (on) useStageOptions.setState({ view: 'fit', measuring: false });
    },
    others,
    onInStep: (otherId, step, put) => {
      const other = docs.find((d) => d.id === otherId);
      const from = takes.find(({ id: t }) => t === other?.source.take);
      const own = measured?.steps[step.id]?.untimed;
      if (!other || !from || !own) return;
      void ensureOpen(from)
        .then(() => core().landings(takeKey(from), recipeOf(other, from)))
        .then((falls) => {
          const pins = pinsInStep(own, falls);
          if (pins) put({ ...step, factor: 1, cadence: undefined, frames: own.frames, pins });
          else
            enqueueSnackbar(`“${other.name}” does not land on the same feet in the same order: let both begin with the same foot.`, {
              variant: 'warning',
            });
        });
    },
  };
}
