import { stepSchema } from '@lantern/motion';
import { settleConflict, startAutosave } from '@/data/autosave';
import { CLIPS, useClips, type ClipDoc } from '@/data/clips-store';
import { dirtyDocs } from '@/data/document-store';
import { keepHistory, openDocuments } from '@/data/history';
import { useJoins } from '@/data/joins-store';
import { loadLate } from '@/data/late';
import { defaultSteps, freeName } from '@/data/new-clip';

const doc = (change: Partial<ClipDoc> = {}): ClipDoc => ({
  id: 'a',
  name: 'stroll',
  source: { take: 't', from: 10, to: 75 },
  steps: [stepSchema.parse({ kind: 'loop' })],
  gait: '',
  direction: '',
  ...change,
});
const row = (d: ClipDoc, revision: number) => ({ ...d, project: 'p', steps: [...d.steps], revision, updated: new Date(0) });

/** A server in little: clips with revisions, and the requests that it was sent. */
function server() {
  const clips = new Map<string, { doc: ClipDoc; revision: number }>();
  const requests: string[] = [];
  let isDown = false;
  globalThis.fetch = (async (url: string, init: RequestInit) => {
    const id = url.replace(/^.*clips\//, '').replace(/\?.*$/, '');
    requests.push(`${init.method} ${id}`);
    if (isDown) throw new TypeError('no connection');
    const held = clips.get(id);
    const sent = init.body ? (JSON.parse(String(init.body)) as ClipDoc & { revision: number }) : null;
    const started = sent ? sent.revision : Number(/revision=(\d+)/.exec(url)?.[1]);
    if ((held?.revision ?? 0) !== started)
      return Response.json({ code: 'revision', message: 'later', clip: held ? row(held.doc, held.revision) : null }, { status: 409 });
    const next = { doc: sent ?? doc({ id }), revision: started + 1 };
    if (sent) clips.set(id, next);
    else clips.delete(id);
    return Response.json(row(next.doc, next.revision));
  }) as typeof fetch;
  return { clips, requests, down: (value: boolean) => (isDown = value) };
}

const storage = new Map<string, string>();
Object.assign(globalThis, {
  localStorage: { getItem: (key: string) => storage.get(key) ?? null, setItem: (key: string, value: string) => storage.set(key, value) },
});
const wait = (ms: number) => jest.advanceTimersByTimeAsync(ms);

let ends: (() => void)[] = [];
beforeEach(() => {
  jest.useFakeTimers();
  storage.clear();
});
beforeAll(loadLate);
afterEach(() => {
  ends.forEach((end) => end());
  ends = [];
  jest.useRealTimers();
});
const open = (rows: ReturnType<typeof row>[]) => {
  openDocuments(CLIPS, 'p', rows);
  ends.push(startAutosave(CLIPS), keepHistory(CLIPS, 'p'));
};

test('what is changed is saved once, a moment after the last change', async () => {
  const { clips, requests } = server();
  open([]);
  const { put } = useClips.getState();
  put(doc());
  put(doc({ source: { take: 't', from: 10, to: 76 } }));
  put(doc({ source: { take: 't', from: 10, to: 77 } }));
  expect(useClips.getState().state).toBe('unsaved');
  await wait(1000);
  expect(requests).toEqual(['PUT a']);
  expect(clips.get('a')?.doc.source.to).toBe(77);
  expect(useClips.getState().state).toBe('saved');
});

test('without a connection it says so, keeps trying, and loses nothing', async () => {
  const { clips, down } = server();
  open([]);
  down(true);
  useClips.getState().put(doc());
  await wait(1000);
  expect(useClips.getState().state).toBe('offline');
  down(false);
  await wait(5000);
  expect(useClips.getState().state).toBe('saved');
  expect(clips.get('a')?.doc.name).toBe('stroll');
});

test('a save after somebody else’s becomes a conflict; each of the three ways out ends it and saves', async () => {
  for (const choice of ['theirs', 'mine', 'copy'] as const) {
    storage.clear();
    const { clips } = server();
    clips.set('a', { doc: doc(), revision: 1 });
    open([row(doc(), 1)]);
    clips.set('a', { doc: doc({ name: 'theirs' }), revision: 2 });
    useClips.getState().put(doc({ name: 'mine' }));
    await wait(1000);
    expect(useClips.getState().conflicts.a.doc?.name).toBe('theirs');
    expect(clips.get('a')?.doc.name).toBe('theirs');
    settleConflict(CLIPS, 'a', choice, doc({ id: 'b', name: 'mine too' }));
    await wait(1000);
    expect(useClips.getState().conflicts).toEqual({});
    expect(clips.get('a')?.doc.name).toBe(choice === 'mine' ? 'mine' : 'theirs');
    expect(clips.get('b')?.doc.name).toBe(choice === 'copy' ? 'mine too' : undefined);
    expect(dirtyDocs(useClips.getState())).toEqual([]);
    ends.forEach((end) => end());
    ends = [];
  }
});

test('undo takes a removal back, on the server too, and survives a reload', async () => {
  const { clips } = server();
  clips.set('a', { doc: doc(), revision: 1 });
  open([row(doc(), 1)]);
  useClips.getState().put(doc({ name: 'renamed' }));
  await wait(1000);
  expect(clips.get('a')).toMatchObject({ revision: 2, doc: { name: 'renamed' } });
  // A reload: the store begins anew from what the server has and the browser kept.
  const kept = clips.get('a');
  openDocuments(CLIPS, 'p', kept ? [row(kept.doc, kept.revision)] : []);
  expect(useClips.temporal.getState().pastStates.length).toBeGreaterThan(0);
  useClips.temporal.getState().undo();
  await wait(1000);
  expect(clips.get('a')).toMatchObject({ revision: 3, doc: { name: 'stroll' } });
});

test('history from before somebody else’s save is not put over it', () => {
  server();
  open([row(doc(), 1)]);
  useClips.getState().put(doc({ name: 'mine' }));
  openDocuments(CLIPS, 'p', [row(doc({ name: 'theirs' }), 5)]);
  expect(useClips.getState().docs[0].name).toBe('theirs');
  expect(useClips.temporal.getState().pastStates).toEqual([]);
});

test('broken storage costs nothing but the history', () => {
  storage.set('old-lantern.history.p', '{ not json');
  openDocuments(CLIPS, 'p', [row(doc(), 1)]);
  expect(useClips.getState().docs).toHaveLength(1);
});

test('new clips have the next free name and the recipe of a shipped loop', () => {
  expect(freeName('stroll', [doc({ name: 'stroll-01' }), doc({ name: 'Stroll-02' })])).toBe('stroll-03');
  expect(freeName('stroll-07', [])).toBe('stroll-01');
  expect(defaultSteps().map((step) => step.kind)).toEqual(['loop', 'foot-lock', 'travel']);
});

test('a history that a browser kept from before clips had a source is carried over', () => {
  const flat = { id: 'a', take: 't', name: 'stroll', from: 10, to: 75, steps: [{ kind: 'loop' }], gait: '', direction: '' };
  const past = [{ docs: [{ ...flat, name: 'earlier' }] }];
  storage.set('old-lantern.history.p', JSON.stringify({ docs: [flat], revisions: { a: 1 }, past, future: [] }));
  open([row(doc(), 1)]);
  expect(useClips.getState().docs).toEqual([doc()]);
  useClips.temporal.getState().undo();
  expect(useClips.getState().docs).toEqual([doc({ name: 'earlier' })]);
});

describe('a clip that is cut from a join', () => {
  const join = { id: 'j', name: 'round', start: 'origin' as const, pieces: [] };
  beforeEach(() => useJoins.setState({ project: 'p', docs: [], saved: {}, conflicts: {} }));
  afterEach(() => useJoins.setState({ docs: [], saved: {}, conflicts: {} }));
  const cut = doc({ source: { take: 'j', from: 0, to: 20 } });

  test('is saved once the join is: the server would not know what it is cut from', async () => {
    const { requests } = server();
    open([]);
    useJoins.getState().put(join);
    useClips.getState().put(cut);
    await wait(3000);
    expect(requests).toEqual([]);
    expect(useClips.getState().state).not.toBe('saved');
    useJoins.setState({ saved: { j: { revision: 1, doc: join } } });
    await wait(1000);
    expect(requests).toEqual(['PUT a']);
    expect(useClips.getState().state).toBe('saved');
  });

  test('does not wait for a join that is in conflict: that one is saved elsewhere', async () => {
    const { requests } = server();
    open([]);
    useJoins.setState({ docs: [join], conflicts: { j: { revision: 4, doc: null } } });
    useClips.getState().put(cut);
    await wait(1000);
    expect(requests).toEqual(['PUT a']);
  });

  test('is lost in no pause: what was changed while it waited is what is saved', async () => {
    const { clips } = server();
    open([]);
    useJoins.getState().put(join);
    useClips.getState().put(cut);
    await wait(800);
    useClips.getState().put({ ...cut, name: 'renamed' });
    await wait(800);
    useJoins.setState({ docs: [] });
    await wait(1000);
    expect(clips.get('a')?.doc.name).toBe('renamed');
  });
});

test('who leaves before a change is saved leaves nothing unsaved, and what opens next is not told of it', async () => {
  const { clips, requests } = server();
  open([]);
  useClips.getState().put(doc());
  useClips.getState().put(doc({ id: 'b' }));
  ends.forEach((end) => end());
  openDocuments(CLIPS, 'other', []);
  ends = [startAutosave(CLIPS), keepHistory(CLIPS, 'other')];
  await wait(3000);
  // What was on its way arrived; what was not waits in this browser for the next visit; nothing of either stands in the other project.
  expect(requests).toEqual(['PUT a']);
  expect(clips.get('a')?.doc.name).toBe('stroll');
  expect(useClips.getState()).toMatchObject({ project: 'other', docs: [], saved: {}, state: 'saved' });
  ends.forEach((end) => end());
  openDocuments(CLIPS, 'p', [row(doc(), 1)]);
  ends = [startAutosave(CLIPS)];
  expect(useClips.getState().docs.map(({ id }) => id)).toEqual(['a']);
});
