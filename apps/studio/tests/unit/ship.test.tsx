/** @jest-environment jsdom */
import { setBoundsSchema, shipSchema } from '@lantern/motion';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ClipDoc } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import type { Report } from '@/http/shipment';
import { loadTable } from '@/controls/DataTable';
import { compareReports } from '@/places/ship/compare';
import { readyCsv } from '@/places/ship/ready-csv';
import { isShown, ReadyHead } from '@/places/ship/ReadyHead';
import { ReadyTable, saysOf, sendToWorst } from '@/places/ship/ReadyTable';
import { quicker } from '@/places/ship/Retime';
import { ShipmentsSoFar } from '@/places/ship/ShipmentsSoFar';
import { ShipOptions } from '@/places/ship/ShipOptions';
import { TripWires } from '@/places/ship/TripWires';
import type { ShipChoice } from '@/places/ship/use-desk';
import { asBefore, type ReadyClip } from '@/places/ship/use-readiness';
import { summaryOf } from '@/places/ship/words';
import { giveRoom } from './room';
import { about, clip, shipment } from './ship-rows';

beforeAll(() => {
  giveRoom(1400, 600);
  window.matchMedia = (query: string) =>
    ({ matches: true, media: query, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
});
beforeAll(loadTable);
afterEach(cleanup);

test('a clip is ready when it is made and every figure is within the bounds of its set; what is out is said, with where and what to do', () => {
  expect(clip('calm')).toMatchObject({ isReady: true, troubles: [] });
  const skating = clip('skating', { about: about({ slideCm: 2.1 }) });
  expect(skating.isReady).toBe(false);
  expect(saysOf(skating)).toBe('The left foot slides from frame 8 to 15. Hold it there.');
  // The Bench counts frames of the take, twice as many.
  sendToWorst(skating);
  expect(usePlayer.getState().next).toBe(16);
  // A speed is held to what the game asks: 1.40 by 5 %.
  expect(clip('slow', { about: about({ speedMps: 1.3 }) }).troubles[0]).toMatchObject({
    figure: 'speed',
    says: 'It goes at 1.30 m/s where the game asks for 1.40.',
  });
  expect(clip('once', { about: about({ loop: false, tick: 9 }) }).isReady).toBe(true);
  const both = clip('both', { about: about({ slideCm: 0.6, tick: 4 }) });
  expect(saysOf(both)).toBe('The loop ticks where it comes round. Blend its seam over more frames. And 1 more out of bounds.');
  expect(clip('far', { about: about({}, { homeCm: 3.2 }) }).troubles[0].figure).toBe('homeCm');
  expect(clip('gone', { state: 'failed', about: null, message: 'The take has no legs.' })).toMatchObject({ isReady: false });
  expect(clip('later', { state: 'waiting', about: null }).isReady).toBe(false);
});

const table = (clips: readonly ReadyClip[], more: Partial<Parameters<typeof ReadyTable>[0]> = {}) =>
  render(
    <ReadyTable
      clips={clips}
      bounds={setBoundsSchema.parse({})}
      onBounds={null}
      shipped={new Set()}
      onShipped={() => {}}
      project="gullmouth"
      onMirror={() => {}}
      onRetime={() => {}}
      {...more}
    />,
  );

test('the table says what is measured, what failed and what to do, and what ships', async () => {
  const onShipped = jest.fn();
  const clips = [
    clip('broken', { state: 'failed', about: null, message: 'The take of this clip is not in the project.' }),
    clip('skating', { about: about({ slideCm: 1.5 }), since: 'changed', why: ['its cut'] }),
    clip('calm'),
    clip('waiting', { state: 'waiting', about: null }),
    clip('round', { kind: 'join', about: about({ loop: false }) }),
  ];
  table(clips, { shipped: new Set(['id-calm']), onShipped });
  const textOf = (name: string) => screen.getByRole('row', { name }).textContent ?? '';
  expect(textOf('skating')).toContain('▲ 1.50');
  expect(textOf('skating')).toContain('changed');
  expect(textOf('skating')).toContain('The left foot slides from frame 8 to 15. Hold it there.');
  expect(
    within(screen.getByRole('row', { name: 'skating' }))
      .getByRole('link', { name: /repair on the Bench/ })
      .getAttribute('href'),
  ).toBe('/gullmouth/bench/id-skating');
  expect(textOf('broken')).toContain('▲ The take of this clip is not in the project.');
  expect(textOf('calm')).toContain('Wick, loop');
  expect(screen.getByRole('progressbar', { name: 'Measuring waiting' })).toBeTruthy();
  expect(
    within(screen.getByRole('row', { name: 'round' }))
      .getAllByRole('link')[0]
      .getAttribute('href'),
  ).toBe('/gullmouth/joins/id-round');
  expect((screen.getByRole('checkbox', { name: 'Ship calm' }) as HTMLInputElement).checked).toBe(true);
  await userEvent.setup().click(screen.getByRole('checkbox', { name: 'Ship skating' }));
  expect([...(onShipped.mock.lastCall as [Set<string>])[0]].sort()).toEqual(['id-calm', 'id-skating']);
});

test('bounds are typed in the heads, a share as per cent, and only where a set keeps them', async () => {
  const onBounds = jest.fn();
  table([clip('calm')], { onBounds });
  const user = userEvent.setup();
  const field = screen.getByRole('textbox', { name: 'Bound of slide' });
  await user.clear(field);
  await user.type(field, '0.3{Enter}');
  expect(onBounds).toHaveBeenLastCalledWith({ slideCm: 0.3 });
  const speed = screen.getByRole('textbox', { name: 'Bound of speed' });
  expect((speed as HTMLInputElement).value).toBe('5');
  await user.clear(speed);
  await user.type(speed, '8{Enter}');
  expect(onBounds).toHaveBeenLastCalledWith({ speed: 0.08 });
  cleanup();
  table([clip('calm')]);
  expect(screen.queryByRole('textbox', { name: 'Bound of slide' })).toBeNull();
});

test('a clip is mirrored and retimed from its row', async () => {
  const [onMirror, onRetime] = [jest.fn(), jest.fn()];
  table([clip('calm')], { onMirror, onRetime });
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'More for calm' }));
  await user.click(screen.getByRole('menuitem', { name: 'Make the other side' }));
  expect(onMirror).toHaveBeenCalledWith(['id-calm']);
  await user.click(screen.getByRole('button', { name: 'More for calm' }));
  await user.click(screen.getByRole('menuitem', { name: /Let time go/ }));
  expect(onRetime).toHaveBeenCalledWith(['id-calm']);
});

test('time that goes quicker twice goes quicker by both', () => {
  const doc = { id: 'a', name: 'a', source: { take: 't', from: 0, to: 9 }, steps: [], gait: '', direction: '' } as ClipDoc;
  const once = quicker(doc, 1.1);
  expect(once.steps).toMatchObject([{ kind: 'retime', factor: 1.1 }]);
  const twice = quicker(once, 2);
  expect(twice.steps).toHaveLength(1);
  expect(twice.steps[0]).toMatchObject({ factor: 2.2 });
});

test('filters count what they show; those of people are there where there are several', async () => {
  const onFilter = jest.fn();
  const clips = [clip('calm'), clip('skating', { about: about({ slideCm: 2 }), since: 'changed' }), { ...clip('stout'), who: 'Tallow' }];
  render(<ReadyHead clips={clips} open={2} fps={30} filter={{ kind: 'all' }} onFilter={onFilter} />);
  expect(screen.getByRole('heading', { name: '2 of 3 are ready' })).toBeTruthy();
  expect(screen.getByText(/at 30 frames a second.*2 still being measured/)).toBeTruthy();
  expect(
    within(screen.getByRole('group'))
      .getAllByRole('button')
      .map(({ textContent }) => textContent),
  ).toEqual([...['all 3', 'not ready 1', 'changed 1', 'Wick 2', 'Tallow 1']]);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Tallow 1' }));
  expect(onFilter).toHaveBeenCalledWith({ kind: 'who', who: 'Tallow' });
  expect(clips.filter((own) => isShown({ kind: 'changed' }, own)).map(({ name }) => name)).toEqual(['skating']);
});

test('the table as CSV has figures as they are, and quotes what has commas', () => {
  const csv = readyCsv([clip('calm'), clip('a, b', { about: about({ slideCm: 2 }) })]).split('\n');
  expect(csv[0]).toMatch(/^clip,character,kind,ready,length \(s\),speed \(m\/s\)/);
  expect(csv[1]).toMatch(/^calm,Wick,loop,yes,1\.1,1\.38,0\.01,0\.6,0\.04/);
  expect(csv[2]).toMatch(/^"a, b",Wick,loop,no,.*The left foot slides/);
});

test('what is chosen of a shipment is told as it is chosen', async () => {
  let choice: ShipChoice = { fps: 60, thin: { boundMm: 0.5 } };
  const change = (next: ShipChoice) => (choice = next);
  const user = userEvent.setup();
  const again = () => {
    cleanup();
    render(<ShipOptions choice={choice} onChoice={change} clips={[clip('calm'), clip('wait')]} />);
  };
  render(<ShipOptions choice={choice} onChoice={change} clips={[]} />);
  expect(screen.queryByText(/KB/)).toBeNull();
  again();
  expect(screen.getByText(/50 KB/).textContent).toContain('28 KB');
  await user.click(screen.getByRole('radio', { name: '30' }));
  again();
  await user.click(screen.getByRole('radio', { name: 'one each' }));
  again();
  await user.click(screen.getByRole('radio', { name: 'straight' }));
  again();
  await user.click(screen.getByRole('switch', { name: 'CSV of travel' }));
  again();
  await user.click(screen.getByRole('button', { name: 'for engines that ask for more' }));
  await user.click(await screen.findByRole('radio', { name: 'left out' }));
  expect(shipSchema.parse(choice)).toMatchObject({
    ...{ fps: 30, oneFilePerClip: true, thin: { boundMm: 0.5, joining: 'straight' }, csv: true, lastKey: 'left out' },
  });
  again();
  await user.click(screen.getByRole('button', { name: 'for engines that ask for more' }));
  await user.click(await screen.findByRole('switch', { name: 'clips as differences from a pose' }));
  expect(choice.differences).toEqual({ clip: 'id-calm', frame: 0, of: ['id-calm'] });
  await user.click(screen.getByRole('radio', { name: 'every frame' }));
  expect(choice.thin).toBeUndefined();
});

test('a promise that was broken is told with what breaks it', () => {
  render(
    <TripWires
      all={[
        { id: 'root', what: 'one root joint', ok: true, found: [] },
        { id: 'loops', what: 'a loop’s last key is its first', ok: false, found: ['set.glb: “walk”: LeftThigh ends otherwise.'] },
      ]}
    />,
  );
  expect(screen.getByText('1 touched')).toBeTruthy();
  expect(screen.getByLabelText('broken')).toBeTruthy();
});

test('a shipment tells what was written again and why, or what became of it', () => {
  expect(summaryOf(shipment())).toBe('3 clips, 0.42 MB. 1 of 1 files written again: stroll: its cut.');
  expect(summaryOf(shipment({ written: [{ path: 'set.glb', bytes: 1, state: 'same', why: [] }] }))).toMatch(/Nothing had changed/);
  expect(summaryOf(shipment({ written: [{ path: 'set.glb', bytes: 1, state: 'new', why: ['it was not there'] }] }))).toMatch(/The first/);
  expect(summaryOf(shipment({ failed: 1 }))).toMatch(/^2 clips.*Not in it: 1 clip that could not be made/);
  expect(summaryOf(shipment({ state: 'stopped' }))).toBe('It was stopped.');
  expect(summaryOf(shipment({ state: 'failed', message: 'No clip could be made.' }))).toMatch(/did not arrive. No clip/);
});

test('one that is on its way shows how far it is and can be stopped; those before can be had again and taken back', () => {
  const [onStop, onTakeBack] = [jest.fn(), jest.fn()];
  render(
    <ShipmentsSoFar
      shipments={[shipment({ id: 'now', state: 'making', done: 9, of: 14, files: [] }), shipment()]}
      onStop={onStop}
      onTakeBack={onTakeBack}
    />,
  );
  expect(screen.getByRole('progressbar', { name: 'Shipping' }).getAttribute('aria-valuenow')).toBe('9');
  expect(screen.getByText('9 of 14')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'stop' }));
  expect(onStop).toHaveBeenCalledWith('now');
  fireEvent.click(screen.getByRole('button', { name: /^Take the shipment of 14 Oct .* back$/ }));
  expect(onTakeBack).toHaveBeenCalledWith('a');
});

test('two shipments are compared by what is written of their figures', () => {
  const report = (clips: object[]) => ({ clips }) as unknown as Report;
  const own = (name: string, slideCm: number) => ({ name, seconds: 1.1, slideCm, loop: false });
  expect(
    compareReports(
      report([own('stroll', 2.1), own('wait', 0.1), own('hop', 0)]),
      report([own('stroll', 0.04), own('wait', 0.1004), own('jog', 1)]),
    ),
  ).toEqual([
    { name: 'stroll', state: 'changed', changes: [{ figure: 'slide', unit: 'cm', digits: 2, before: 2.1, after: 0.04 }] },
    { name: 'jog', state: 'new', changes: [] },
    { name: 'hop', state: 'gone', changes: [] },
    { name: 'wait', state: 'same', changes: [] },
  ]);
});

test('while clips are measured every row stays where it was, and what is new comes after', () => {
  const rows = ['d', 'a', 'c', 'b'].map((id) => ({ id }));
  expect([...rows].sort(asBefore(['a', 'b', 'c'])).map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd']);
  // Without an order so far it is that of the server.
  expect([...rows].sort(asBefore([])).map(({ id }) => id)).toEqual(['d', 'a', 'c', 'b']);
});
