'use client';
import {
  heldFigures,
  NO_CONTRACT,
  setBoundsSchema,
  shipTroubles,
  type HeldFigure,
  type SetBounds,
  type ShipTrouble,
} from '@lantern/motion';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useClips } from '@/data/clips-store';
import { asJson, fetchAs } from '@/data/fetch-json';
import { useJoins } from '@/data/joins-store';
import { useProjectData, useProjectInfo } from '@/data/project';
import { useSets, type SetDoc } from '@/data/sets-store';
import { readinessSchema, type ReadinessInput, type ReadyRow } from '@/http/shipment';
import type { ShipChoice } from './use-desk';

/** A clip as it would leave, beside the bounds of its set. */
export interface ReadyClip {
  readonly id: string;
  readonly name: string;
  readonly row: ReadyRow;
  /** Whose it is, in words. */
  readonly who: string;
  readonly held: readonly HeldFigure[];
  readonly troubles: readonly ShipTrouble[];
  /** Made, and all of it in bounds. */
  readonly isReady: boolean;
}

export interface ReadinessView {
  readonly clips: readonly ReadyClip[];
  /** Clips that are still made or measured. */
  readonly open: number;
  readonly isPending: boolean;
  readonly error: Error | null;
  readonly retry: () => void;
}

/** Milliseconds between looks while something is still made. */
const LOOK = 700;
/** The bounds where no set says any. */
export const FIRST_BOUNDS: SetBounds = setBoundsSchema.parse({});

/** The set that a character's clips are held to. */
export const setOf = (sets: readonly SetDoc[], character: string | null): SetDoc | undefined =>
  sets.find((own) => own.character === character);

/** Every clip and join as it would leave, the worst first as soon as all are measured. */
export function useReadiness(choice: ShipChoice): ReadinessView {
  const project = useProjectInfo();
  const stands = useStands();
  const { data: stored, dataUpdatedAt } = useProjectData();
  const sets = useSets((state) => state.docs);
  const { fps, thin, lastKey, rootMotion } = choice;
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['readiness', project.id, stands.key, dataUpdatedAt, JSON.stringify([fps, thin, lastKey, rootMotion])],
    // What is not saved yet the server does not know.
    enabled: stands.isSaved,
    placeholderData: keepPreviousData,
    retry: 1,
    refetchInterval: ({ state }) => (state.data?.rows.some(isOpen) ? LOOK : false),
    queryFn: () =>
      fetchAs(
        readinessSchema,
        `/api/projects/${project.id}/readiness`,
        asJson('POST', { ship: { fps, thin, lastKey, rootMotion } } satisfies ReadinessInput),
      ),
  });
  const measured = useMemo(() => {
    const nameOf = (character: string | null) =>
      character === null ? 'as captured' : (stored?.characters.find(({ id }) => id === character)?.name ?? character);
    return (data?.rows ?? []).map((row) => readyClip(row, nameOf(row.character), setOf(sets, row.character)));
  }, [data, stored, sets]);
  const open = (data?.rows ?? []).filter(isOpen).length;
  const clips = useSteadyOrder(measured, open > 0);
  return { clips, open, isPending: isPending && !data, error, retry: () => void refetch() };
}

/** The worst first; while some are still measured all stay where they are, so that no row moves away under a hand. */
function useSteadyOrder(clips: readonly ReadyClip[], isMeasuring: boolean): readonly ReadyClip[] {
  const [order, setOrder] = useState<readonly string[]>([]);
  const sorted = useMemo(() => [...clips].sort(isMeasuring ? asBefore(order) : worstFirst), [clips, isMeasuring, order]);
  if (sorted.length !== order.length || sorted.some(({ id }, i) => id !== order[i])) setOrder(sorted.map(({ id }) => id));
  return sorted;
}

/** As an order has them; what is new comes after. */
export function asBefore(order: readonly string[]): (a: { readonly id: string }, b: { readonly id: string }) => number {
  const places = new Map(order.map((id, i) => [id, i]));
  const placeIn = ({ id }: { readonly id: string }) => places.get(id) ?? order.length;
  return (a, b) => placeIn(a) - placeIn(b);
}

const isOpen = ({ state }: ReadyRow): boolean => state === 'waiting' || state === 'running';

/** What is known of the documents: another text after every save, and whether all of them are saved. */
function useStands(): { readonly key: string; readonly isSaved: boolean } {
  const clips = useClips((state) => state.saved);
  const joins = useJoins((state) => state.saved);
  const sets = useSets((state) => state.saved);
  const states = [useClips((state) => state.state), useJoins((state) => state.state), useSets((state) => state.state)];
  const key = useMemo(
    () =>
      [clips, joins, sets]
        .map((all) =>
          Object.entries(all)
            .map(([id, { revision }]) => `${id}@${revision}`)
            .join(),
        )
        .join(';'),
    [clips, joins, sets],
  );
  return { key, isSaved: states.every((state) => state === 'saved') };
}

/** A row held to the bounds of its set. */
export function readyClip(row: ReadyRow, who: string, set: SetDoc | undefined): ReadyClip {
  const { about } = row;
  const bounds = set?.bounds ?? FIRST_BOUNDS;
  const contract = set?.contract ?? NO_CONTRACT;
  const held = about ? heldFigures(about, bounds, contract) : [];
  const troubles = about ? shipTroubles(about, bounds, contract) : [];
  return { id: row.id, name: row.name, row, who, held, troubles, isReady: about !== null && troubles.length === 0 };
}

/** Those that cannot be made, then those out of bounds, then by how near a figure comes to its bound. */
function worstFirst(a: ReadyClip, b: ReadyClip): number {
  const rank = ({ row, troubles }: ReadyClip) => (row.state === 'failed' ? 0 : troubles.length > 0 ? 1 : 2);
  return rank(a) - rank(b) || nearest(b) - nearest(a) || a.name.localeCompare(b.name);
}

/** How near its nearest figure comes to its bound, as a share of it; length and size say nothing of quality. */
const nearest = ({ held }: ReadyClip): number =>
  Math.max(
    0,
    ...held.map(({ figure, counts, bound, isOut }) =>
      (figure === 'seconds' || figure === 'sizeKb') && !isOut ? 0 : (counts ?? 0) / Math.max(1e-6, bound ?? Infinity),
    ),
  );
