import { capture } from '@lantern/capture';
import { cutMotion, findLoops, groundwork, recipeRunner, recipeSchema, type Motion } from '@lantern/motion';
import { redeliver } from '@/worker/redelivery';

const opened = (motion: Motion) => ({ motion, ground: groundwork(motion), run: recipeRunner(motion) });
const old = opened(capture('walk', { seconds: 12, seed: 8 }).motion);
const solved = capture('walk', { seconds: 12, seed: 8, faults: 0, fps: 120 }).motion;
const fresh = opened(cutMotion(solved, 120, solved.frames - 1));
if (!old.ground) throw new Error('nobody walks');
const best = findLoops(old.ground).candidates.find(({ from }) => from > 90) ?? findLoops(old.ground).candidates[0];
const steps = recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }]);
const made = {
  clips: [
    { id: 'stride', recipe: { from: best.from, to: best.to, steps } },
    { id: 'first', recipe: { from: 0, to: 40, steps: [] } },
  ],
  markers: [
    { frame: 300, name: 'gull' },
    { frame: 5, name: 'begin' },
  ],
  props: [{ id: 'p', kind: 'box' as const, x: 1, z: 2, turn: 0.5, width: 1, height: 1, depth: 1 }],
};

test('a better solve at twice the rate, a second shorter at its head: clips and markers are where their motion is', () => {
  const found = redeliver(old, fresh, made, 60);
  expect(found.pace).toBeCloseTo(1, 2);
  expect(found.offsetSeconds).toBeCloseTo(-1, 1);
  const [stride, first] = found.clips;
  expect(Math.abs(stride.from - (best.from - 60) * 2)).toBeLessThanOrEqual(2);
  expect(Math.abs(stride.to - (best.to - 60) * 2)).toBeLessThanOrEqual(2);
  expect(stride.after?.seconds).toBeCloseTo(stride.before?.seconds ?? 0, 1);
  expect(first).toMatchObject({ outcome: 'lost', after: null });
  expect(found.markers.map(({ name }) => name)).toEqual(['gull']);
  expect(Math.abs(found.markers[0].frame - 480)).toBeLessThanOrEqual(2);
  expect(found.lostMarkers).toEqual(['begin']);
  // Nothing of the first second is in the new one; afterwards poses differ by the suit's faults only.
  expect(found.profile.slice(0, 10).every(Number.isNaN)).toBe(true);
  expect(Math.max(...found.profile.slice(40))).toBeLessThan(6);
  expect(found.covered).toBeCloseTo(11 / 12, 1);
});

test('what nobody walks in cannot be matched, and says so', () => {
  expect(() => redeliver({ ...old, ground: null }, fresh, made, 60)).toThrow(/no two legs/);
});

test('a clip whose recipe cannot be run is found all the same, without figures', () => {
  const recipe = { from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'fit', character: 'nobody' }]) };
  const { clips } = redeliver(old, fresh, { clips: [{ id: 'own', recipe }], markers: [], props: [] }, 60);
  expect(clips[0].outcome).not.toBe('lost');
  expect(clips[0]).toMatchObject({ before: null, after: null });
});

test('stretches of runners-up are found too; those that are not there come without a place', () => {
  const spans = [
    { from: best.from, to: best.to },
    { from: 0, to: 40 },
  ];
  const found = redeliver(old, fresh, { clips: [], markers: [], props: [], spans }, 60);
  expect(found.spans.map(({ asked }) => asked)).toEqual(spans);
  expect(Math.abs((found.spans[0].at?.from ?? 0) - (best.from - 60) * 2)).toBeLessThanOrEqual(2);
  expect(found.spans[1].at).toBeNull();
});
