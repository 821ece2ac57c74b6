import { FASTEST, SLOWEST, stepSchema, timeMap, type TimePin } from '@lantern/motion';
import fc from 'fast-check';
import { holdAt, movedPin, pinsInStep, pinsWith } from '@/places/bench/retime/time-pins';

const retime = (pins: TimePin[], frames?: number) => {
  const step = stepSchema.parse({ kind: 'retime', pins, frames });
  if (step.kind !== 'retime') throw new Error('not retime');
  return step;
};

test('pins stay in order of time, one for a place; the beginning needs none', () => {
  expect(pinsWith([{ from: 5, to: 9 }], { from: 2, to: 4 })).toEqual([
    { from: 2, to: 4 },
    { from: 5, to: 9 },
  ]);
  expect(pinsWith([{ from: 5, to: 9 }], { from: 7, to: 9 })).toEqual([{ from: 7, to: 9 }]);
  expect(pinsWith([], { from: 0, to: 0 })).toEqual([]);
});

test('a hold puts off what comes after it, the end too where it is set', () => {
  const held = holdAt(retime([{ from: 40, to: 30 }], 66), { from: 20, to: 15 }, 12);
  expect(held.pins).toEqual([
    { from: 20, to: 15 },
    { from: 20, to: 27 },
    { from: 40, to: 42 },
  ]);
  expect(held.frames).toBe(78);
  expect(holdAt(retime([]), { from: 20, to: 15 }, 12).frames).toBeUndefined();
});

test('wherever a pin is dragged, time still makes sense', () => {
  const rest: TimePin[] = [
    { from: 0, to: 0 },
    { from: 20, to: 30 },
    { from: 40, to: 50 },
    { from: 66, to: 80 },
  ];
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2 }), fc.integer({ min: -50, max: 150 }), fc.integer({ min: -50, max: 150 }), (i, from, to) => {
      const pins = rest.map((pin, k) => (k === i ? movedPin(rest, i, { from, to }) : pin));
      expect(() => timeMap(pins, false)).not.toThrow();
    }),
  );
  expect([SLOWEST, FASTEST]).toEqual([0.05, 20]);
});

test('in step with another: landings at the same share of the length, or nothing when the feet do not agree', () => {
  const own = {
    frames: 60,
    landings: [
      { side: 'left', at: 0 },
      { side: 'right', at: 33 },
    ],
  } as const;
  const other = {
    frames: 100,
    landings: [
      { side: 'left', at: 0 },
      { side: 'right', at: 50 },
    ],
  } as const;
  expect(pinsInStep(own, other)).toEqual([{ from: 33, to: 30 }]);
  expect(pinsInStep(own, { ...other, landings: [...other.landings].reverse() })).toBeNull();
  expect(pinsInStep(own, { ...other, landings: [] })).toBeNull();
});
