'use client';
import { fieldSchema, isInside, type Sounding } from '@lantern/motion';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import type { FieldDoc } from '@/data/sets-store';
import { ensureNamed } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { FieldView, SetClipAsked } from '@/worker/core.worker';
import type { SetMember } from '@/data/set-view';

/** Soundings along either side of the chart. */
export const GRID = 15;
/** So many are asked of the worker at first, and then at a time: it stays free for what is dragged. */
const BATCH = { first: 4, then: 24 };

/** A place of the grid: on the chart, and as values of the inputs. */
export interface GridPlace {
  readonly index: number;
  readonly place: readonly [number, number];
  readonly at: readonly number[];
}

export interface OpenField {
  readonly view: FieldView | null;
  readonly isPending: boolean;
  readonly error: string | null;
  readonly asked: readonly SetClipAsked[];
  readonly grid: readonly GridPlace[];
  /** By index of the grid. */
  readonly soundings: ReadonlyMap<number, Sounding>;
  /** All of the grid is sounded. */
  readonly isDone: boolean;
}

/** Values of the inputs at a place of the chart. */
export function valuesAt(field: Pick<FieldDoc, 'inputs'>, [x, y]: readonly [number, number]): number[] {
  if (field.inputs.length === 1) return [Math.max(0.05, x)];
  if (field.inputs[1] === 'turn') return [Math.max(0.05, x), y];
  return [Math.hypot(x, y), (Math.atan2(x, y) * 180) / Math.PI];
}

/** A place of the chart for values of the inputs. */
export function placeAt(field: Pick<FieldDoc, 'inputs'>, [first, second = 0]: readonly number[]): readonly [number, number] {
  if (field.inputs[1] !== 'direction') return [first, field.inputs.length > 1 ? second : 0];
  const turn = (second * Math.PI) / 180;
  return [first * Math.sin(turn), first * Math.cos(turn)];
}

/** The box of a field's clips on the chart. */
export function extentOf(view: FieldView): { readonly low: readonly [number, number]; readonly high: readonly [number, number] } {
  const of = (k: 0 | 1) => view.points.map(({ place }) => place[k]);
  return { low: [Math.min(...of(0)), Math.min(...of(1))], high: [Math.max(...of(0)), Math.max(...of(1))] };
}

/** The places of the grid that lie inside of the clips, coarse ones first, so that the whole chart shows something soon. */
function gridOf(field: FieldDoc, view: FieldView): GridPlace[] {
  const { low, high } = extentOf(view);
  const isLine = field.inputs.length === 1 || view.field.triangles.length === 0;
  const out: GridPlace[] = [];
  const at = (k: 0 | 1, i: number) => low[k] + ((high[k] - low[k]) * i) / (GRID - 1);
  for (let i = 0; i < GRID; i++)
    for (let j = 0; j < GRID; j++) {
      const place: readonly [number, number] = [at(0, i), at(1, j)];
      if (isLine ? j !== (low[1] === high[1] ? 0 : Math.round((GRID - 1) / 2)) : !isInside(view.field.triangles, view.field.points, place))
        continue;
      out.push({ index: i * GRID + j, place, at: valuesAt(field, place) });
    }
  const coarse = ({ index }: GridPlace) => {
    const [i, j] = [Math.floor(index / GRID), index % GRID];
    return i % 4 === 0 && j % 4 === 0 ? 0 : i % 2 === 0 && j % 2 === 0 ? 1 : 2;
  };
  return out.sort((a, b) => coarse(a) - coarse(b) || a.index - b.index);
}

/** A field opened: where its clips stand, and its soundings as they come. */
export function useField(field: FieldDoc | null, members: readonly SetMember[]): OpenField {
  const own = useMemo(() => members.filter(({ doc }) => field?.clips.includes(doc.id)), [members, field]);
  const asked = useMemo(() => own.map((member) => member.asked), [own]);
  const blend = useMemo(() => field && fieldSchema.parse(field), [field]);
  const key = JSON.stringify([blend && { ...blend, name: '' }, asked]);
  const view = useQuery({
    queryKey: ['set-field', key],
    enabled: blend !== null && blend.clips.length > 0,
    staleTime: Infinity,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      if (!blend) throw new Error('no field');
      for (const { take } of own) await ensureNamed(take);
      return core().setField({ ...blend, name: '' }, asked);
    },
  });
  const found = view.isPlaceholderData ? null : (view.data ?? null);
  const grid = useMemo(() => (field && found ? gridOf(field, found) : []), [field, found]);
  const [sounded, setSounded] = useState<{ readonly key: string; readonly map: ReadonlyMap<number, Sounding> }>({
    key: '',
    map: new Map(),
  });
  useEffect(() => {
    if (!blend || grid.length === 0) return;
    let isOver = false;
    void (async () => {
      let map: ReadonlyMap<number, Sounding> = new Map();
      while (map.size < grid.length && !isOver) {
        const batch = grid.slice(map.size, map.size + (map.size > 0 ? BATCH.then : BATCH.first));
        const next = await core().setSoundings(
          { ...blend, name: '' },
          asked,
          batch.map(({ at }) => at),
        );
        if (isOver || 'problem' in next) return;
        const grown = new Map(map);
        next.forEach((sounding, k) => grown.set(batch[k].index, sounding));
        map = grown;
        setSounded({ key, map });
      }
    })().catch(() => {});
    return () => {
      isOver = true;
    };
  }, [key, blend, asked, grid]);
  const soundings = sounded.key === key ? sounded.map : NONE;
  return {
    view: view.data ?? null,
    isPending: view.isPending && (field?.clips.length ?? 0) > 0,
    error: view.error?.message ?? null,
    asked,
    grid,
    soundings,
    isDone: grid.length > 0 && soundings.size === grid.length,
  };
}

const NONE: ReadonlyMap<number, Sounding> = new Map();
