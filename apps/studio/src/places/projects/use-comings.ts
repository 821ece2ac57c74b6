'use client';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { asJson, fetchAs, RequestError } from '@/data/fetch-json';
import { projectBegunSchema } from '@/data/projects';
import { askShare, uploadArchive, type Progress } from '@/data/upload';

/** A project that is on its way: an archive that is read, or the demo that is made. */
export interface Coming {
  readonly id: number;
  readonly name: string;
  readonly share: number;
  readonly says: string;
  readonly problem: string | null;
  readonly stop: AbortController;
}

let next = 1;

/** Projects on their way. @param came hears what each goes by that has arrived */
export function useComings(came: (id: string) => void) {
  const client = useQueryClient();
  const [comings, setComings] = useState<readonly Coming[]>([]);
  const drop = (id: number) => setComings((all) => all.filter((own) => own.id !== id));

  const follow = async (name: string, says: string, run: (progress: Progress, signal: AbortSignal) => Promise<{ id: string }>) => {
    const own: Coming = { id: next++, name, share: 0, says, problem: null, stop: new AbortController() };
    const change = (patch: Partial<Coming>) => setComings((all) => all.map((each) => (each.id === own.id ? { ...each, ...patch } : each)));
    setComings((all) => [...all, own]);
    try {
      const { id } = await run((share, isRead) => change({ share, says: isRead ? says : 'on its way' }), own.stop.signal);
      drop(own.id);
      came(id);
    } catch (error) {
      if (own.stop.signal.aborted) drop(own.id);
      else change({ problem: error instanceof RequestError ? error.message : 'It could not be brought in.' });
    } finally {
      await client.invalidateQueries({ queryKey: ['projects'] });
    }
  };

  const make = (name: string, says: string, what: { demo: true } | { day: true }) =>
    void follow(name, says, async (progress, signal) => {
      const arrival = crypto.randomUUID();
      const end = askShare(arrival, progress);
      return fetchAs(projectBegunSchema, '/api/projects', { ...asJson('POST', { ...what, arrival }), signal }).finally(end);
    });

  return {
    comings,
    drop,
    bringIn: (files: readonly File[]) => {
      for (const file of files) void follow(file.name, 'being read', (progress, signal) => uploadArchive(file, progress, signal));
    },
    bringDemo: () => make('Gullmouth, the demo', 'being made', { demo: true }),
    captureDay: () => make('A capture day', 'being captured', { day: true }),
  };
}
