'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { createElement, useEffect, useRef } from 'react';
import { Button } from '@mui/material';
import { z } from 'zod';
import { asJson, fetchAs, fetchJson } from '@/data/fetch-json';
import { download } from '@/data/keep-file';
import { useProjectInfo } from '@/data/project';
import { shipmentReportSchema, shipmentsSchema, type Report, type ShipmentInput, type ShipmentRow } from '@/http/shipment';
import type { ShipChoice } from './use-desk';

/** Milliseconds between looks while a shipment is on its way. */
const LOOK = 600;

export const isOnItsWay = ({ state }: Pick<ShipmentRow, 'state'>): boolean => state === 'making' || state === 'packing';
export const zipOf = (id: string): string => `/api/shipments/${id}/zip`;

const NONE: readonly ShipmentRow[] = [];

/** Shipments so far, and what is done with them. What was shipped here is handed to the browser as soon as it has arrived. */
export function useShipments() {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const key = ['shipments', project.id];
  const again = () => client.invalidateQueries({ queryKey: key });
  const failed = (error: Error) => enqueueSnackbar(error.message, { variant: 'warning' });
  const { data, error, isPending } = useQuery({
    queryKey: key,
    queryFn: () => fetchAs(shipmentsSchema, `/api/projects/${project.id}/shipments`),
    refetchInterval: ({ state }) => (state.data?.shipments.some(isOnItsWay) ? LOOK : false),
  });
  const shipments = data?.shipments ?? NONE;
  const mine = useRef(new Set<string>());
  useEffect(() => {
    for (const { id, state } of shipments) {
      if (!mine.current.has(id) || isOnItsWay({ state })) continue;
      mine.current.delete(id);
      if (state === 'done') download(zipOf(id));
      // What is known of clips since the last shipment is another.
      void client.invalidateQueries({ queryKey: ['readiness', project.id] });
    }
  }, [shipments, client, project.id]);
  const start = useMutation({
    mutationFn: (ship: ShipChoice) =>
      fetchAs(z.object({ id: z.string() }), `/api/projects/${project.id}/shipments`, asJson('POST', { ship } satisfies ShipmentInput)),
    onSuccess: ({ id }) => {
      mine.current.add(id);
      return again();
    },
    onError: failed,
  });
  const stop = useMutation({
    mutationFn: (id: string) => fetchJson(`/api/shipments/${id}`, { method: 'DELETE' }),
    onSuccess: again,
    onError: failed,
  });
  const bringBack = useMutation({
    mutationFn: (id: string) => fetchJson(`/api/shipments/${id}`, asJson('PATCH', { removed: false })),
    onSuccess: again,
    onError: failed,
  });
  const takeBack = useMutation({
    mutationFn: (id: string) => fetchJson(`/api/shipments/${id}`, { method: 'DELETE' }),
    onSuccess: async (_, id) => {
      await again();
      enqueueSnackbar('The shipment is taken back: the next is held against the one before it.', {
        action: () => createElement(Button, { color: 'inherit', onClick: () => bringBack.mutate(id) }, 'undo'),
      });
    },
    onError: failed,
  });
  return {
    shipments,
    error,
    isPending,
    start: start.mutate,
    isStarting: start.isPending,
    stop: stop.mutate,
    takeBack: takeBack.mutate,
  };
}

/** The report of a shipment that has arrived. */
export function useShipmentReport(id: string | null): Report | null {
  const { data } = useQuery({
    queryKey: ['shipment', id],
    enabled: id !== null,
    staleTime: Infinity,
    queryFn: () => fetchAs(shipmentReportSchema, `/api/shipments/${id}`),
  });
  return data ?? null;
}
