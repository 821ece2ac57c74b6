import { useQueryClient } from '@tanstack/react-query';
import pLimit from 'p-limit';
import { useCallback, useMemo, useState } from 'react';
import { RequestError } from '@/data/fetch-json';
import { gathering } from '@/data/gathering';
import { packGltf } from '@/data/pack-gltf';
import { projectKey, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { uploadArchive, uploadFile, type Arrived } from '@/data/upload';

/** A file that comes in. */
export interface Arrival {
  readonly id: number;
  readonly name: string;
  readonly share: number;
  readonly state: 'waiting' | 'sending' | 'reading' | 'done' | 'failed' | 'stopped';
  readonly problem?: string;
  /** What else there is to say: several takes in it, or that it was here already. */
  readonly said?: string;
  readonly stop: AbortController;
}

/** Files sent at a time: one is on its way while one is read. */
const AT_ONCE = 2;
/** So often at most the list of takes grows, and the progress is drawn anew, ms: a hundred files that come at once leave the page to the hand. */
const TAKES_MS = 1500;
const PROGRESS_MS = 200;

let nextId = 1;

/** Brings files in, a few at a time; one bad file never stops the others. */
export function useBringIn() {
  const project = useProjectInfo();
  const client = useQueryClient();
  const [arrivals, setArrivals] = useState<readonly Arrival[]>([]);
  const changes = useMemo(
    () =>
      gathering<{ readonly id: number; readonly patch: Partial<Arrival> }>((all) => {
        const patches = new Map<number, Partial<Arrival>>();
        for (const { id, patch } of all) patches.set(id, { ...patches.get(id), ...patch });
        setArrivals((list) => list.map((arrival) => (patches.has(arrival.id) ? { ...arrival, ...patches.get(arrival.id) } : arrival)));
      }, PROGRESS_MS),
    [],
  );
  const change = useCallback(
    (id: number, patch: Partial<Arrival>) => {
      changes.add({ id, patch });
      // How far it is may wait; what became of it may not.
      if (patch.state) changes.flush();
    },
    [changes],
  );
  const inProject = useMemo(
    () =>
      gathering<readonly TakeInfo[]>((all) => {
        client.setQueryData<ProjectData>(projectKey(project.id), (data) => data && { ...data, takes: [...data.takes, ...all.flat()] });
      }, TAKES_MS),
    [client, project.id],
  );
  const send = useCallback(
    async (file: File, { id, stop }: Arrival, besides: ReadonlyMap<string, File>): Promise<readonly TakeInfo[]> => {
      if (stop.signal.aborted) return [];
      change(id, { state: 'sending' });
      try {
        let wasRead = false;
        const told = (share: number, isRead: boolean) => {
          change(id, isRead === wasRead ? { share } : { share, state: isRead ? 'reading' : 'sending' });
          wasRead = isRead;
        };
        if (/\.zip$/i.test(file.name)) {
          await uploadArchive(file, told, stop.signal);
          change(id, { state: 'done', share: 1, said: 'a project of its own: open it from all projects' });
          return [];
        }
        const arrived = await uploadFile(project.id, await packGltf(file, besides), told, stop.signal);
        change(id, { state: 'done', share: 1, said: saidOf(arrived) });
        inProject.add(arrived.takes);
        return arrived.takes;
      } catch (error) {
        const problem = error instanceof RequestError ? error.message : 'The file could not be read.';
        change(id, stop.signal.aborted ? { state: 'stopped' } : { state: 'failed', problem });
        return [];
      }
    },
    [change, inProject, project.id],
  );
  const bringIn = useCallback(
    async (dropped: readonly File[]): Promise<readonly TakeInfo[]> => {
      // Buffers of a .gltf are no files of their own.
      const files = dropped.filter((file) => !/\.bin$/i.test(file.name) || !dropped.some(({ name }) => /\.gltf$/i.test(name)));
      const fresh = files.map((file): readonly [File, Arrival] => [
        file,
        { id: nextId++, name: file.name, share: 0, state: 'waiting', stop: new AbortController() },
      ]);
      setArrivals((list) => [...list.filter(({ state }) => isOpen(state)), ...fresh.map(([, arrival]) => arrival)]);
      const besides = new Map(dropped.map((file) => [file.name, file]));
      const limit = pLimit(AT_ONCE);
      const sendAll = (some: typeof fresh) => Promise.all(some.map(([file, arrival]) => limit(() => send(file, arrival, besides))));
      // Skeletons first, wherever they are in the pile: one that is still on its way would be missed by its motions.
      const skeletons = await sendAll(fresh.filter(([file]) => isSkeleton(file)));
      const others = await sendAll(fresh.filter(([file]) => !isSkeleton(file)));
      inProject.flush();
      return [...skeletons, ...others].flat();
    },
    [inProject, send],
  );
  return { arrivals, bringIn, clear: useCallback(() => setArrivals([]), []) };
}

const isOpen = (state: Arrival['state']) => state === 'waiting' || state === 'sending' || state === 'reading';

const isSkeleton = (file: File) => /\.asf$/i.test(file.name);

function saidOf({ takes, duplicates, skeleton }: Arrived): string | undefined {
  if (skeleton) return 'a skeleton, kept for its motions';
  if (takes.length === 0) return `here already as “${duplicates[0]}”`;
  return takes.length > 1 ? `${takes.length} takes` : undefined;
}
