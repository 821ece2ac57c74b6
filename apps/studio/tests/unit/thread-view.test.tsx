/** @jest-environment jsdom */
import { stepSchema } from '@lantern/motion';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { usePlayer } from '@/data/player';
import type { RetimeStep } from '@/places/bench/retime/RetimeCard';
import { ThreadView } from '@/places/bench/retime/ThreadView';
import { drag } from './pointer';
import { giveRoom } from './room';

beforeAll(() => {
  giveRoom();
  SVGElement.prototype.getBoundingClientRect = () => ({ left: 0, top: 0, right: 600, bottom: 160, width: 600, height: 160 }) as DOMRect;
});
beforeEach(() => usePlayer.setState({ frame: 0 }));
afterEach(cleanup);

/** A clip of 60 frames, ten pixels a frame: its threads stand upright where nothing is retimed. */
function threads(step: Partial<RetimeStep> = {}, frames = 60, loop = false) {
  const onChange = jest.fn<void, [RetimeStep]>();
  const whole = { ...(stepSchema.parse({ kind: 'retime' }) as RetimeStep), ...step };
  const untimed = {
    frames: 60,
    cadence: 110,
    landings: [
      { side: 'left' as const, at: 12 },
      { side: 'right' as const, at: 44 },
    ],
  };
  const { container } = render(
    <svg>
      <ThreadView
        {...{ untimed, frames, loop, onChange }}
        step={whole}
        x0={0}
        width={600}
        y={0}
        height={160}
        svg={{ current: { getBoundingClientRect: () => ({ left: 0 }) } as SVGSVGElement }}
      />
    </svg>,
  );
  return { onChange, surface: container.querySelector('[data-threads]') as Element };
}
const handle = (name: string) => screen.getByRole('slider', { name });
const pace = () => screen.getByRole('img', { name: /^Pace of time/ }).getAttribute('aria-label');

test('without a pin time keeps its own pace, and there is only the end to take hold of', () => {
  threads();
  expect(screen.getAllByRole('slider').map((one) => one.getAttribute('aria-label'))).toEqual(['End of the result']);
  expect(pace()).toBe('Pace of time: 1.00 ×');
});

test('a double click pins the frame that is shown there, where it is shown', () => {
  const { onChange, surface } = threads({ factor: 2 }, 30);
  fireEvent.doubleClick(surface, { clientX: 200 });
  // A third of the way along a result that is twice as quick.
  expect(onChange).toHaveBeenCalledWith(expect.objectContaining({ factor: 2, pins: [{ from: 20, to: 10 }] }));
});

test('neither end of the result can be pinned once more', () => {
  const { onChange, surface } = threads();
  fireEvent.doubleClick(surface, { clientX: 0 });
  fireEvent.doubleClick(surface, { clientX: 600 });
  expect(onChange).not.toHaveBeenCalled();
});

test('a pin dragged below makes what is before it slower and what is after it quicker; nothing else of the step changes', () => {
  const { onChange } = threads({ pins: [{ from: 20, to: 20 }] });
  drag(handle('Time pin 1, frame of the result'), 200, 300);
  expect(onChange).toHaveBeenCalledTimes(1);
  const [changed] = onChange.mock.calls[0];
  expect(changed).toMatchObject({ factor: 1, pins: [{ from: 20, to: 30 }] });
  expect(changed.frames).toBeUndefined();
  cleanup();
  threads({ pins: changed.pins });
  expect(pace()).toBe('Pace of time: 0.67 ×, 1.33 ×');
});

test('above, a pin chooses the pose in half frames', () => {
  const { onChange } = threads({ pins: [{ from: 20, to: 20 }] });
  drag(handle('Time pin 1, frame of the clip'), 200, 254);
  expect(onChange.mock.lastCall?.[0].pins).toEqual([{ from: 25.5, to: 20 }]);
});

test('a pin does not pass its neighbours', () => {
  const pins = [
    { from: 20, to: 20 },
    { from: 40, to: 40 },
  ];
  const { onChange } = threads({ pins });
  drag(handle('Time pin 1, frame of the result'), 200, 590);
  const [first, second] = onChange.mock.lastCall?.[0].pins ?? [];
  expect(first.to).toBeGreaterThan(20);
  expect(first.to).toBeLessThan(40);
  expect(second).toEqual(pins[1]);
});

test('the end dragged sets how long the result lasts, in place of a factor or a cadence', () => {
  const { onChange } = threads({ factor: 2, cadence: 120 }, 30);
  drag(handle('End of the result'), 600, 800);
  expect(onChange).toHaveBeenLastCalledWith(expect.objectContaining({ factor: 1, cadence: undefined, frames: 40 }));
});

test('keys move a pin and take it out', async () => {
  const { onChange } = threads({ pins: [{ from: 20, to: 20 }] });
  handle('Time pin 1, frame of the result').focus();
  await userEvent.keyboard('{ArrowRight}');
  expect(onChange.mock.lastCall?.[0].pins).toEqual([{ from: 20, to: 21 }]);
  await userEvent.keyboard('{Delete}');
  expect(onChange.mock.lastCall?.[0].pins).toEqual([]);
});

test('a pose held by two pins is said to be held', () => {
  threads(
    {
      pins: [
        { from: 20, to: 20 },
        { from: 20, to: 40 },
      ],
    },
    80,
  );
  expect(pace()).toBe('Pace of time: 1.00 ×, held, 1.00 ×');
});
