/** @jest-environment jsdom */
import { stepSchema } from '@lantern/motion';
import { act, cleanup, render, renderHook, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useProjectData, type TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits, useTakeHistory } from '@/data/take-edits';
import { useStar } from '@/places/takes/use-star';
import { DisputeDialog } from '@/shell/DisputeDialog';
import { inWords } from '@/shell/in-words';
import { place, plainTake, projectData, PROJECT, serve } from './place';

afterEach(cleanup);
beforeEach(() => {
  useTakeHistory.setState({ project: null, past: [], future: [], busy: [] });
  useClips.setState({ project: PROJECT.id, docs: [], saved: {}, conflicts: {} });
});

/** Takes on a server that keeps what it is told, and the place that edits them. */
function begin(...takes: TakeInfo[]) {
  const kept = new Map(takes.map((take) => [take.id, take]));
  const removed = new Map<string, TakeInfo>();
  const fault: { status: number | null } = { status: null };
  const asked = serve(({ method, url, body }) => {
    if (url.startsWith('/api/projects/')) return projectData({ takes: [...kept.values()] });
    if (fault.status !== null) return fault.status;
    const id = url.replace('/api/takes/', '');
    const take = kept.get(id) ?? removed.get(id);
    if (!take) return 404;
    if (method === 'DELETE') {
      kept.delete(id);
      removed.set(id, take);
      return {};
    }
    if (method === 'PUT') {
      removed.delete(id);
      kept.set(id, take);
      return {};
    }
    const { before: _, ...patch } = body ?? {};
    const stored = { ...take, ...patch } as TakeInfo;
    kept.set(id, stored);
    return stored;
  });
  const here = place(projectData({ takes }));
  // As in the application, the place shows the project's takes.
  const { result } = renderHook(() => (useProjectData(), useTakeEdits()), { wrapper: here.wrapper });
  const edits = () => result.current;
  const seen = (id: string) => here.known().takes.find((take) => take.id === id);
  return { ...here, kept, asked, fault, edits, seen };
}

test('an edit is on the screen before the server has answered, and undo and redo go there and back', async () => {
  const take = plainTake('stroll', { tags: ['quay'] });
  const { edits, seen, kept, asked } = begin(take);
  let done: Promise<boolean> | undefined;
  await act(async () => {
    done = edits().edit(
      'notes',
      changesOf([take], () => ({ notes: 'gulls', tags: ['quay', 'dawn'] })),
    );
    // The request is on its way; nothing has come back.
    await Promise.resolve();
    expect(seen('stroll')).toMatchObject({ notes: 'gulls', tags: ['quay', 'dawn'] });
    await done;
  });
  expect(await done).toBe(true);
  // What it was goes along, so that the server can merge what others did.
  expect(asked[0].body).toEqual({ notes: 'gulls', tags: ['quay', 'dawn'], before: { notes: '', tags: ['quay'] } });
  await act(() => edits().undo());
  expect(seen('stroll')).toMatchObject({ notes: '', tags: ['quay'] });
  expect(kept.get('stroll')?.notes).toBe('');
  expect(screen.getByText('Undone: notes.')).toBeTruthy();
  await act(() => edits().redo());
  expect(kept.get('stroll')?.notes).toBe('gulls');
});

test('what the server makes of an edit is what is shown', async () => {
  const take = plainTake('stroll', { tags: ['a'] });
  const { edits, seen, kept } = begin(take);
  // Somebody else's tag is there already, and stays.
  kept.set('stroll', { ...take, name: 'stroll renamed elsewhere', tags: ['a', 'theirs'] });
  await act(() =>
    edits().edit(
      'star',
      changesOf([take], () => ({ star: true })),
    ),
  );
  expect(seen('stroll')).toMatchObject({ star: true, name: 'stroll renamed elsewhere', tags: ['a', 'theirs'] });
});

test('what has to be measured is marked as busy and shown when it has been', async () => {
  const take = plainTake('stroll');
  const { edits, seen } = begin(take);
  const marked: (readonly string[])[] = [];
  const end = useTakeHistory.subscribe(({ busy }) => {
    // Nothing is shown that was not measured.
    if (busy.length > 0) expect(seen('stroll')?.overrides).toEqual({});
    marked.push(busy);
  });
  await act(() =>
    edits().edit(
      'scale',
      changesOf([take], () => ({ overrides: { metresPerUnit: 0.02 } })),
    ),
  );
  end();
  expect(marked).toContainEqual(['stroll']);
  expect(useTakeHistory.getState().busy).toEqual([]);
  expect(seen('stroll')?.overrides).toEqual({ metresPerUnit: 0.02 });
});

test('an edit that is refused leaves the history and the screen as the server has them, and says why', async () => {
  const take = plainTake('stroll');
  const { edits, seen, fault } = begin(take);
  fault.status = 409;
  let done = true;
  await act(async () => {
    done = await edits().edit(
      'name',
      changesOf([take], () => ({ name: 'mine' })),
    );
  });
  expect(done).toBe(false);
  expect(useTakeHistory.getState().past).toEqual([]);
  expect(screen.getByText('refused with 409')).toBeTruthy();
  await waitFor(() => expect(seen('stroll')?.name).toBe('stroll'));
});

test('a take is removed with one request and comes back whole with one', async () => {
  const take = plainTake('stroll', { notes: 'kept' });
  const { edits, seen, asked } = begin(take, plainTake('other'));
  await act(() => edits().edit('removed', [{ id: 'stroll', before: { removed: false }, after: { removed: true } }]));
  expect(seen('stroll')).toBeUndefined();
  expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual(['DELETE /api/takes/stroll']);
  await act(() => edits().undo());
  expect(seen('stroll')?.notes).toBe('kept');
});

test('edits made quickly one after the other reach the server in that order', async () => {
  const take = plainTake('stroll');
  const { edits, kept, asked } = begin(take);
  await act(async () => {
    const all = ['a', 'ab', 'abc'].map((notes) =>
      edits().edit(
        'notes',
        changesOf([take], () => ({ notes })),
      ),
    );
    await Promise.all(all);
  });
  expect(asked.map(({ body }) => body?.notes)).toEqual(['a', 'ab', 'abc']);
  expect(kept.get('stroll')?.notes).toBe('abc');
  expect(useTakeHistory.getState().past).toHaveLength(3);
});

test('nothing to change is no edit', async () => {
  const { edits, asked } = begin(plainTake('stroll'));
  expect(await edits().edit('nothing', [])).toBe(true);
  await act(() => edits().undo());
  await act(() => edits().redo());
  expect(asked).toEqual([]);
});

test('the history of another project is not undone here', async () => {
  const { edits, asked } = begin(plainTake('stroll'));
  useTakeHistory.setState({ project: 'elsewhere', past: [{ label: 'x', changes: [{ id: 'stroll', before: {}, after: {} }] }] });
  await act(() => edits().undo());
  expect(asked).toEqual([]);
  expect(useTakeHistory.getState().past).toHaveLength(1);
});

test('a star is set on all of a choice, and taken only where all have one', async () => {
  const [a, b] = [plainTake('a', { star: true }), plainTake('b')];
  const { kept, wrapper, known } = begin(a, b);
  const { result } = renderHook(() => useStar(), { wrapper });
  await act(async () => result.current([a, b]));
  expect([...kept.values()].map(({ star }) => star)).toEqual([true, true]);
  await act(async () => result.current(known().takes));
  expect([...kept.values()].map(({ star }) => star)).toEqual([false, false]);
});

describe('what was changed elsewhere meanwhile', () => {
  /** A server on which somebody else has changed the notes. */
  function disputed() {
    const take = plainTake('stroll');
    const here = begin(take);
    const theirs = { ...take, notes: 'theirs' };
    here.kept.set('stroll', theirs);
    const answer = globalThis.fetch;
    globalThis.fetch = (async (url: string, init?: RequestInit) => {
      const body = init?.body ? (JSON.parse(String(init.body)) as { before?: { notes?: string } }) : {};
      const now = here.kept.get('stroll')?.notes;
      if (init?.method !== 'PATCH' || body.before?.notes === now) return answer(url, init);
      const refusal = { code: 'conflict', message: 'changed elsewhere', take: here.kept.get('stroll'), fields: ['notes'] };
      return { ok: false, status: 409, json: async () => refusal };
    }) as unknown as typeof fetch;
    render(<DisputeDialog />);
    let done: Promise<boolean> = Promise.resolve(true);
    const begun = act(
      async () =>
        void (done = here.edits().edit(
          'notes',
          changesOf([take], () => ({ notes: 'mine' })),
        )),
    );
    return { ...here, user: userEvent.setup(), done: () => done, begun };
  }

  test('is shown beside what was made of it here; nothing is overwritten before somebody says so', async () => {
    const { kept, user, begun } = disputed();
    await begun;
    const dialog = await screen.findByRole('dialog', { name: '“stroll” was changed elsewhere' });
    expect(dialog.textContent).toContain('notesTheretheirsHeremine');
    expect(kept.get('stroll')?.notes).toBe('theirs');
    // Whatever is saved after it waits for the answer.
    await user.click(screen.getByRole('button', { name: 'Take theirs' }));
  });

  test('is overwritten by choice, and undo goes back to it', async () => {
    const { kept, seen, user, done, edits, begun } = disputed();
    await begun;
    await user.click(await screen.findByRole('button', { name: 'Put mine in its place' }));
    expect(await done()).toBe(true);
    expect([kept.get('stroll')?.notes, seen('stroll')?.notes]).toEqual(['mine', 'mine']);
    expect(screen.queryByRole('dialog')).toBeNull();
    await act(() => edits().undo());
    expect(kept.get('stroll')?.notes).toBe('');
  });

  test('is taken by choice: then the edit has not happened, and no fault is told', async () => {
    const { kept, seen, user, done, begun } = disputed();
    await begun;
    await user.click(await screen.findByRole('button', { name: 'Take theirs' }));
    expect(await act(done)).toBe(false);
    expect(kept.get('stroll')?.notes).toBe('theirs');
    await waitFor(() => expect(seen('stroll')?.notes).toBe('theirs'));
    expect(useTakeHistory.getState().past).toEqual([]);
    expect(screen.queryByText('changed elsewhere')).toBeNull();
  });
});

test.each([
  [['quay', 'dawn'], 'quay, dawn'],
  [[], 'nothing'],
  [undefined, 'nothing'],
  [true, 'yes'],
  [{ soleCm: 2, mapping: {} }, 'sole cm 2 mapping nothing'],
  [[{ id: 'p', frame: 30, name: 'gull' }], 'frame 30 name gull'],
  ['x'.repeat(500), `${'x'.repeat(159)}…`],
])('%j is said as %j', (value, said) => {
  expect(inWords.value(value)).toBe(said);
});

describe('clips that are cut from another take with an edit', () => {
  const steps = [stepSchema.parse({ kind: 'retime', factor: 1, pins: [{ from: 10, to: 12 }] })];
  const doc: ClipDoc = { id: 'c', name: 'stride', source: { take: 'old', from: 100, to: 160 }, steps, gait: '', direction: '' };
  const doubled = [stepSchema.parse({ kind: 'retime', factor: 1, pins: [{ from: 20, to: 24 }] })];
  const change = {
    id: 'c',
    before: { source: doc.source, steps: doc.steps },
    after: { source: { take: 'new', from: 200, to: 320 }, steps: doubled },
  };

  test('go there and back exactly', async () => {
    const take = plainTake('old');
    const { edits } = begin(take);
    useClips.setState({ docs: [doc] });
    await act(() =>
      edits().edit(
        'redelivered',
        changesOf([take], () => ({ name: 'old (earlier)' })),
        [change],
      ),
    );
    expect(useClips.getState().docs[0]).toMatchObject({ source: { take: 'new', from: 200, to: 320 }, steps: doubled });
    await act(() => edits().undo());
    expect(useClips.getState().docs).toEqual([doc]);
  });

  test('keep what was done to them in between, at the other rate', async () => {
    const take = plainTake('old');
    const { edits } = begin(take);
    useClips.setState({ docs: [doc] });
    await act(() =>
      edits().edit(
        'redelivered',
        changesOf([take], () => ({ name: 'old (earlier)' })),
        [change],
      ),
    );
    const [moved] = useClips.getState().docs;
    const pinned = [stepSchema.parse({ kind: 'retime', factor: 1, pins: [{ from: 40, to: 44 }] })];
    useClips.setState({ docs: [{ ...moved, name: 'renamed', steps: pinned }] });
    await act(() => edits().undo());
    const [back] = useClips.getState().docs;
    expect(back).toMatchObject({ name: 'renamed', source: doc.source });
    expect(back.steps).toEqual([stepSchema.parse({ kind: 'retime', factor: 1, pins: [{ from: 20, to: 22 }] })]);
  });

  test('stay where they are when the edit is refused', async () => {
    const take = plainTake('old');
    const { edits, fault } = begin(take);
    useClips.setState({ docs: [doc] });
    fault.status = 503;
    await act(() =>
      edits().edit(
        'redelivered',
        changesOf([take], () => ({ name: 'x' })),
        [change],
      ),
    );
    expect(useClips.getState().docs).toEqual([doc]);
  });
});
