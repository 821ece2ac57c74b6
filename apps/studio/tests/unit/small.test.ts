import { InputError } from '@lantern/motion';
import { z } from 'zod';
import { BOUNDS, isOut } from '@/data/bounds';
import { log } from '@/server/log';
import { readBody, respond } from '@/server/respond';
import { tracePath } from '@/timeline/paths';
import { drawnBars } from '@/timeline/Ribbon';
import { ticks } from '@/timeline/ticks';

const post = (headers: Record<string, string>, body?: BodyInit) =>
  new Request('http://localhost:4180/api', { method: 'POST', headers: { host: 'localhost:4180', ...headers }, body });

test('changes are taken from the application itself and from nowhere else', async () => {
  const run = async () => Response.json({});
  expect((await respond(post({ origin: 'http://localhost:4180' }), run)).status).toBe(200);
  expect((await respond(post({ 'sec-fetch-site': 'same-origin' }), run)).status).toBe(200);
  const foreign: Record<string, string>[] = [{ origin: 'http://other.test' }, { origin: 'null' }, { 'sec-fetch-site': 'cross-site' }, {}];
  for (const headers of foreign) expect((await respond(post(headers), run)).status).toBe(403);
});

test('an input error is a 422 with its sentence and line, a wrong request a 400, our own fault a 500 that tells nothing', async () => {
  const failing = async (error: unknown) => {
    const response = await respond(new Request('http://localhost:4180/', { headers: { host: 'localhost:4180' } }), () =>
      Promise.reject(error),
    );
    return [response.status, await response.json()];
  };
  expect(await failing(new InputError('bvh-row', 'The last row is short.', { line: 7 }))).toEqual([
    422,
    { code: 'bvh-row', message: 'The last row is short.', line: 7 },
  ]);
  expect((await failing(z.object({ a: z.number() }).safeParse({}).error))[0]).toBe(400);
  const record = jest.spyOn(log, 'error').mockImplementation(() => {});
  const error = new Error('password is hunter2');
  expect(await failing(error)).toEqual([500, { code: 'ours', message: expect.not.stringContaining('hunter2') }]);
  expect(record).toHaveBeenCalledWith(expect.objectContaining({ errors: [expect.objectContaining({ name: 'Error' })] }), 'request failed');
  record.mockRestore();
});

test('a body is read up to its limit and refused beyond', async () => {
  expect(await readBody(post({}, 'hello'), 5)).toEqual(new TextEncoder().encode('hello'));
  await expect(readBody(post({}, 'hello!'), 5)).rejects.toThrow(/larger/);
});

test('a trace of many frames keeps every spike', () => {
  const values = new Float32Array(100_000);
  values[54_321] = 9;
  const path = tracePath(
    values,
    0,
    99_999,
    500,
    (f) => f / 200,
    (v) => v,
  );
  expect(path).toMatch(/,9L/);
  expect(path.split('L').length).toBeLessThan(1100);
});

test('contacts that would touch on the screen are drawn as one bar, and those outside the window not at all', () => {
  const bars = Array.from({ length: 5000 }, (_, i) => ({ from: i * 60, to: i * 60 + 36 }));
  const at = (pixelsPerFrame: number) => (frame: number) => frame * pixelsPerFrame;
  expect(drawnBars(bars, 0, 300_000, at(0.002))).toEqual([{ from: 0, to: 4999 * 60 + 36 }]);
  expect(drawnBars(bars, 600, 1200, at(1))).toEqual(bars.slice(10, 20));
  // 24 frames between two: just seen, or not.
  expect(drawnBars(bars, 0, 1200, at(0.063))).toHaveLength(20);
  expect(drawnBars(bars, 0, 1200, at(0.062))).toHaveLength(1);
  // One within another ends nothing.
  const within = [
    { from: 0, to: 100 },
    { from: 20, to: 40 },
  ];
  expect(drawnBars(within, 0, 200, at(1))).toEqual([{ from: 0, to: 100 }]);
});

test('a ruler has round steps with room for its words', () => {
  for (const [from, to, width] of [
    [0, 100, 800],
    [120, 4000, 600],
    [5, 17, 900],
  ]) {
    const all = ticks(from, to, width, 44);
    const labelled = all.filter(({ isLabelled }) => isLabelled).map(({ at }) => at);
    const step = labelled[1] - labelled[0];
    expect((step / (to - from)) * width).toBeGreaterThanOrEqual(44);
    expect(String(step)).toMatch(/^[125]0*$/);
    expect(labelled.every((at) => at % step === 0)).toBe(true);
    expect(all.every(({ at }) => Number.isInteger(at) && at >= from && at <= to)).toBe(true);
    expect(all.length).toBeGreaterThanOrEqual(labelled.length);
  }
});

test('bounds say on both sides of nothing when a figure is out', () => {
  expect(isOut('tick', 1.2)).toBe(false);
  expect(isOut('tick', 1.21)).toBe(true);
  expect(isOut('headingDeg', -2.5)).toBe(true);
  for (const { todo } of Object.values(BOUNDS)) expect(todo).toMatch(/\.$/);
});
