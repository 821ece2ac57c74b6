/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { TimeHandle } from '@/timeline/TimeHandle';
import { Post } from '@/places/bench/deck/Post';
import { Pin } from '@/places/bench/retime/ThreadPin';
import { drag } from './pointer';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
afterEach(cleanup);

/** Ten pixels a frame. */
const frameAt = (clientX: number) => clientX / 10;

function handle(more: Partial<Parameters<typeof TimeHandle>[0]> = {}) {
  const onMove = jest.fn();
  render(
    <svg>
      <TimeHandle name="In post" frame={20} least={5} most={40} frameAt={frameAt} onMove={onMove} {...more}>
        <rect />
      </TimeHandle>
    </svg>,
  );
  return { onMove, slider: screen.getByRole('slider', { name: 'In post' }) };
}

test('it says where it is and between which frames it may be', () => {
  const { slider } = handle({ says: 'frame 20 of the clip' });
  expect(['valuenow', 'valuemin', 'valuemax', 'valuetext'].map((name) => slider.getAttribute(`aria-${name}`))).toEqual([
    '20',
    '5',
    '40',
    'frame 20 of the clip',
  ]);
});

test('dragged, it keeps under the pointer where it was taken hold of, and is done when it is let go', () => {
  const { onMove, slider } = handle();
  drag(slider, 203, 303);
  expect(onMove.mock.calls.filter(([, isDone]) => !isDone).length).toBeGreaterThan(0);
  expect(onMove).toHaveBeenLastCalledWith(30, true);
});

test('it stays within its bounds, and snaps unless Alt is held', () => {
  const snap = (frame: number, isFree: boolean) => (isFree ? frame : Math.round(frame / 8) * 8);
  const { onMove, slider } = handle({ snap });
  drag(slider, 200, 900);
  expect(onMove).toHaveBeenLastCalledWith(40, true);
  drag(slider, 200, 311);
  expect(onMove).toHaveBeenLastCalledWith(32, true);
  drag(slider, 200, 311, { altKey: true });
  expect(onMove).toHaveBeenLastCalledWith(31.1, true);
});

test('a press without a move changes nothing', () => {
  const { onMove, slider } = handle();
  drag(slider, 200, 200);
  expect(onMove).not.toHaveBeenCalled();
});

test('keys move it by one and by ten, never beyond its bounds; Delete takes it out where it may be', async () => {
  const onDelete = jest.fn();
  const { onMove, slider } = handle({ onDelete });
  const user = userEvent.setup();
  slider.focus();
  await user.keyboard('{ArrowRight}');
  expect(onMove).toHaveBeenLastCalledWith(21, true);
  await user.keyboard('{PageDown}');
  expect(onMove).toHaveBeenLastCalledWith(10, true);
  cleanup();
  const near = handle({ frame: 38, onDelete });
  near.slider.focus();
  await user.keyboard('{PageUp}');
  expect(near.onMove).toHaveBeenLastCalledWith(40, true);
  await user.keyboard('{Delete}');
  expect(onDelete).toHaveBeenCalledTimes(1);
});

test('Enter opens a field in which its frame is typed, also as a sum', async () => {
  const { onMove, slider } = handle();
  const user = userEvent.setup();
  slider.focus();
  await user.keyboard('{Enter}');
  const field = await screen.findByRole('textbox', { name: 'In post, frame typed' });
  await user.clear(field);
  await user.type(field, '12+5{Enter}');
  expect(onMove).toHaveBeenLastCalledWith(17, true);
});

test('a post is a handle over the whole height of the deck; a pin has one at either end, but the end of the result only one', () => {
  const onMove = jest.fn();
  render(
    <svg>
      <Post name="Out post" frame={30} least={0} most={60} x={100} height={200} frameAt={frameAt} snap={Math.round} onMove={onMove} />
    </svg>,
  );
  expect(screen.getByRole('slider', { name: 'Out post' }).querySelector('rect')?.getAttribute('height')).toBe('200');
  cleanup();
  const onDelete = jest.fn();
  const pin = (isEnd: boolean) =>
    render(
      <svg>
        <Pin
          index={2}
          isEnd={isEnd}
          pin={{ from: 10.5, to: 20 }}
          path="M0 0"
          ends={[105, 200]}
          y={[0, 80]}
          frameAt={{ from: frameAt, to: frameAt }}
          onMove={onMove}
          onDelete={onDelete}
        />
      </svg>,
    );
  pin(false);
  drag(screen.getByRole('slider', { name: 'Time pin 2, frame of the clip' }), 105, 133);
  expect(onMove).toHaveBeenLastCalledWith('from', 13.5, true);
  fireEvent.keyDown(screen.getByRole('slider', { name: 'Time pin 2, frame of the result' }), { key: 'Delete' });
  expect(onDelete).toHaveBeenCalledTimes(1);
  cleanup();
  pin(true);
  expect(screen.getAllByRole('slider').map((s) => s.getAttribute('aria-label'))).toEqual(['End of the result']);
  fireEvent.keyDown(screen.getByRole('slider'), { key: 'Delete' });
  expect(onDelete).toHaveBeenCalledTimes(1);
});
