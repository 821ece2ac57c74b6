import { createMotion, type Passport } from '@lantern/motion';
import { columnOf } from '@/data/joint-ways';
import { packGltf } from '@/data/pack-gltf';
import type { TakeInfo } from '@/data/project';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { answers } from '@/places/takes/answers';
import { stepOf } from '@/server/cuts';
import { ofWholeLength } from '@/server/takes';
import { rulerOf } from '@/timeline/ruler';

const take = (more: Partial<TakeInfo> = {}): TakeInfo => ({
  id: 'a',
  project: 'gullmouth',
  name: 'wick-rounds',
  file: 'wick-rounds.bvh',
  frames: 100,
  fps: 60,
  skeleton: { joints: [] },
  moving: [],
  passport: { warnings: [] as Passport['warnings'] } as Passport,
  overrides: {},
  signature: 's',
  long: false,
  tags: ['quay', 'rope'],
  notes: 'Down to the lamp post.',
  star: false,
  markers: [],
  props: [],
  path: [],
  created: '',
  ...more,
});

test('a take answers to words of its name, tags and notes, all of them; # wants a tag, * a star, ! a warning', () => {
  const warned = take({ passport: { warnings: [{ code: 'floor', message: '' }] } as unknown as Passport, star: true });
  expect(['', 'ROUNDS', 'lamp', 'wick rope', '#qu', '#rope lamp'].map((search) => answers(take(), search))).toEqual(Array(6).fill(true));
  expect(['stroll', 'lamp stroll', '#lamp', '*', '!'].map((search) => answers(take(), search))).toEqual(Array(5).fill(false));
  expect(['*', '!', '* ! lamp'].map((search) => answers(warned, search))).toEqual([true, true, true]);
});

test('a take goes by another name for everything it is read as, whatever order that was said in', () => {
  const keys = [take(), take({ overrides: { fps: 30 } }), take({ overrides: { fps: 30, metresPerUnit: 1 } })].map((t) => takeKey(t));
  expect(new Set(keys).size).toBe(3);
  expect(takeKey(take({ overrides: { metresPerUnit: 1, fps: 30 } }))).toBe(keys[2]);
  expect(sourceOf(take({ overrides: { fps: 30 } }), {}).key).toBe(keys[0]);
});

test('frames of a file to a frame of the take: one, unless it is brought to another rate', () => {
  expect(stepOf({ fps: 120 }, {})).toBe(1);
  expect(stepOf({ fps: 120 }, { fps: 30 })).toBe(1);
  expect(stepOf({ fps: 120 }, { conform: 60 })).toBe(2);
  expect(stepOf({ fps: 120 }, { fps: 30, conform: 60 })).toBe(0.5);
});

test('the passport of a long take is of its first minutes and has the length of all of it', () => {
  const measured = { frames: 3600, fps: 60, seconds: 60, warnings: [{ code: 'one-frame', message: '' }] } as unknown as Passport;
  const whole = ofWholeLength(measured, 14_401, 2);
  expect(whole).toMatchObject({ frames: 7201, seconds: 7201 / 60 });
  expect(whole.warnings.map(({ message }) => message)).toEqual([
    'The take is long: its passport is made on the first 1:00 of 2:00 minutes.',
  ]);
  expect(ofWholeLength(whole, 14_401, 2).warnings).toHaveLength(1);
});

test('the ruler has its ticks at whole seconds, at frames, or at each left footfall', () => {
  const motion = { ...createMotion({ joints: [] }, 60, 600) };
  const contacts = {
    fps: 60,
    floorM: 0,
    left: [
      { from: 0, to: 20 },
      { from: 62, to: 90 },
      { from: 125, to: 150 },
    ],
    right: [],
  };
  const labelled = (unit: 'seconds' | 'frames' | 'strides', window: { from: number; to: number }) =>
    rulerOf(unit, { contacts, motion }, window, 800).filter(({ label }) => label !== null);
  expect(labelled('seconds', { from: 0, to: 600 }).find(({ label }) => label === '5')?.frame).toBe(300);
  // Under four seconds, tenths.
  expect(labelled('seconds', { from: 60, to: 120 }).find(({ label }) => label === '1.5')?.frame).toBe(90);
  expect(labelled('frames', { from: 0, to: 600 }).every(({ frame, label }) => String(frame) === label)).toBe(true);
  expect(labelled('strides', { from: 0, to: 600 })).toEqual([
    { frame: 62, label: '2' },
    { frame: 125, label: '3' },
  ]);
});

test('a column of a way, in its own unit and from its own zero', () => {
  const way = Float32Array.from([1, 2, 3, 4, 5, 6, 7, 8]);
  expect([...columnOf(way, 1, 100, 1)]).toEqual([100, 500]);
  expect([...columnOf(way, 3)]).toEqual([4, 8]);
});

test('a .gltf that names a file which was not dropped with it, or is no JSON, goes as it is', async () => {
  const file = (name: string, text: string) => Object.assign(new File([text], name), { text: async () => text });
  const broken = file('way.gltf', '{');
  expect(await packGltf(broken, new Map())).toBe(broken);
  const other = file('way.bvh', 'HIERARCHY');
  expect(await packGltf(other, new Map())).toBe(other);
  const packed = await packGltf(file('way.gltf', '{"buffers":[{"uri":"gone.bin"}]}'), new Map());
  expect(await packed.text()).toContain('gone.bin');
});
