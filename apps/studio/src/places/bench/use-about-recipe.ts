import type { Closing, StrideTraces } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import { takeKey } from '@/data/use-open-take';
import type { TakeInfo } from '@/data/project';
import { core } from '@/worker/core';

/** What the cards of a recipe show besides the clip's figures. */
export interface AboutRecipe {
  readonly closings: readonly Closing[];
  readonly traces: StrideTraces | null;
  readonly joints: readonly string[];
  readonly joint: string;
  readonly onJoint: (joint: string) => void;
  /** Frame of the cycle under the playhead. */
  readonly frameNow: () => number;
}

const NO_CLOSINGS: readonly Closing[] = [];

/** Asks the worker for it once the clip itself is there. */
export function useAboutRecipe(take: TakeInfo | null, isReady: boolean, doc: ClipDoc | null, cycle: number | undefined): AboutRecipe {
  const joints = take?.skeleton.joints.map(({ name }) => name) ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const joint = chosen && joints.includes(chosen) ? chosen : (joints.find((name) => /foot|ankle/i.test(name)) ?? joints[0] ?? '');
  const recipe = doc && { from: doc.from, to: doc.to, steps: doc.steps };
  const has = (kind: string) => doc?.steps.some((step) => step.kind === kind && !step.off) ?? false;
  const id = take ? takeKey(take) : '';
  const closings = useQuery({
    queryKey: ['closings', id, recipe],
    enabled: isReady && recipe !== null && has('loop'),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().closings(id, recipe) : []),
  });
  const traces = useQuery({
    queryKey: ['strides', id, recipe, joint],
    enabled: isReady && recipe !== null && has('typical-cycle'),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().strides(id, recipe, joint) : null),
  });
  return {
    closings: has('loop') ? (closings.data ?? NO_CLOSINGS) : NO_CLOSINGS,
    traces: traces.data ?? null,
    joints,
    joint,
    onJoint: setChosen,
    frameNow: () => Math.round(usePlayer.getState().frame) % (cycle ?? 1),
  };
}
