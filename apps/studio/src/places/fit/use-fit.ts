'use client';
import { PARTS, type FitOverrides, type Part } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useFitEdits } from '@/data/fits';
import { useProjectData, type TakeInfo } from '@/data/project';
import { core } from '@/worker/core';

const NO_SETTINGS: FitOverrides = {};

/** What is settled for a take's suit and a character, and how to change it. */
export function useFitSettings(take: TakeInfo | null, character: string | null) {
  const { data } = useProjectData();
  const { edit } = useFitEdits();
  const source = take?.signature;
  const saved = data?.fits.find((fit) => fit.source === source && fit.character === character);
  const settings = saved?.settings ?? NO_SETTINGS;
  const change = (after: FitOverrides) => {
    if (source !== undefined && character !== null) edit({ source, character, before: settings, after });
  };
  return { settings, isSaved: saved !== undefined, change };
}

const orThrow = <T extends object>(answer: T | { problem: string }): T => {
  if ('problem' in answer) throw new Error(answer.problem);
  return answer;
};

/** Who is mapped to whom, and the references. @param id of an open take in the worker */
export function useFitView(id: string, isOpen: boolean, character: string | null, settings: FitOverrides) {
  return useQuery({
    queryKey: ['fit-view', id, character, JSON.stringify(settings)],
    enabled: isOpen && character !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
    placeholderData: (before) => before,
    queryFn: async () => orThrow(await core().fitView(id, character ?? '', settings)),
  });
}

/** The take on the character. @param id of an open take in the worker */
export function useFitted(id: string, isOpen: boolean, character: string | null, settings: FitOverrides) {
  return useQuery({
    queryKey: ['fitted', id, character, JSON.stringify(settings)],
    enabled: isOpen && character !== null,
    staleTime: Infinity,
    gcTime: 30_000,
    retry: false,
    placeholderData: (before) => before,
    queryFn: async () => orThrow(await core().fitted(id, character ?? '', settings)),
  });
}

/** A hue for each part, the same on both figures; sides are told apart by being left and right. */
export const hueOf = (part: Part): string => {
  const bare = part.replace(/^(left|right)/, '');
  const kinds = [...new Set(PARTS.map((p) => p.replace(/^(left|right)/, '')))];
  const hue = (kinds.indexOf(bare) * 137.5 + 30) % 360;
  return `hsl(${hue.toFixed(0)}, 46%, ${part.startsWith('right') ? 42 : 56}%)`;
};

/** Colours of the joints that parts have. */
export function useTints(
  parts: Readonly<Partial<Record<Part, { readonly joints: readonly number[] }>>> | undefined,
  on: boolean,
): ReadonlyMap<number, string> | undefined {
  return useMemo(() => {
    if (!parts || !on) return undefined;
    return new Map(PARTS.flatMap((part) => (parts[part]?.joints ?? []).map((joint) => [joint, hueOf(part)] as const)));
  }, [parts, on]);
}
