import { capture } from '@lantern/capture';
import { describeTake, takeDescriber, type Take, type TakeOverrides } from '@lantern/motion';

const { motion } = capture('start-stop', { seconds: 6, seed: 5 });
const take: Take = { name: 'errand', format: 'bvh', motion, warnings: [] };

const ONE_AFTER_ANOTHER: readonly TakeOverrides[] = [
  {},
  { floorToZero: true },
  { floorToZero: true, startAtOrigin: true, faceForward: true },
  { metresPerUnit: 0.02 },
  { metresPerUnit: 0.02, conform: 30 },
  { up: '+z' },
  { fps: 50 },
  {},
];

test('described with one thing overruled after another, a take is what it is described with each alone', () => {
  const describe = takeDescriber(take);
  for (const overrides of ONE_AFTER_ANOTHER) {
    const [after, alone] = [describe(overrides), describeTake(take, overrides)];
    expect(after.passport).toEqual(alone.passport);
    expect(after.motion).toEqual(alone.motion);
    expect(after.ground?.headings).toEqual(alone.ground?.headings);
  }
});

test('what was described before stays as it was', () => {
  const describe = takeDescriber(take);
  const first = describe({});
  const places = first.motion.rootPositions.slice();
  describe({ floorToZero: true, startAtOrigin: true });
  expect(first.motion.rootPositions).toEqual(places);
});

test('the ground is that of the take as it is seen downstream', () => {
  const { motion: seen, ground } = describeTake(
    { ...take, motion: { ...motion, rootPositions: motion.rootPositions.map((v, i) => (i % 3 === 1 ? v + 7 : v)) } },
    { floorToZero: true },
  );
  expect(seen.frames).toBe(motion.frames);
  expect(Math.abs(ground?.soles.floor ?? NaN)).toBeLessThan(0.01);
});
