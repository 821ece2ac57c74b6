/** @jest-environment jsdom */
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Guarded } from '@/controls/Guarded';
import { lazily } from '@/controls/lazily';

afterEach(cleanup);

test('a part whose code cannot be read says so, and trying again reads it', async () => {
  // React tells the console of every error that a boundary holds up.
  const told = jest.spyOn(console, 'error').mockImplementation(() => {});
  let isReached = false;
  const Part = lazily(async () => {
    if (!isReached) throw new Error('The server cannot be reached.');
    return () => <p>Here it is.</p>;
  }, 'it');
  render(
    <Guarded name="It">
      <Part />
    </Guarded>,
  );
  expect((await screen.findByRole('alert')).textContent).toContain('The server cannot be reached.');
  isReached = true;
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('Here it is.')).toBeTruthy();
  told.mockRestore();
});
