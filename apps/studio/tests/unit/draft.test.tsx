/** @jest-environment jsdom */
import { recipeSchema } from '@lantern/motion';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { draftSet, draftWords, useDrafting } from '@/data/drafting';
import { useSets, type SetDoc } from '@/data/sets-store';
import { setDocumentSchema } from '@/http/set';
import { ChoicesDialog } from '@/places/draft/ChoicesDialog';
import { DraftDialog } from '@/places/draft/DraftDialog';
import { place, plainTake, projectData, serve } from './place';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }), useParams: () => ({}) }));

const steps = recipeSchema.parse([{ kind: 'loop' }]);
const clip: ClipDoc = {
  id: 'c1',
  name: 'walk-forward',
  gait: 'walk',
  direction: 'forward',
  source: { take: 'walk', from: 10, to: 75 },
  steps,
};
const other = {
  source: { take: 'walk', from: 140, to: 206 },
  steps: recipeSchema.parse([{ kind: 'clean' }, { kind: 'loop' }]),
  why: 'its ends meet less well',
};
const doc: SetDoc = setDocumentSchema.parse({
  id: 's1',
  name: 'lamplighter',
  slots: [{ kind: 'loop', gait: 'walk' }, { kind: 'idle' }],
  draft: {
    choices: [
      { slot: 'loop/walk/forward', clip: 'c1', why: 'best of 26', others: [other], out: ['a sink of 1.5 cm'] },
      { slot: 'idle', clip: null, why: 'nothing of the day is that' },
    ],
    doubts: [{ take: 'kerb', what: 'A try is left aside: he stumbles in it, at 22.5 s.' }],
    changes: ['moving to stopping: not before the left foot lands'],
  },
});
const takes = [plainTake('walk'), plainTake('turns')];
const show = (what: React.ReactNode, sets: readonly SetDoc[] = []) => {
  useClips.setState({ project: 'gullmouth', docs: [clip], saved: {}, conflicts: {} });
  useSets.setState({ project: 'gullmouth', docs: [...sets], saved: {}, conflicts: {} });
  useClips.temporal.getState().clear();
  useSets.temporal.getState().clear();
  render(what, { wrapper: place(projectData({ takes })).wrapper });
};
const drafted = { clips: [{ ...clip, id: 'c2', name: 'wait' }], set: { ...doc, id: 's2' }, missing: [], weather: null };
beforeEach(() => {
  push.mockClear();
  useDrafting.setState({ drafting: null, news: null });
});
afterEach(cleanup);

test('what a draft has chosen stands with its reason, what is out of bounds, what is doubtful and what was changed', () => {
  show(<ChoicesDialog doc={doc} onClose={() => {}} />, [doc]);
  const own = screen.getByRole('listitem', { name: 'loop/walk/forward' });
  expect(within(own).getByText('best of 26')).toBeTruthy();
  expect(own.textContent).toContain('out of bounds: a sink of 1.5 cm');
  expect(screen.getByRole('listitem', { name: 'idle' }).textContent).toContain('to capture');
  expect(screen.getByRole('region', { name: 'Doubts' }).textContent).toContain('he stumbles in it');
  expect(screen.getByText('moving to stopping: not before the left foot lands')).toBeTruthy();
});

test('a runner-up is one click away, and the one before becomes a runner-up', async () => {
  show(<ChoicesDialog doc={doc} onClose={() => {}} />, [doc]);
  await userEvent.click(screen.getByRole('button', { name: 'Take walk 140 to 206 for loop/walk/forward' }));
  expect(useClips.getState().docs[0]).toMatchObject({ id: 'c1', name: 'walk-forward', source: { from: 140, to: 206 }, steps: other.steps });
  const [choice] = useSets.getState().docs[0].draft?.choices ?? [];
  expect(choice).toMatchObject({ why: 'taken by hand', out: [] });
  expect(choice.others).toEqual([{ source: clip.source, steps: clip.steps, why: 'chosen first: best of 26' }]);
  act(() => useClips.temporal.getState().undo());
  expect(useClips.getState().docs[0].source).toEqual(clip.source);
});

test('a runner-up whose take was removed is not offered', () => {
  const choices = (doc.draft?.choices ?? []).map((own) => ({ ...own, others: [{ ...other, source: { ...other.source, take: 'gone' } }] }));
  show(<ChoicesDialog doc={{ ...doc, draft: { choices, doubts: [], changes: [] } }} onClose={() => {}} />, [doc]);
  expect(screen.queryByRole('button', { name: /^Take / })).toBeNull();
});

test('a set is asked for, drafted with its progress shown, put beside what is there, and taken back by undo', async () => {
  let give: (body: unknown) => void = () => {};
  const asked = serve(({ url }) => (url.endsWith('/draft') ? new Promise((resolve) => (give = resolve)) : { share: 0.4 }));
  show(<DraftDialog onClose={() => {}} />, []);
  expect(screen.getByRole('heading').textContent).toBe('Draft the set from 2 takes');
  await userEvent.clear(screen.getByLabelText('Called'));
  await userEvent.type(screen.getByLabelText('Called'), 'night watch');
  await userEvent.click(screen.getByRole('button', { name: 'Draft the set' }));
  expect(asked[0]).toMatchObject({
    url: '/api/projects/gullmouth/draft',
    body: { name: 'night watch', character: null, slots: 'full', like: null },
  });
  expect(screen.getByRole('progressbar', { name: 'Drafting the set' })).toBeTruthy();
  await act(async () => give(drafted));
  expect(screen.getByRole('status').textContent).toContain('1 of 2 slots');
  expect(useClips.getState().docs.map(({ name }) => name)).toEqual(['walk-forward', 'wait']);
  expect(useSets.getState().docs.map(({ id }) => id)).toEqual(['s2']);
  await userEvent.click(screen.getByRole('button', { name: 'Look at the set' }));
  expect(push).toHaveBeenCalledWith('/gullmouth/set/s2/coverage');
  act(() => {
    useSets.temporal.getState().undo();
    useClips.temporal.getState().undo();
  });
  expect(useSets.getState().docs).toEqual([]);
  expect(useClips.getState().docs).toEqual([clip]);
});

test('what the server refuses is said in its words; a draft that is stopped, or whose project was left, changes nothing', async () => {
  serve(() => 422);
  show(<DraftDialog onClose={() => {}} />, []);
  await userEvent.click(screen.getByRole('button', { name: 'Draft the set' }));
  expect((await screen.findByRole('alert')).textContent).toContain('refused with 422');
  await userEvent.click(screen.getByRole('button', { name: 'Back' }));
  expect(screen.getByRole('button', { name: 'Draft the set' })).toBeTruthy();
  serve(() => drafted);
  useSets.setState({ project: 'elsewhere' });
  await act(() => draftSet('gullmouth', { name: 'x', character: null, slots: 'full' }));
  expect(useClips.getState().docs).toEqual([clip]);
  expect(useDrafting.getState()).toEqual({ drafting: null, news: null });
});

test('each part of a draft has its words', () => {
  const words = [0, 0.1, 0.4, 0.65, 0.9].map(draftWords);
  expect(new Set(words).size).toBe(5);
});

test('the page asks before it is left only while a draft is under way', async () => {
  const isAsked = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }));
  serve(() => drafted);
  useSets.setState({ project: 'elsewhere' });
  expect(isAsked()).toBe(false);
  const running = draftSet('gullmouth', { name: 'x', character: null, slots: 'full' });
  expect(isAsked()).toBe(true);
  await act(() => running);
  expect(isAsked()).toBe(false);
});
