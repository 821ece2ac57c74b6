import { describeTake, motionToRows, readTakes, writeBvh, type Motion } from '@lantern/motion';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import type { ReactNode } from 'react';
import { ProjectContext, projectKey, type ProjectData, type ProjectInfo, type TakeInfo } from '@/data/project';
import { loadLate } from '@/data/late';

// What comes along with a project's data in the application.
beforeAll(loadLate);

export const PROJECT: ProjectInfo = {
  id: 'gullmouth',
  name: 'Gullmouth',
  character: 'Wick',
  fps: 60,
  namePattern: '{character}-{gait}-{direction}-{number}',
  fitTo: '',
  settlesFloor: false,
};

/** A take as the server gives it when its file has come in, and its motion as it travels. */
export function madeTake(id: string, motion: Motion, change: Partial<TakeInfo> = {}): { take: TakeInfo; rows: Float32Array } {
  const [read] = readTakes(new TextEncoder().encode(writeBvh(motion)), `${id}.bvh`);
  const { passport } = describeTake(read);
  const take: TakeInfo = {
    id,
    project: PROJECT.id,
    name: id,
    file: `${id}.bvh`,
    frames: read.motion.frames,
    fps: read.motion.fps,
    skeleton: read.motion.skeleton,
    moving: [],
    passport,
    overrides: {},
    signature: passport.signature,
    long: false,
    tags: [],
    notes: '',
    star: false,
    markers: [],
    props: [],
    path: [],
    created: '2026-11-27T06:00:00.000Z',
    ...change,
  };
  return { take, rows: motionToRows(read.motion) };
}

/** A take that only its row in the table and its edits are looked at of. */
export const plainTake = (id: string, change: Partial<TakeInfo> = {}): TakeInfo =>
  ({
    id,
    project: PROJECT.id,
    name: id,
    file: `${id}.bvh`,
    frames: 100,
    fps: 60,
    skeleton: { joints: [] },
    moving: [],
    overrides: {},
    signature: 'suit',
    long: false,
    tags: [],
    notes: '',
    star: false,
    markers: [],
    props: [],
    path: [],
    created: '2026-11-27T06:00:00.000Z',
    passport: {
      frames: 100,
      fps: 60,
      seconds: 1.65,
      joints: 21,
      facingDeg: 0,
      statureM: 1.78,
      units: { metresPerUnit: 0.01, confidence: 1, reason: 'told' },
      reading: { metresPerUnit: 0.01, facing: 0, floorM: 0, origin: [0, 0] },
      freeFall: { sentence: 'no free fall' },
      reasons: {},
      missing: [],
      warnings: [],
    },
    ...change,
  }) as unknown as TakeInfo;

/** What the server sends of the project. */
export const projectData = (change: Partial<ProjectData> = {}): ProjectData => ({
  project: PROJECT,
  takes: [],
  clips: [],
  joins: [],
  sets: [],
  characters: [],
  fits: [],
  broken: [],
  ...change,
});

/** A place of the application around what is tested: the project, what is known of it, and notices. */
export function place(data: ProjectData = projectData()) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  client.setQueryData(projectKey(PROJECT.id), data);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>
      <SnackbarProvider>
        <ProjectContext value={data.project}>{children}</ProjectContext>
      </SnackbarProvider>
    </QueryClientProvider>
  );
  const known = () => client.getQueryData<ProjectData>(projectKey(PROJECT.id)) ?? projectData();
  return { client, wrapper, known };
}

export interface Asked {
  readonly method: string;
  readonly url: string;
  readonly body: Readonly<Record<string, unknown>> | null;
}

/** A server in little: answers requests from a function, and remembers what it was asked. A number is a refusal with that status. */
export function serve(answer: (asked: Asked) => unknown): Asked[] {
  const all: Asked[] = [];
  globalThis.fetch = (async (url: string, init?: RequestInit) => {
    const asked = { method: init?.method ?? 'GET', url, body: init?.body ? JSON.parse(String(init.body)) : null } as Asked;
    all.push(asked);
    const found = await answer(asked);
    if (found === null) throw new TypeError('no connection');
    const status = typeof found === 'number' ? found : 200;
    const bytes = ArrayBuffer.isView(found)
      ? found.buffer.slice(found.byteOffset, found.byteOffset + found.byteLength)
      : new ArrayBuffer(0);
    return {
      ok: status < 300,
      status,
      json: async () => (typeof found === 'number' ? { message: `refused with ${found}` } : found),
      arrayBuffer: async () => bytes,
    };
  }) as unknown as typeof fetch;
  return all;
}
