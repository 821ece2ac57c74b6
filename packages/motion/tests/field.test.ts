import { FIELD_BOUNDS, fieldGrid, fieldSchema, isInside, playableField, sounder, type SetClip } from '@lantern/motion';
import { fieldClips, setClip } from './set-made';

const clips = fieldClips();
const ids = clips.map(({ id }) => id);
const field = (input: object = {}) => {
  const made = playableField(fieldSchema.parse({ name: 'jogs', clips: ids, ...input }), clips);
  if (!made) throw new Error('no field');
  return made;
};

test('clips stand at what they measure', () => {
  const at = new Map(field().points.map(({ name, at: place }) => [name, place]));
  expect(at.get('stroll')?.[0]).toBeCloseTo(1.3, 1);
  expect(at.get('jog-left')?.[1]).toBeCloseTo(53.5, 0);
  expect(at.get('jog-right')?.[1]).toBeCloseTo(-53.5, 0);
});

test('all over the field feet stay, and the speed and the turn that are asked come', () => {
  const playable = field();
  const { sound } = sounder(playable, clips);
  const grid = fieldGrid(playable, 5, 5);
  expect(grid.length).toBeGreaterThan(15);
  for (const at of grid) {
    const { slideMm, got, kink, weights, isOut } = sound(at);
    expect(Object.values(weights).reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 2);
    expect(slideMm).toBeLessThan(FIELD_BOUNDS.slideMm);
    expect(got[0] / at[0]).toBeCloseTo(1, 2);
    expect(got[1]).toBeCloseTo(at[1], 0);
    expect(kink).toBeLessThan(1.5);
    expect(isOut).toBe(false);
  }
});

test('without feet held they slide, which the soundings say', () => {
  const playable = field({ holdFeet: false });
  const [stroll, jog] = playable.points.map(({ at }) => at);
  const half = [(stroll[0] + jog[0]) / 2, 0];
  const loose = sounder(playable, clips).sound(half);
  const held = sounder(field(), clips).sound(half);
  expect(loose.slideMm).toBeGreaterThan(20);
  expect(loose.isOut).toBe(true);
  expect(held.slideMm).toBeLessThan(loose.slideMm / 10);
});

test('where time does not give way a speed between a walk and a jog comes too slow', () => {
  const half = [2.05, 0];
  const stiff = sounder(field({ pace: 0 }), clips).sound(half);
  expect(stiff.got[0]).toBeLessThan(2.02);
  expect(sounder(field(), clips).sound(half).got[0]).toBeCloseTo(2.05, 2);
});

test('the same field gives the same soundings to the bit', () => {
  const [a, b] = [sounder(field(), clips).sound([2, 20]), sounder(field(), clips).sound([2, 20])];
  expect(a).toEqual(b);
});

test('a clip without steps, and one that is not there, are left out and it is said why', () => {
  const wait = setClip('wait', { script: 'idle', seconds: 16, proposal: /idle/ });
  const made = playableField(fieldSchema.parse({ name: 'x', clips: ['stroll', 'wait', 'gone'] }), [...clips, wait]);
  expect(made?.points.map(({ name }) => name)).toEqual(['stroll']);
  expect(made?.left).toEqual([
    { id: 'wait', why: '“wait” has no steps.' },
    { id: 'gone', why: 'There is no such clip in the set.' },
  ]);
  expect(playableField(fieldSchema.parse({ name: 'x', clips: ['wait'] }), [wait])).toBeNull();
});

test('a cycle of several strides is played beside one of a single stride', () => {
  const hush = setClip('hush', { script: 'hush', proposal: /sneak-forward/ });
  const mixed: SetClip[] = [clips[0], hush];
  const made = playableField(fieldSchema.parse({ name: 'x', inputs: ['speed'], clips: ['stroll', 'hush'] }), mixed);
  if (!made) throw new Error('no field');
  expect(made.points.map(({ strides }) => strides).sort()).not.toEqual([1, 1]);
  const found = sounder(made, mixed).sound([1]);
  expect(found.got[0]).toBeCloseTo(1, 2);
  expect(found.slideMm).toBeLessThan(FIELD_BOUNDS.slideMm);
});

test('a field of one input has its soundings along a line; a chart of two those inside of its clips', () => {
  const line = field({ inputs: ['speed'] });
  expect(fieldGrid(line, 9, 9)).toHaveLength(9);
  const chart = field();
  for (const at of fieldGrid(chart, 7, 7)) expect(isInside(chart.field.triangles, chart.field.points, at)).toBe(true);
});

test('by speed and direction a walk to the left stands to the left', () => {
  const left = setClip('left', { script: 'sideways', proposal: /walk-left/ });
  const made = playableField(fieldSchema.parse({ name: 'x', inputs: ['speed', 'direction'], clips: ['stroll', 'left'] }), [clips[0], left]);
  const place = made?.points.find(({ name }) => name === 'left')?.place ?? [0, 0];
  expect(place[0]).toBeGreaterThan(0.4);
  expect(Math.abs(place[1])).toBeLessThan(0.1);
});
