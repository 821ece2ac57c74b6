/** @jest-environment jsdom */
import type { FitReport } from '@lantern/motion';
import userEvent from '@testing-library/user-event';
import { cleanup, render, screen, within } from '@testing-library/react';
import type { FitJobInfo } from '@/http/fit-run';
import { loadTable } from '@/controls/DataTable';
import { FitReport as FitReportTable } from '@/places/fit/FitReport';
import { MovedClips } from '@/places/takes/MovedClips';
import type { ClipMoved } from '@/worker/redelivery';
import { giveRoom } from './room';

beforeAll(() => {
  giveRoom(1400, 600);
  window.matchMedia = (query: string) =>
    ({ matches: true, media: query, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
});
beforeAll(loadTable);
afterEach(cleanup);

const names = (table: string) =>
  within(screen.getByRole('grid', { name: table }))
    .getAllByRole('row')
    .flatMap((row) => row.getAttribute('aria-label') ?? []);
const textOf = (name: string) => screen.getByRole('row', { name }).textContent ?? '';

const job = (id: string, state: FitJobInfo['state'], slideCm: number | null, change: Partial<FitJobInfo> = {}): FitJobInfo => ({
  id,
  run: 'r',
  take: 't1',
  character: 'wick',
  state,
  tries: 1,
  report:
    slideCm === null
      ? null
      : ({
          slideCm,
          slideFrame: 88,
          sinkCm: 0.2,
          hoverCm: 0.1,
          reachCm: 0,
          seatCm: 0,
          likeness: null,
          kink: null,
          limits: [],
        } as unknown as FitReport),
  message: '',
  hasFile: slideCm !== null,
  ...change,
});

test('the report of fits has what failed first, then the worst; a row opens its fit where a foot slides most', async () => {
  const onOpen = jest.fn();
  render(
    <FitReportTable
      jobs={[
        job('good', 'done', 0.05),
        job('bad', 'done', 0.9, { character: 'tallow' }),
        job('gone', 'failed', null, { message: 'The take has no legs.', take: 't9' }),
        job('next', 'waiting', null, { take: 't2' }),
      ]}
      data={
        {
          takes: [
            { id: 't1', name: 'stroll' },
            { id: 't2', name: 'jog' },
          ],
          characters: [{ id: 'wick', name: 'Wick' }],
        } as never
      }
      onOpen={onOpen}
    />,
  );
  expect(names('Report of the fits')).toEqual(['a removed take, Wick', 'stroll, tallow', 'stroll, Wick', 'jog, Wick']);
  expect(textOf('a removed take, Wick')).toContain('▲ The take has no legs.');
  expect(textOf('stroll, tallow')).toContain('▲ 0.90');
  expect(textOf('jog, Wick')).toContain('waiting');
  const link = within(screen.getByRole('row', { name: 'stroll, tallow' })).getByRole('link', { name: 'GLB' });
  expect([link.getAttribute('href'), link.getAttribute('download')]).toEqual(['/api/fit-jobs/bad', 'stroll-tallow.glb']);
  await userEvent.setup().click(screen.getByText('stroll, tallow'));
  expect(onOpen).toHaveBeenCalledWith('t1', 'tallow', 88);
});

const moved = (id: string, change: Partial<ClipMoved> = {}): ClipMoved =>
  ({
    id,
    from: 100,
    to: 166,
    outcome: 'moved',
    differenceCm: 1.25,
    before: { speedMps: 1.2, seam: {}, tick: 1 },
    after: { speedMps: 1.31, seam: {}, tick: 1 },
    ...change,
  }) as unknown as ClipMoved;

test('clips of a new delivery say where they lie and what changes; one that is not in it cannot be ticked', async () => {
  const onKeep = jest.fn();
  render(
    <MovedClips
      clips={[moved('a'), moved('b', { outcome: 'lost', after: null })]}
      nameOf={(id) => ({ a: 'stroll-forward', b: 'jog-forward' })[id] ?? ''}
      kept={new Set()}
      onKeep={onKeep}
    />,
  );
  expect(textOf('stroll-forward')).toMatch(/found elsewhere.*100–166.*1\.3.*1\.20 → 1\.31/);
  expect(textOf('jog-forward')).toContain('▲ not in it');
  expect((screen.getByRole('checkbox', { name: 'Cut jog-forward from the new take' }) as HTMLInputElement).disabled).toBe(true);
  await userEvent.setup().click(screen.getByRole('checkbox', { name: 'Cut stroll-forward from the new take' }));
  expect([...(onKeep.mock.lastCall as [Set<string>])[0]]).toEqual(['a']);
  cleanup();
  render(<MovedClips clips={[]} nameOf={() => ''} kept={new Set()} onKeep={onKeep} />);
  expect(screen.getByText('No clip is cut from the old take.')).toBeTruthy();
});
