'use client';
import type { Cut, LoopSearch, Seam } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { noteFigures } from '@/data/figures';
import { useWholeSteps } from '@/data/fits';
import { takeKey, useOpenTake } from '@/data/use-open-take';
import type { TakeInfo } from '@/data/project';
import { core } from '@/worker/core';
import type { ClipMeasured, ClipResult, Reading } from '@/worker/core.worker';
import type { WireMotion } from '@/worker/wire';

export type { Cut };

export type Preview = 'take' | 'place' | 'travel';

/** Loop candidates of an open take. */
export function useLoops(take: TakeInfo | null, isOpen: boolean) {
  return useQuery<LoopSearch>({
    queryKey: ['loops', take && takeKey(take)],
    enabled: take !== null && isOpen,
    staleTime: Infinity,
    queryFn: () => core().loops(take ? takeKey(take) : ''),
  });
}

/** What is done in an open take, and the clips it offers. */
export function useReading(take: TakeInfo | null, isOpen: boolean) {
  return useQuery<Reading>({
    queryKey: ['reading', take && takeKey(take)],
    enabled: take !== null && isOpen,
    staleTime: Infinity,
    queryFn: () => core().reading(take ? takeKey(take) : ''),
  });
}

/** The end poses of a cut over each other, while one is looked at. */
export function useEndPoses(take: TakeInfo | null, cut: Cut | null): WireMotion | null {
  const id = take ? takeKey(take) : '';
  const { data } = useQuery({
    queryKey: ['end-poses', id, cut?.from, cut?.to],
    enabled: cut !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    queryFn: () => core().endPoses(id, cut?.from ?? 0, cut?.to ?? 0),
  });
  return cut ? (data ?? null) : null;
}

const NO_PARTNERS = { ins: [], outs: [] };

/** Where each post would make the best seams with the other. */
export function usePartners(id: string, cut: Cut | null): { readonly ins: readonly number[]; readonly outs: readonly number[] } {
  const { data } = useQuery({
    queryKey: ['partners', id, cut?.from, cut?.to],
    enabled: cut !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    queryFn: () => core().partners(id, cut?.from ?? 0, cut?.to ?? 1),
  });
  return data ?? NO_PARTNERS;
}

/** The seam figures of a cut, newest first wins: while a post is dragged they follow in the same frame. */
export function useSeam(take: TakeInfo | null, isOpen: boolean, cut: Cut | null): Seam | null {
  const [seam, setSeam] = useState<Seam | null>(null);
  const newest = useRef(0);
  const id = take && takeKey(take);
  const from = cut?.from;
  const to = cut?.to;
  useEffect(() => {
    if (!id || !isOpen || from === undefined || to === undefined) return setSeam(null);
    const mine = ++newest.current;
    void core()
      .seam(id, from, to)
      .then((found) => {
        if (mine === newest.current) setSeam(found);
      });
  }, [id, isOpen, from, to]);
  return seam;
}

/** Runs the recipe of a clip whenever it changes: first what is shown, then what is measured of it. */
export function useClipResult(take: TakeInfo | null, isOpen: boolean, doc: ClipDoc | null, repeats: number, inPlace: boolean) {
  const from = doc?.source.from;
  const to = doc?.source.to;
  const whole = useWholeSteps();
  const own = doc?.steps;
  const steps = useMemo(() => own && whole(own, take), [own, take, whole]);
  const recipe = useMemo(() => (steps && from !== undefined && to !== undefined ? { from, to, steps } : null), [from, to, steps]);
  const key = JSON.stringify([take && takeKey(take), recipe, repeats, inPlace]);
  const result = useQuery<ClipResult>({
    queryKey: ['clip', key],
    enabled: take !== null && isOpen && recipe !== null,
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: async () => {
      if (!take || !recipe) throw new Error('no clip');
      return core().clip(takeKey(take), recipe, { repeats, inPlace });
    },
  });
  const measured = useQuery<ClipMeasured>({
    queryKey: ['measured', key],
    enabled: result.data !== undefined && !result.isPlaceholderData,
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
    queryFn: async () => {
      if (!take || !recipe) throw new Error('no clip');
      return core().measured(takeKey(take), recipe, { repeats, inPlace });
    },
  });
  const id = doc?.id;
  const { data, isPlaceholderData } = measured;
  useEffect(() => {
    if (id && data && !isPlaceholderData) noteFigures(id, data.figures);
  }, [id, data, isPlaceholderData]);
  return { result, measured };
}

/** The clip at the address, the take it is cut from, and that take opened. */
export function useBench(takes: readonly TakeInfo[], clip: string | null, wantedTake: string | null) {
  const docs = useClips((state) => state.docs);
  const doc = docs.find((d) => d.id === clip) ?? (clip || wantedTake ? null : (docs[0] ?? null));
  const take = takes.find((t) => t.id === (doc?.source.take ?? wantedTake)) ?? (doc || wantedTake || clip ? null : (takes[0] ?? null));
  const opened = useOpenTake(take);
  return { docs, doc, take, opened };
}
