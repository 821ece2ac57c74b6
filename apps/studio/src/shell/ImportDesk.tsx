'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, LinearProgress, Paper, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode, type RefObject } from 'react';
import { useDropzone } from 'react-dropzone';
import { RequestError } from '@/data/fetch-json';
import { projectKey, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { packGltf } from '@/data/pack-gltf';
import { uploadFile, type Arrived } from '@/data/upload';
import { chart } from '@/controls/theme';

interface Arrival {
  readonly id: number;
  readonly name: string;
  readonly share: number;
  readonly state: 'waiting' | 'sending' | 'reading' | 'done' | 'failed' | 'stopped';
  readonly problem?: string;
  /** What else there is to say: several takes in it, or that it was here already. */
  readonly said?: string;
  readonly stop: AbortController;
}

interface Desk {
  /** Opens the file dialog. */
  readonly browse: () => void;
  /** Brings files in and says which takes of the project they are. */
  readonly bringIn: (files: readonly File[]) => Promise<readonly TakeInfo[]>;
  /** What becomes of files that are dropped on a take of the list (an element with `data-take`). */
  readonly onTake: RefObject<((take: string, files: readonly File[]) => void) | null>;
}

const DeskContext = createContext<Desk>({ browse: () => {}, bringIn: () => Promise.resolve([]), onTake: { current: null } });
export const useImportDesk = () => useContext(DeskContext);

let nextId = 1;

/** The whole window takes files; each shows its progress, and one bad file never stops the others. */
export function ImportDesk({ children }: { children: ReactNode }) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const router = useRouter();
  const [arrivals, setArrivals] = useState<readonly Arrival[]>([]);
  const change = useCallback((id: number, patch: Partial<Arrival>) => {
    setArrivals((list) => list.map((arrival) => (arrival.id === id ? { ...arrival, ...patch } : arrival)));
  }, []);

  const bringIn = useCallback(
    async (dropped: readonly File[]): Promise<readonly TakeInfo[]> => {
      // Buffers of a .gltf are no files of their own.
      const files = dropped.filter((file) => !/\.bin$/i.test(file.name) || !dropped.some(({ name }) => /\.gltf$/i.test(name)));
      const fresh = files.map((file) => ({
        file,
        arrival: { id: nextId++, name: file.name, share: 0, state: 'waiting', stop: new AbortController() } satisfies Arrival,
      }));
      setArrivals((list) => [
        ...list.filter((a) => a.state !== 'done' && a.state !== 'stopped' && a.state !== 'failed'),
        ...fresh.map(({ arrival }) => arrival),
      ]);
      const arrivedTakes: TakeInfo[] = [];
      // Skeletons first: the motions that fit them may be anywhere in the pile. Two at a time: one is sent while one is read.
      const queue = [...fresh].sort((a, b) => Number(isSkeleton(b.file)) - Number(isSkeleton(a.file)));
      const besides = new Map(dropped.map((file) => [file.name, file]));
      const work = async () => {
        for (let next = queue.shift(); next; next = queue.shift()) {
          const { file, arrival } = next;
          if (arrival.stop.signal.aborted) continue;
          change(arrival.id, { state: 'sending' });
          try {
            const arrived = await uploadFile(
              project.id,
              await packGltf(file, besides),
              (share) => change(arrival.id, { share, state: share < 1 ? 'sending' : 'reading' }),
              arrival.stop.signal,
            );
            change(arrival.id, { state: 'done', share: 1, said: saidOf(arrived) });
            client.setQueryData<ProjectData>(
              projectKey(project.id),
              (data) => data && { ...data, takes: [...data.takes, ...arrived.takes] },
            );
            arrivedTakes.push(...arrived.takes);
          } catch (error) {
            const isStopped = arrival.stop.signal.aborted;
            change(arrival.id, {
              state: isStopped ? 'stopped' : 'failed',
              problem: isStopped ? undefined : error instanceof RequestError ? error.message : 'The file could not be read.',
            });
          }
        }
      };
      // A skeleton that is still on its way would be missed by its motions.
      if (queue.some(({ file }) => isSkeleton(file))) await work();
      else await Promise.all([work(), work()]);
      return arrivedTakes;
    },
    [change, client, project.id],
  );

  const onTake: Desk['onTake'] = useRef(null);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files, _, event) => {
      const target = 'target' in event ? event.target : null;
      const under = target instanceof Element ? target.closest<HTMLElement>('[data-take]')?.dataset.take : undefined;
      if (under && onTake.current) return onTake.current(under, files);
      void bringIn(files).then((takes) => {
        const last = takes.at(-1);
        if (last) router.push(`/${project.id}/takes/${last.id}`);
      });
    },
    noClick: true,
    noKeyboard: true,
  });
  const desk = useMemo(() => ({ browse: open, bringIn, onTake }), [open, bringIn]);
  return (
    <DeskContext value={desk}>
      <div {...getRootProps()}>
        <input {...getInputProps({ 'aria-label': 'Take files' })} />
        {children}
        {isDragActive && (
          <Box
            sx={{
              position: 'fixed',
              inset: 0,
              zIndex: 1400,
              display: 'grid',
              placeItems: 'center',
              textAlign: 'center',
              bgcolor: 'rgba(14,29,33,0.55)',
              border: `4px solid ${chart('lamp')}`,
              pointerEvents: 'none',
            }}
          >
            <Typography sx={{ fontFamily: 'Alegreya', fontSize: 30, color: '#F5F0E4' }}>
              Let go to bring these takes in
              <br />
              <span style={{ fontSize: 20 }}>or on a take of the list, to redeliver it</span>
            </Typography>
          </Box>
        )}
      </div>
      <Arrivals arrivals={arrivals} onClose={() => setArrivals([])} />
    </DeskContext>
  );
}

const isSkeleton = (file: File) => /\.asf$/i.test(file.name);

function saidOf({ takes, duplicates, skeleton }: Arrived): string | undefined {
  if (skeleton) return 'a skeleton, kept for its motions';
  if (takes.length === 0) return `here already as “${duplicates[0]}”`;
  return takes.length > 1 ? `${takes.length} takes` : undefined;
}

const WORDS: Record<Arrival['state'], string> = {
  waiting: 'waiting',
  sending: 'on its way',
  reading: 'being read',
  done: 'in',
  failed: '',
  stopped: 'stopped',
};

function Arrivals({ arrivals, onClose }: { arrivals: readonly Arrival[]; onClose: () => void }) {
  if (arrivals.length === 0) return null;
  const isBusy = arrivals.some(({ state }) => state === 'waiting' || state === 'sending' || state === 'reading');
  const done = arrivals.filter(({ state }) => state === 'done').length;
  return (
    <Paper
      role="region"
      aria-label="Arriving takes"
      elevation={6}
      sx={{
        position: 'fixed',
        right: 16,
        bottom: 16,
        width: 400,
        maxHeight: 320,
        overflow: 'auto',
        zIndex: 1300,
        p: 1.5,
        border: `1px solid ${chart('rule')}`,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h3" sx={{ flex: 1 }} role="status">
          {isBusy
            ? `Bringing takes in: ${done} of ${arrivals.length}`
            : `${done} of ${arrivals.length} ${arrivals.length === 1 ? 'file' : 'files'} came in`}
        </Typography>
        {isBusy ? (
          <Button onClick={() => arrivals.forEach(({ stop }) => stop.abort())}>stop all</Button>
        ) : (
          <Sign name="Close" onClick={onClose}>
            <CloseIcon />
          </Sign>
        )}
      </Box>
      {arrivals.map(({ id, name, share, state, problem, said, stop }) => (
        <Box key={id} sx={{ mt: 0.8 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Typography variant="body2" noWrap sx={{ flex: 1, fontWeight: 500 }}>
              {name}
            </Typography>
            <Typography variant="caption" color="text.secondary">
              {said ?? WORDS[state]}
            </Typography>
            {(state === 'waiting' || state === 'sending') && (
              <Button sx={{ py: 0, minWidth: 0 }} onClick={() => stop.abort()}>
                stop
              </Button>
            )}
          </Box>
          {(state === 'sending' || state === 'reading') && (
            <LinearProgress
              variant={state === 'reading' ? 'indeterminate' : 'determinate'}
              value={share * 100}
              aria-label={`${name} progress`}
            />
          )}
          {problem && (
            <Typography variant="body2" role="alert">
              <span aria-hidden>▲ </span>
              {problem}
            </Typography>
          )}
        </Box>
      ))}
    </Paper>
  );
}
