/** @jest-environment jsdom */
import { recipeSchema } from '@lantern/motion';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import type { SetView } from '@/data/set-view';
import { useSets, type SetDoc } from '@/data/sets-store';
import { setDocumentSchema } from '@/http/set';
import { HomeLine } from '@/places/set/slots/HomeLine';

afterEach(cleanup);

const clip = (id: string): ClipDoc => ({
  ...{ id, name: id, gait: '', direction: '' },
  source: { take: 't', from: 0, to: 60 },
  steps: recipeSchema.parse([{ kind: 'travel' }]),
});
const POSE = { heightM: 0.95, turns: {} };
/** A set of three clips: what was proposed for its home, and how far the ends of its clips are from it. */
const open = (
  home: SetDoc['home'] | undefined,
  proposal: { clip: string; frame: number; meanCm: number } | null,
  far: Record<string, number> = {},
) => {
  const doc = setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [{ kind: 'idle' }], ...(home && { home }) });
  useSets.setState({ project: 'gullmouth', docs: [doc], saved: {}, conflicts: {} });
  const docs = ['wait', 'start', 'stop'].map(clip);
  useClips.setState({ project: 'gullmouth', docs, saved: {}, conflicts: {} });
  const slots = docs.map(({ id }) => ({ clip: id, state: 'filled', homeCm: far[id] ?? 0 }));
  const view = {
    members: docs.map((own) => ({ doc: own })),
    measured: { proposal, home: home ? POSE : null, coverage: { slots } },
  } as unknown as SetView;
  const { container } = render(<HomeLine doc={doc} view={view} />);
  return { container, user: userEvent.setup(), home: () => useSets.getState().docs[0].home };
};

test('without a home it says which pose is nearest to all ends, and that is taken by a click', async () => {
  const { container, user, home } = open(undefined, { clip: 'wait', frame: 12, meanCm: 1.4 });
  expect(container.textContent).toContain('no home pose yet; nearest to all ends is wait, frame 12');
  await user.click(screen.getByRole('button', { name: 'Take the proposed frame as the home pose' }));
  expect(home()).toEqual({ clip: 'wait', frame: 12 });
});

test('where nobody stands in any clip it says what to do', () => {
  expect(open(undefined, null).container.textContent).toBe('no home pose yet: cut a clip in which he stands');
});

test('the home that is the best one has nothing to propose; another says what were nearer', () => {
  expect(open({ clip: 'wait', frame: 12 }, { clip: 'wait', frame: 12, meanCm: 1 }).container.textContent).not.toContain('nearest');
  expect(screen.queryByRole('button', { name: /Take the proposed frame/ })).toBeNull();
  cleanup();
  const other = open({ clip: 'wait', frame: 3 }, { clip: 'stop', frame: 40, meanCm: 1 });
  expect(other.container.textContent).toContain('(nearest to all ends: stop, frame 40)');
});

test('another clip and another frame are chosen', async () => {
  const { user, home } = open({ clip: 'wait', frame: 3 }, null);
  const frame = screen.getByRole('textbox', { name: 'Frame of the home pose' });
  await user.clear(frame);
  await user.type(frame, '25{Enter}');
  expect(home()).toEqual({ clip: 'wait', frame: 25 });
  await user.click(screen.getByRole('button', { name: 'Choose the clip that the home pose is of' }));
  const menu = within(screen.getByRole('menu'));
  expect(menu.getAllByRole('menuitem').map(({ textContent }) => textContent)).toEqual(['wait', 'start', 'stop']);
  await user.click(menu.getByRole('menuitem', { name: 'stop' }));
  expect(home()).toEqual({ clip: 'stop', frame: 0 });
});

test('clips whose ends are away from home are brought there at once, those that are near are left', async () => {
  const { user } = open({ clip: 'wait', frame: 3 }, null, { start: 2.4, stop: 0.2 });
  await user.click(screen.getByRole('button', { name: 'bring one clip home' }));
  const kinds = Object.fromEntries(useClips.getState().docs.map(({ id, steps }) => [id, steps.map(({ kind }) => kind)]));
  expect(kinds.start).toContain('meet-home');
  expect(kinds.stop).toEqual(['travel']);
  expect(kinds.wait).toEqual(['travel']);
});
