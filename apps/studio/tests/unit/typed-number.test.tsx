/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { readNumber } from '@/controls/read-number';
import { TypedNumber } from '@/controls/TypedNumber';

afterEach(cleanup);

test.each([
  ['12', 12],
  ['0,5', 0.5],
  ['−3.25', -3.25],
  ['1.3*2', 2.6],
  ['(1 + 2) × 4', 12],
  ['10/4-1', 1.5],
  ['--2', 2],
])('“%s” is read as %d', (text, value) => {
  expect(readNumber(text)).toBeCloseTo(value, 10);
});

test.each(['', 'abc', '1..2', '2*', '(1', '1)', '1/0', '3 m'])('“%s” is no number', (text) => {
  expect(readNumber(text)).toBeNull();
});

function Field({ told }: { told: (value: number) => void }) {
  const [value, setValue] = useState(1.5);
  return (
    <TypedNumber
      name="Speed"
      unit="m/s"
      value={value}
      least={0.1}
      most={9}
      step={0.1}
      onChange={(next) => {
        setValue(next);
        told(next);
      }}
    />
  );
}

const shown = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Speed' }).value;

test('what is typed takes effect on Enter, a sum too; nothing before', async () => {
  const told = jest.fn();
  render(<Field told={told} />);
  const user = userEvent.setup();
  await user.tripleClick(screen.getByRole('textbox', { name: 'Speed' }));
  await user.keyboard('0.5*3+1');
  expect(told).not.toHaveBeenCalled();
  await user.keyboard('{Enter}');
  expect(told).toHaveBeenCalledWith(2.5);
  expect(shown()).toBe('2.5');
});

test('what cannot be read, or is out of bounds, is marked and put back when it is left', async () => {
  const told = jest.fn();
  render(<Field told={told} />);
  const user = userEvent.setup();
  for (const text of ['fast', '400']) {
    await user.tripleClick(screen.getByRole('textbox', { name: 'Speed' }));
    await user.keyboard(text);
    expect(screen.getByRole('textbox', { name: 'Speed' }).getAttribute('aria-invalid')).toBe('true');
    await user.tab();
    expect(shown()).toBe('1.5');
  }
  expect(told).not.toHaveBeenCalled();
});

test('arrow keys step it, with Shift ten times as far, and never out of bounds', () => {
  const told = jest.fn();
  render(<Field told={told} />);
  const field = screen.getByRole('textbox', { name: 'Speed' });
  fireEvent.keyDown(field, { key: 'ArrowUp' });
  expect(told).toHaveBeenLastCalledWith(1.6);
  fireEvent.keyDown(field, { key: 'ArrowDown', shiftKey: true });
  expect(told).toHaveBeenLastCalledWith(0.6);
  fireEvent.keyDown(field, { key: 'ArrowDown', shiftKey: true });
  expect(told).toHaveBeenLastCalledWith(0.1);
});
