/** @jest-environment jsdom */
import { act, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import type { ProjectRow } from '@/data/projects';
import { Projects } from '@/places/projects/Projects';
import { serve } from './place';
import { holds, lengthOf, whenOf } from '@/places/projects/words';

const pushed: string[] = [];
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: (to: string) => pushed.push(to) }) }));

const project = (id: string, change: Partial<ProjectRow> = {}): ProjectRow => ({
  id,
  name: id[0].toUpperCase() + id.slice(1),
  character: 'Wick',
  fps: 60,
  ...{ takes: 8, clips: 13, sets: 1, shipments: 0, seconds: 159 },
  changed: '2026-11-28T06:00:00.000Z',
  removed: null,
  paths: [[0, 0, 0.1, 2, 0.4, 5]],
  ...change,
});

/** A server in little, which has projects; and what it was asked to change. */
function server(rows: ProjectRow[]) {
  const all = serve(({ url, method, body }) => {
    const own = rows.find((row) => url.endsWith(`/${row.id}`));
    if (own && method === 'DELETE') Object.assign(own, { removed: '2026-11-28T07:00:00.000Z' });
    if (own && method === 'PATCH') Object.assign(own, body, { removed: null });
    if (own || method === 'GET') return { projects: rows.map((row) => ({ ...row })) };
    rows.push(project('quay'));
    return { id: 'quay' };
  });
  return () => all.flatMap(({ method, url, body }) => (method === 'GET' ? [] : `${method} ${url} ${JSON.stringify(body)}`));
}

function show() {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <SnackbarProvider>
        <Projects />
      </SnackbarProvider>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}
const listed = () =>
  within(screen.getByRole('list', { name: 'Projects' }))
    .getAllByRole('listitem')
    .map((item) => item.getAttribute('aria-label'));

test('what is in a project is said in words', () => {
  expect(holds(project('a', { shipments: 1 }))).toBe('8 takes, 2 min 39 s · 13 clips · 1 set · shipped once');
  expect(holds(project('a', { takes: 0 }))).toBe('No takes yet');
  expect([lengthOf(0.4), lengthOf(59.6), lengthOf(3599.6), lengthOf(7260)]).toEqual(['0 s', '1 min 0 s', '1 h 0 min', '2 h 1 min']);
  const now = new Date(2026, 10, 28, 9, 0);
  const at = (...day: [number, number, number]) => whenOf(new Date(...day, 6, 5).toISOString(), now);
  expect([at(2026, 10, 28), at(2026, 10, 27), at(2026, 10, 26), at(2025, 0, 2)]).toEqual([
    ...['today, 06:05', 'yesterday, 06:05', '26 Nov', '2 Jan 2025'],
  ]);
});

test('a project is removed by its key, brought back by undo, and removed again by redo', async () => {
  const requests = server([project('gullmouth'), project('ferry')]);
  const user = show();
  await waitFor(() => expect(listed()).toEqual(['Gullmouth', 'Ferry']));
  act(() => screen.getByRole('link', { name: 'Ferry' }).focus());
  await user.keyboard('{Delete}');
  await waitFor(() => expect(listed()).toEqual(['Gullmouth']));
  expect(within(screen.getByRole('region', { name: 'Removed projects' })).getByText('Ferry')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(listed()).toEqual(['Gullmouth', 'Ferry']));
  await user.click(screen.getByRole('button', { name: 'Redo' }));
  await waitFor(() => expect(listed()).toEqual(['Gullmouth']));
  await user.click(screen.getByRole('button', { name: 'Bring Ferry back' }));
  await waitFor(() => expect(listed()).toEqual(['Gullmouth', 'Ferry']));
  const [away, back] = ['DELETE /api/projects/ferry null', 'PATCH /api/projects/ferry {"removed":false}'];
  expect(requests()).toEqual([away, back, away, back]);
});

test('a new project says what it lacks, begins, and is opened', async () => {
  const requests = server([]);
  const user = show();
  await screen.findByText('No project yet');
  await user.click(screen.getByRole('button', { name: 'New project' }));
  await user.click(await screen.findByRole('button', { name: 'Begin' }));
  expect((await screen.findAllByText('Give it a name.')).length).toBe(2);
  await user.type(screen.getByRole('textbox', { name: 'Name' }), 'Quay');
  await user.type(screen.getByRole('textbox', { name: 'Character' }), 'Tallow');
  await user.click(screen.getByRole('button', { name: 'Begin' }));
  await waitFor(() => expect(pushed).toEqual(['/quay/takes']));
  expect(requests()).toEqual(['POST /api/projects {"name":"Quay","character":"Tallow","fps":60}']);
});

test('two of one name are told apart by their addresses', async () => {
  server([project('gullmouth'), project('gullmouth-2', { name: 'Gullmouth' })]);
  show();
  await waitFor(() => expect(screen.getByText(/\/gullmouth-2$/)).toBeTruthy());
});
