/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { describeTake, type TakeOverrides } from '@lantern/motion';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ProjectContext, projectKey, type ProjectInfo, type TakeInfo } from '@/data/project';
import { PassportCard } from '@/places/takes/PassportCard';
import { giveRoom } from './room';

beforeAll(() => giveRoom(420, 600));
afterEach(cleanup);

const { motion } = capture('walk', { seconds: 2, seed: 6 });
const project: ProjectInfo = { id: 'p', name: 'Gullmouth', character: 'Wick', fps: 30, namePattern: '', fitTo: '', settlesFloor: true };

function passport(overrides: TakeOverrides = {}) {
  const made = describeTake({ name: 'walk', format: 'bvh', motion, warnings: [] }, overrides);
  const take = { id: 't', name: 'walk', file: 'walk.bvh', fps: 60, overrides, passport: made.passport } as unknown as TakeInfo;
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  client.setQueryData(projectKey('p'), { project, takes: [take], clips: [], characters: [], fits: [], broken: [] });
  const onOverride = jest.fn<void, [TakeOverrides]>();
  render(
    <QueryClientProvider client={client}>
      <ProjectContext value={project}>
        <PassportCard take={take} onOverride={onOverride} />
      </ProjectContext>
    </QueryClientProvider>,
  );
  const user = userEvent.setup();
  const open = async (label: string) => user.click(screen.getByRole('button', { name: new RegExp(`^${label}`) }));
  return { onOverride, user, open };
}

test('every line opens on its reason, and what overrules it stands there', async () => {
  const { open, user, onOverride } = passport();
  expect(screen.queryByText(/units tall/)).toBeNull();
  await open('Scale');
  expect(screen.getByText(/The figure is [\d.]+ units tall/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'inch' }));
  expect(onOverride).toHaveBeenLastCalledWith({ metresPerUnit: 0.0254 });
  const tall = screen.getByRole('textbox', { name: 'The performer is tall' });
  await user.clear(tall);
  await user.type(tall, '1.6{Enter}');
  const [{ metresPerUnit = 0 }] = onOverride.mock.lastCall ?? [{}];
  expect(metresPerUnit).toBeCloseTo(1.6 / 1.78, 3);
});

test('what is overruled is marked, and found again by one button, which leaves everything else', async () => {
  const { open, user, onOverride } = passport({ fps: 100, faceForward: true });
  const rate = screen.getByRole('button', { name: /^Rate/ });
  expect(within(rate).getByLabelText('overruled')).toBeTruthy();
  expect(rate.textContent).toContain('100 frames/s');
  await open('Rate');
  await user.click(screen.getByRole('button', { name: 'as found' }));
  expect(onOverride).toHaveBeenLastCalledWith({ faceForward: true });
});

test('a take is brought to the project’s rate by a switch, which says the rate', async () => {
  const { open, user, onOverride } = passport();
  await open('Rate');
  await user.click(screen.getByRole('switch', { name: "Resample to the project's 30 frames/s" }));
  expect(onOverride).toHaveBeenLastCalledWith({ conform: 30 });
});

test('a switch that is taken back leaves no trace', async () => {
  const { open, user, onOverride } = passport({ startAtOrigin: true });
  expect(screen.getByRole('button', { name: /^Start/ }).textContent).toContain('at the origin');
  await open('Start');
  await user.click(screen.getByRole('switch', { name: 'Move the take to start over the origin' }));
  expect(onOverride).toHaveBeenLastCalledWith({});
});

test('the floor says where it was once it is at zero; a warning is mended by its button', async () => {
  const { onOverride, user } = passport();
  const floor = screen.getByRole('button', { name: /^Floor/ });
  expect(floor.textContent).toMatch(/Floor−?\d+\.\d cmas found/);
  await user.click(within(screen.getByRole('list', { name: 'Warnings' })).getByRole('button', { name: 'put the feet at zero' }));
  expect(onOverride).toHaveBeenLastCalledWith({ floorToZero: true });
  cleanup();
  passport({ floorToZero: true });
  expect(screen.getByRole('button', { name: /^Floor/ }).textContent).toMatch(/Floor0\.0 cmput at zero, was −?\d+\.\d cm/);
});
