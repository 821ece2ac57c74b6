import { addFaults, DEFAULT_FAULTS } from '@lantern/capture';
import { recipeRunner, slides, stepSchema, withHands, type Interval } from '@lantern/motion';
import { median } from '../src/math/statistics';
import { phases } from '../src/measure/strides';
import type { SoleTracks } from '../src/measure/soles';
import { agreement, gaitOf, suit } from '../tests/made';

const edges = (found: readonly Interval[], truth: readonly Interval[], frames: number, edge: 'from' | 'to') =>
  truth
    .filter((interval) => interval[edge] > 2 && interval[edge] < frames - 2)
    .map((interval) => Math.min(...found.map((other) => Math.abs(other[edge] - interval[edge]))));

test.each(['walk', 'jog', 'hush', 'rounds', 'turn', 'start-stop', 'idle', 'kerb', 'stairs', 'hop', 'sideways', 'backwards'] as const)(
  'contacts of %s at the suit’s usual faults: F1 ≥ 0.95, edges within 2 frames, floor within 0.5 cm',
  (script) => {
    const { motion, truth, gait } = suit(script, { seed: 21 });
    for (const side of ['left', 'right'] as const) {
      expect(agreement(gait.contacts[side], truth[side], motion.frames)).toBeGreaterThanOrEqual(0.95);
      if (script === 'idle') continue;
      for (const edge of ['from', 'to'] as const)
        expect(median(edges(gait.contacts[side], truth[side], motion.frames, edge))).toBeLessThanOrEqual(2);
    }
    // The faults put the floor 2 cm up or down.
    expect(Math.abs(Math.abs(gait.soles.floor) - 0.02)).toBeLessThan(0.005);
  },
);

test('a clean walker’s feet do not slide; one pushed along by 5 cm/s slides by what he is pushed', () => {
  const { motion, gait } = suit('walk', { faults: 0 });
  const whole = (interval: Interval) => interval.from > 0 && interval.to < motion.frames;
  const still = slides(gait.soles, gait.contacts).filter(whole);
  expect(Math.max(...still.map((slide) => slide.netCm))).toBeLessThan(0.35);
  const push = (track: Float32Array) => track.map((value, i) => (i % 3 === 0 ? value + (0.05 * Math.floor(i / 3)) / motion.fps : value));
  const foot = ({ heel, ball, tip }: SoleTracks) => ({ heel: push(heel), ball: push(ball), tip: push(tip) });
  const soles = { ...gait.soles, left: foot(gait.soles.left), right: foot(gait.soles.right) };
  const pushed = slides(soles, gait.contacts).filter(whole);
  const expected = pushed.map(({ from, to, netCm }) => netCm / (((to - from) / motion.fps) * 5));
  expect(median(expected)).toBeGreaterThan(0.8);
  expect(median(expected)).toBeLessThan(1.1);
});

test('phase is 0 at a left footfall and ½ at the right one after it', () => {
  const { motion, gait } = suit('walk');
  const phase = phases(gait.contacts, motion.frames);
  const [, left] = gait.contacts.left;
  const right = gait.contacts.right.find((interval) => interval.from > left.from);
  expect(phase?.[left.from]).toBeCloseTo(0, 6);
  expect(phase?.[right?.from ?? 0]).toBeCloseTo(0.5, 6);
});

test.each(['walk', 'jog', 'turn', 'start-stop'] as const)(
  'the feet of a %s that skates at 15 cm/s are in contact all the same',
  (script) => {
    const { motion, truth } = suit(script, { faults: 0, seed: 11 });
    const skating = addFaults(motion, 11, 3, { ...DEFAULT_FAULTS, skate: 0.05 });
    const { contacts, soles } = gaitOf(skating);
    for (const side of ['left', 'right'] as const)
      expect(agreement(contacts[side], truth[side], motion.frames)).toBeGreaterThanOrEqual(0.9);
    // He does skate: several centimetres in a stance.
    expect(Math.max(...slides(soles, contacts).map(({ pathCm }) => pathCm))).toBeGreaterThan(4);
  },
);

test.each(['walk', 'jog', 'sideways', 'backwards'] as const)('a %s on the spot has the contacts of the one that travels', (script) => {
  const { motion, truth } = suit(script, { seed: 4, seconds: 6 });
  const run = recipeRunner(motion);
  const steps = [stepSchema.parse({ kind: 'travel', forward: 'drop', sideways: 'drop', heading: 'body', height: 'body' })];
  const onTheSpot = gaitOf(run({ from: 0, to: motion.frames - 1, steps }).motion);
  expect(onTheSpot.belt).not.toBeNull();
  for (const side of ['left', 'right'] as const)
    expect(agreement(onTheSpot.contacts[side], truth[side], motion.frames)).toBeGreaterThanOrEqual(0.93);
  expect(gaitOf(motion).belt).toBeNull();
});

test('hands on a rail are in contact while they are there; hands that hang, swing or hop are not', () => {
  for (const faults of [0, 1]) {
    const { motion, truth, gait } = suit('lean', { faults, seed: 5 });
    for (const side of ['leftHand', 'rightHand'] as const)
      expect(agreement(withHands(gait)[side] ?? [], truth[side] ?? [], motion.frames)).toBeGreaterThanOrEqual(0.93);
  }
  for (const script of ['walk', 'jog', 'idle', 'rounds', 'hop', 'turn', 'hush'] as const) {
    const contacts = withHands(suit(script, { seed: 8 }).gait);
    expect([contacts.leftHand, contacts.rightHand]).toEqual([undefined, undefined]);
  }
});
