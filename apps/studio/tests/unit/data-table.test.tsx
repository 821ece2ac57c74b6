/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { GridColDef } from '@mui/x-data-grid';
import { useState } from 'react';
import { DataTable, loadTable } from '@/controls/DataTable';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
beforeAll(loadTable);
afterEach(cleanup);

interface Boat {
  readonly id: string;
  readonly name: string;
  readonly metres: number;
}

const BOATS: readonly Boat[] = [
  { id: 'a', name: 'Kittiwake', metres: 7 },
  { id: 'b', name: 'Auk', metres: 12 },
  { id: 'c', name: 'Dunlin', metres: 4 },
  { id: 'd', name: 'Brent', metres: 9 },
];
const COLUMNS: readonly GridColDef<Boat>[] = [
  { field: 'name', headerName: 'Boat', width: 200 },
  { field: 'metres', headerName: 'Metres', type: 'number', width: 100 },
];

function Fleet({ onOpen = jest.fn(), onKey, rows = BOATS, told = jest.fn() }: Partial<FleetProps>) {
  const [open, setOpen] = useState<string | null>('a');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  return (
    <DataTable
      label="Fleet"
      rows={rows}
      columns={COLUMNS}
      open={open}
      onOpen={(row) => {
        setOpen(row.id);
        onOpen(row.name);
      }}
      onKey={onKey}
      choosing={{
        chosen,
        onChoose: (ids) => {
          setChosen(ids);
          told([...ids].sort().join(''));
        },
        nameOf: ({ name }) => `Choose ${name}`,
        all: 'Choose all boats',
        isChoosable: (id) => id !== 'd',
      }}
      empty="No boat is here."
    />
  );
}

interface FleetProps {
  readonly onOpen: (name: string) => void;
  readonly onKey: (key: string, row: Boat) => boolean;
  readonly rows: readonly Boat[];
  readonly told: (ids: string) => void;
}

const names = () => screen.getAllByRole('row').flatMap((row) => row.getAttribute('aria-label') ?? []);
const row = (name: string) => screen.getByRole('row', { name });
const cell = (name: string) => within(row(name)).getByText(name);

test('rows are called by their names, and the open one says so', async () => {
  const onOpen = jest.fn();
  render(<Fleet onOpen={onOpen} />);
  expect(names()).toEqual(['Kittiwake', 'Auk', 'Dunlin', 'Brent']);
  expect(row('Kittiwake').getAttribute('aria-current')).toBe('true');
  await userEvent.setup().click(cell('Auk'));
  expect(onOpen).toHaveBeenCalledWith('Auk');
  expect(row('Auk').getAttribute('aria-current')).toBe('true');
  expect(row('Kittiwake').getAttribute('aria-current')).toBeNull();
});

test('a click on a head sorts, a second the other way, a third as it came', async () => {
  render(<Fleet />);
  const user = userEvent.setup();
  const head = screen.getByText('Metres');
  await user.click(head);
  expect(names()).toEqual(['Dunlin', 'Kittiwake', 'Brent', 'Auk']);
  await user.click(head);
  expect(names()).toEqual(['Auk', 'Brent', 'Kittiwake', 'Dunlin']);
  await user.click(head);
  expect(names()).toEqual(['Kittiwake', 'Auk', 'Dunlin', 'Brent']);
});

test('tick boxes have names; all are chosen at once, but those that cannot be', async () => {
  const told = jest.fn();
  render(<Fleet told={told} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole('checkbox', { name: 'Choose Auk' }));
  expect(told).toHaveBeenLastCalledWith('b');
  await user.click(screen.getByRole('checkbox', { name: 'Choose all boats' }));
  expect(told).toHaveBeenLastCalledWith('abc');
  expect((screen.getByRole('checkbox', { name: 'Choose Brent' }) as HTMLInputElement).disabled).toBe(true);
});

test('Ctrl and a click choose one more, Shift and a click all from the open row on', () => {
  const told = jest.fn();
  render(<Fleet told={told} />);
  fireEvent.click(cell('Dunlin'), { ctrlKey: true });
  expect(told).toHaveBeenLastCalledWith('c');
  fireEvent.click(cell('Auk'), { shiftKey: true });
  expect(told).toHaveBeenLastCalledWith('abc');
});

test('arrow keys open the next row in the order shown, Enter this one, x chooses it; other keys are the place’s', async () => {
  const [onOpen, told] = [jest.fn(), jest.fn()];
  const onKey = jest.fn((key: string) => key === 'Delete');
  render(<Fleet onOpen={onOpen} told={told} onKey={onKey} />);
  const user = userEvent.setup();
  await user.click(screen.getByText('Metres'));
  await user.click(cell('Kittiwake'));
  await user.keyboard('{ArrowDown}');
  expect(onOpen).toHaveBeenLastCalledWith('Brent');
  await user.keyboard('{Delete}');
  expect(onKey).toHaveBeenCalledWith('Delete', BOATS[3]);
  await user.keyboard('{ArrowUp}x');
  expect(told).toHaveBeenLastCalledWith('a');
  await user.keyboard('{Enter}');
  expect(onOpen).toHaveBeenLastCalledWith('Kittiwake');
});

test('a space stays the player’s: the rows neither move nor are chosen by it', async () => {
  const [onOpen, told] = [jest.fn(), jest.fn()];
  render(<Fleet onOpen={onOpen} told={told} />);
  const user = userEvent.setup();
  await user.click(cell('Auk'));
  const focused = document.activeElement;
  await user.keyboard(' ');
  expect(document.activeElement).toBe(focused);
  expect(told).not.toHaveBeenCalled();
  expect(onOpen).toHaveBeenCalledTimes(1);
});

test('rows that are searched away stay chosen; without rows a sentence stands there', async () => {
  const told = jest.fn();
  const { rerender } = render(<Fleet told={told} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole('checkbox', { name: 'Choose Auk' }));
  rerender(<Fleet told={told} rows={BOATS.slice(2)} />);
  await user.click(screen.getByRole('checkbox', { name: 'Choose Dunlin' }));
  expect(told).toHaveBeenLastCalledWith('bc');
  rerender(<Fleet told={told} rows={[]} />);
  expect(screen.getByText('No boat is here.')).toBeTruthy();
});
