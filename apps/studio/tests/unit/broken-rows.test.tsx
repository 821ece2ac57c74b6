/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { describeTake } from '@lantern/motion';
import type { GridColDef } from '@mui/x-data-grid';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DataTable, loadTable } from '@/controls/DataTable';
import { Guarded } from '@/controls/Guarded';
import { projectDataSchema } from '@/http/project';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => {}));
beforeAll(loadTable);
afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
});

const { motion } = capture('walk', { seconds: 1, seed: 2 });
const { passport } = describeTake({ name: 'walk', format: 'bvh', motion, warnings: [] });
const take = (name: string, change: object = {}) => ({
  ...{ id: `id-${name}`, project: 'p', name, file: `${name}.bvh`, frames: 61, fps: 60, skeleton: motion.skeleton, moving: [], passport },
  ...{
    overrides: {},
    signature: 's',
    long: false,
    tags: [],
    notes: '',
    star: false,
    markers: [],
    props: [],
    path: [0, 0],
    created: '2026-01-01',
  },
  ...change,
});
const project = { id: 'p', name: 'P', character: 'Wick', fps: 60, namePattern: '', fitTo: '', settlesFloor: true };
const answer = (change: object) =>
  projectDataSchema.parse({ project, takes: [], clips: [], joins: [], sets: [], characters: [], fits: [], ...change });

test('one row that is not as it should be is named with what is wrong; all others are there', () => {
  const none = { ...passport, statureM: null, units: { ...passport.units, metresPerUnit: Number.NaN } };
  const { takes, broken } = answer({ takes: JSON.parse(JSON.stringify([take('good'), take('bad', { passport: none }), take('fine')])) });
  expect(takes.map(({ name }) => name)).toEqual(['good', 'fine']);
  expect(broken).toEqual([
    { kind: 'take', id: 'id-bad', name: 'bad', why: expect.stringMatching(/^passport\.(statureM|units\.metresPerUnit): /) },
  ]);
});

test.each([
  ['a take that is no record', { takes: [null] }, 'without a name'],
  ['markers of another time', { takes: [take('old', { markers: [{ at: 3 }] })] }, 'old'],
  [
    'a clip with a step that nobody knows',
    {
      clips: [
        {
          id: 'c',
          name: 'odd',
          project: 'p',
          revision: 1,
          updated: '2026-01-01',
          source: { take: 't', from: 0, to: 9 },
          steps: [{ kind: 'fly', id: 'f' }],
        },
      ],
    },
    'odd',
  ],
  [
    'a join whose piece is of nothing',
    { joins: [{ id: 'j', name: 'round', project: 'p', revision: 1, updated: '2026-01-01', pieces: [{ times: 2 }] }] },
    'round',
  ],
  ['a character without facts', { characters: [{ project: 'p', id: 'w', name: 'Wick', file: 'w.glb', hash: 'h', facts: {} }] }, 'Wick'],
  ['a fit with settings that are none', { fits: [{ source: 's', character: 'w', settings: { soleCm: 'high' } }] }, 'without a name'],
])('the project opens with %s', (_, change, name) => {
  const data = answer(change);
  expect(data.broken.map((row) => row.name)).toEqual([name]);
  expect([...data.takes, ...data.clips, ...data.joins, ...data.characters, ...data.fits]).toEqual([]);
});

const COLUMNS: readonly GridColDef<{ id: string; name: string; metres: number | null }>[] = [
  { field: 'name', width: 100 },
  { field: 'metres', width: 100, valueFormatter: (metres: number) => metres.toFixed(2) },
];

test('a row that cannot be drawn is said so by its name, between the others', () => {
  const rows = [
    { id: 'a', name: 'good', metres: 1 },
    { id: 'b', name: 'bad', metres: null },
    { id: 'c', name: 'fine', metres: 3 },
  ];
  render(<DataTable label="Rows" rows={rows} columns={COLUMNS} />);
  expect(screen.getAllByRole('row').flatMap((row) => row.getAttribute('aria-label') ?? [])).toEqual(['good', 'bad', 'fine']);
  expect(screen.getByRole('row', { name: 'bad' }).textContent).toBe('▲ “bad” cannot be shown: something of it is not as it should be.');
  expect(screen.getByText('3.00')).toBeTruthy();
});

test('a panel that fails says so in its place, and comes back when it can', async () => {
  let isWell = false;
  const Panel = () => {
    if (!isWell) throw new Error('no stature');
    return <p>all is well</p>;
  };
  render(
    <>
      <Guarded name="The list of takes">
        <Panel />
      </Guarded>
      <p>the rest</p>
    </>,
  );
  expect(screen.getByRole('alert').textContent).toMatch(/^▲ The list of takes cannot be shown\.no stature/);
  expect(screen.getByText('the rest')).toBeTruthy();
  isWell = true;
  await userEvent.setup().click(screen.getByRole('button', { name: 'Try again' }));
  expect(screen.getByText('all is well')).toBeTruthy();
});
