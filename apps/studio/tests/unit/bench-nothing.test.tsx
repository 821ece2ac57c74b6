/** @jest-environment jsdom */
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NoClip, Nothing } from '@/places/bench/Nothing';

afterEach(cleanup);

describe('the bench without anything on it', () => {
  test.each([
    ['clip', 3, 'This clip is not in the project any more', /undo brings it back/],
    ['source', 3, 'What this clip is cut from is not in the project any more', /undo brings it back/],
    [null, 0, 'Nothing to cut yet', /Bring a take in first/],
    [null, 3, 'Nothing to cut yet', /Choose a take to cut from/],
  ] as const)('gone: %s, of %d takes: says why, and leads to the takes', (gone, takes, title, says) => {
    render(<Nothing gone={gone} takes={takes} project="gullmouth" />);
    expect(screen.getByText(title)).toBeTruthy();
    expect(screen.getByText(says)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Go to the takes' }).getAttribute('href')).toBe('/gullmouth/takes');
  });

  test('of a take, or a join, without a clip what one does next is a click; what it offers once that is read', async () => {
    const user = userEvent.setup();
    const [onCut, onOffer] = [jest.fn(), jest.fn()];
    const { rerender } = render(<NoClip take="evening-round" canOffer={false} onCut={onCut} onOffer={onOffer} />);
    expect(screen.getByText('evening-round')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'See what it offers' }).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Cut a clip at the playhead' }));
    rerender(<NoClip take="evening-round" canOffer onCut={onCut} onOffer={onOffer} />);
    await user.click(screen.getByRole('button', { name: 'See what it offers' }));
    expect([onCut.mock.calls.length, onOffer.mock.calls.length]).toEqual([1, 1]);
  });
});
