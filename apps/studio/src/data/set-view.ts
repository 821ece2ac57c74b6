'use client';
import { characterIn, type ClipTraits } from '@lantern/motion';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { core } from '@/worker/core';
import type { SetClipAsked, SetMeasured } from '@/worker/core.worker';
import { useClips, type ClipDoc } from './clips-store';
import { useWholeSteps } from './fits';
import type { TakeInfo } from './project';
import type { SetDoc } from './sets-store';
import { characterOf, useSources } from './sources';
import { ensureNamed, takeKey } from './use-open-take';

/** A clip of a set: as it is asked for, and what has to be open for it. */
export interface SetMember {
  readonly doc: ClipDoc;
  readonly take: TakeInfo;
  readonly asked: SetClipAsked;
}

/** The clips of a set's character. */
export function useMembers(doc: SetDoc | null, takes: readonly TakeInfo[]): readonly SetMember[] {
  const clips = useClips((state) => state.docs);
  const sources = useSources(takes);
  const whole = useWholeSteps();
  const character = doc ? doc.character : undefined;
  return useMemo(
    () =>
      clips.flatMap((clip) => {
        const take = sources.all.find(({ id }) => id === clip.source.take);
        if (!take || character === undefined) return [];
        const steps = whole(clip.steps, take);
        if ((characterIn(steps) ?? characterOf(take)) !== character) return [];
        const { from, to } = clip.source;
        return [{ doc: clip, take, asked: { id: clip.id, name: clip.name, take: takeKey(take), recipe: { from, to, steps } } }];
      }),
    [clips, sources, whole, character],
  );
}

/** What is known of a set. */
export interface SetView {
  readonly members: readonly SetMember[];
  readonly traits: ReadonlyMap<string, ClipTraits>;
  /** Clips that cannot be measured, and why. */
  readonly failed: readonly { readonly id: string; readonly name: string; readonly why: string }[];
  /** How many of the clips have been measured. */
  readonly done: number;
  readonly measured: SetMeasured | null;
  readonly error: string | null;
  readonly isBusy: boolean;
}

const traitsOf = async ({ take, asked }: SetMember) => {
  await ensureNamed(take);
  return core().setTraits(asked);
};

/** A set, measured clip by clip; what was known stays while something of it is measured anew. */
export function useSetView(doc: SetDoc | null, members: readonly SetMember[]): SetView {
  const results = useQueries({
    queries: members.map((member) => ({
      queryKey: ['set-clip', member.asked.take, JSON.stringify(member.asked.recipe)],
      staleTime: Infinity,
      retry: false,
      queryFn: () => traitsOf(member),
    })),
  });
  const done = results.filter(({ isPending }) => !isPending).length;
  const key = JSON.stringify([doc && { ...doc, fields: undefined, shots: doc.shots }, members.map(({ asked }) => asked)]);
  const whole = useQuery<SetMeasured>({
    queryKey: ['set', key],
    enabled: doc !== null && done === members.length,
    staleTime: Infinity,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      if (!doc) throw new Error('no set');
      // A clip whose take cannot be opened is said so by itself.
      const whoCan = members.filter((_, i) => results[i]?.data !== undefined);
      for (const { take } of whoCan) await ensureNamed(take);
      return core().setMeasured({ set: doc, clips: whoCan.map(({ asked }) => asked) });
    },
  });
  const traits = new Map<string, ClipTraits>();
  const failed: { id: string; name: string; why: string }[] = [];
  results.forEach(({ data, error }, i) => {
    const { id, name } = members[i].doc;
    if (data && !('problem' in data)) traits.set(id, data);
    const why = data && 'problem' in data ? data.problem : error?.message;
    if (why) failed.push({ id, name, why });
  });
  return {
    members,
    traits,
    failed,
    done,
    measured: whole.data ?? null,
    error: whole.error?.message ?? null,
    isBusy: done < members.length || whole.isFetching,
  };
}
