import {
  clipFigures,
  clipSlides,
  findLoops,
  recipeRunner,
  stepSchema,
  timeMap,
  worldMotion,
  type Clip,
  type RecipeStepInput,
  type TimePin,
} from '@lantern/motion';
import { resultFrame } from '../src/math/time-map';
import fc from 'fast-check';
import { farthest, suit } from './made';

const step = (input: RecipeStepInput) => stepSchema.parse(input);
const { motion, gait } = suit('walk', { seed: 5 });
const run = recipeRunner(motion);
const best = findLoops(gait).candidates.filter(({ strides }) => strides === 1)[0];
const loop = (...steps: RecipeStepInput[]): Clip =>
  run({
    from: best.from,
    to: best.to,
    steps: [step({ kind: 'loop' }), step({ kind: 'foot-lock' }), step({ kind: 'travel', start: 'origin' }), ...steps.map(step)],
  });
const plain = loop();
const cycle = plain.motion.frames - 1;
const worstSlide = (clip: Clip) => Math.max(0, ...clipSlides(clip).map(({ excursionCm }) => excursionCm));

const pins = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 8, max: 40 })), { minLength: 1, maxLength: 6 })
  .map((steps) =>
    steps.reduce<TimePin[]>(
      (all, [from, to]) => [...all, { from: all[all.length - 1].from + from, to: all[all.length - 1].to + to }],
      [{ from: 0, to: 0 }],
    ),
  )
  // Slower than a twentieth is refused.
  .filter((all) =>
    all.every((pin, i) => i === 0 || pin.from === all[i - 1].from || (pin.from - all[i - 1].from) / (pin.to - all[i - 1].to) >= 0.05),
  );

test('time goes through its pins and never back; between two of the same frame it stands still', () => {
  fc.assert(
    fc.property(pins, fc.boolean(), (all, isLoop) => {
      const map = timeMap(all, isLoop);
      expect(map.length).toBe(all[all.length - 1].to + 1);
      for (const { from, to } of all) expect(map[to]).toBeCloseTo(from, 9);
      for (let f = 1; f < map.length; f++) expect(map[f]).toBeGreaterThanOrEqual(map[f - 1] - 1e-9);
      all.slice(1).forEach((pin, i) => {
        if (pin.from === all[i].from) for (let f = all[i].to; f <= pin.to; f++) expect(map[f]).toBeCloseTo(pin.from, 9);
      });
    }),
  );
});

test('time that comes round has one speed there', () => {
  const map = timeMap(
    [
      { from: 0, to: 0 },
      { from: 200, to: 400 },
      { from: 600, to: 600 },
    ],
    true,
  );
  const [start, end] = [map[1] - map[0], map[600] - map[599]];
  expect(Math.abs(start - end)).toBeLessThan(0.03);
  expect(resultFrame(map, 200, true)).toBe(400);
  expect(resultFrame(map, 800, true)).toBe(1000);
});

test.each([
  [
    [
      { from: 0, to: 0 },
      { from: 10, to: 5 },
      { from: 5, to: 9 },
    ],
    'time would go backwards',
  ],
  [
    [
      { from: 0, to: 0 },
      { from: 10, to: 9 },
      { from: 12, to: 9 },
    ],
    'no later than the pin before it',
  ],
  [
    [
      { from: 0, to: 0 },
      { from: 100, to: 2 },
    ],
    'faster than 20',
  ],
  [
    [
      { from: 0, to: 0 },
      { from: 1, to: 200 },
    ],
    'slower than 0.05',
  ],
] as const)('impossible pins are refused with the pin and the reason', (all, why) => {
  expect(() => timeMap([...all], false)).toThrow(why);
});

test('a factor, a length and a cadence: as long, as fast and as often as asked, feet planted, no tick', () => {
  for (const factor of [0.25, 0.5, 2, 4]) {
    const clip = loop({ kind: 'retime', factor });
    expect(clip.motion.frames - 1).toBe(Math.round(cycle / factor));
    expect(worstSlide(clip)).toBeLessThan(0.1);
    const figures = clipFigures(clip);
    expect(figures?.speedMps).toBeCloseTo(1.3 * (cycle / factor / (clip.motion.frames - 1)) * factor, 1);
    if (factor < 3) expect(figures?.tick).toBeLessThan(1.2);
  }
  expect(loop({ kind: 'retime', frames: 90 }).motion.frames).toBe(91);
  expect(loop({ kind: 'retime', cadence: 90 }).motion.frames - 1).toBe(Math.round(((2 * 60) / 90) * 60));
});

test('a pose that is held stays held to a fifth of a millimetre, its root too, and what follows comes later', () => {
  const clip = loop({
    kind: 'retime',
    pins: [
      { from: 30, to: 30 },
      { from: 30, to: 45 },
    ],
  });
  expect(clip.motion.frames).toBe(plain.motion.frames + 15);
  const world = worldMotion(clip);
  const frame = (f: number) => ({
    ...world,
    frames: 1,
    rotations: world.rotations.slice(f * 84, f * 84 + 84),
    rootPositions: world.rootPositions.slice(f * 3, f * 3 + 3),
  });
  for (const f of [31, 38, 45]) expect(farthest(frame(f), frame(30))).toBeLessThan(2e-4);
  expect(worstSlide(clip)).toBeLessThan(0.1);
  expect(clipFigures(clip)?.tick).toBeLessThan(1.2);
  expect(clip.contacts?.left.length).toBe(plain.contacts?.left.length);
  const before = run({ from: best.from, to: best.to, steps: [step({ kind: 'loop' })] });
  expect(before.contacts).toBeUndefined();
});

test('pins that change nothing change nothing', () => {
  expect(loop({ kind: 'retime', pins: [{ from: 20, to: 20 }] }).motion).toBe(plain.motion);
});
