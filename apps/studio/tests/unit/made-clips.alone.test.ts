import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { stepSchema, type ClipRecipe, type SetClip } from '@lantern/motion';
import type { Opening } from '@/worker/held';

const { motion } = capture('walk', { seconds: 5, seed: 4 });
const plain: ClipRecipe = { from: 60, to: 200, steps: [] };
const fitted: ClipRecipe = { ...plain, steps: [stepSchema.parse({ kind: 'fit', character: 'keeper' })] };

/** A page that is opened anew, with nothing of an earlier one but what the browser keeps. */
async function visit(files: Readonly<Record<string, Uint8Array>> = {}, change: Partial<Opening> = {}) {
  const load = jest.fn(() => Promise.resolve(motion));
  global.fetch = jest.fn((url: string) => {
    const file = files[url.split('/').at(-2) ?? ''];
    return Promise.resolve(new Response(file && Uint8Array.from(file), { status: file ? 200 : 404 }));
  }) as unknown as typeof fetch;
  let one: (take: string, recipe: ClipRecipe) => Promise<SetClip | string> = () => Promise.reject(new Error('not open'));
  await jest.isolateModulesAsync(async () => {
    const { nameMotion } = await import('@/worker/held');
    const { keptClips } = await import('@/worker/kept-clips');
    const { madeClips } = await import('@/worker/made-clips');
    const clips = madeClips(keptClips('this program'));
    for (const key of ['rounds', 'errand']) nameMotion({ key, project: 'Gullmouth', character: null, lasts: true, load, ...change });
    one = (take, recipe) => clips.one({ id: 'a', name: 'walk', take, recipe });
  });
  return { one, load };
}

const clipOf = (made: SetClip | string): SetClip => {
  if (typeof made === 'string') throw new Error(made);
  return made;
};
/** How far apart its hips and knees are, which is whose bones it has. */
const bonesOf = (made: SetClip | string) => clipOf(made).clip.motion.skeleton.joints.map(({ offset }) => Math.hypot(...offset));
/** What is put into the store goes there without anybody waiting for it. */
const settled = () => new Promise((resolve) => setTimeout(resolve, 200));

beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});

test('what one visit ran the next one neither loads nor runs, and has it number by number', async () => {
  const first = await visit();
  const made = await first.one('rounds', plain);
  expect(first.load).toHaveBeenCalledTimes(1);
  await settled();
  const next = await visit();
  expect(await next.one('rounds', plain)).toEqual(made);
  expect(next.load).not.toHaveBeenCalled();
});

test('another take and another recipe are run, for they are not what was kept', async () => {
  await (await visit()).one('rounds', plain);
  await settled();
  const next = await visit();
  expect(clipOf(await next.one('rounds', { ...plain, to: 190 })).clip.motion.frames).toBe(131);
  await next.one('errand', plain);
  expect(next.load).toHaveBeenCalledTimes(2);
});

test('a character that was replaced by another under its name is fitted anew', async () => {
  const [wick, tallow] = await Promise.all([castGlb('wick'), castGlb('tallow')]);
  const asWick = bonesOf(await (await visit({ keeper: wick })).one('rounds', fitted));
  await settled();
  const again = await visit({ keeper: wick });
  expect(bonesOf(await again.one('rounds', fitted))).toEqual(asWick);
  expect(again.load).not.toHaveBeenCalled();
  const replaced = await visit({ keeper: tallow });
  expect(bonesOf(await replaced.one('rounds', fitted))).not.toEqual(asWick);
  expect(replaced.load).toHaveBeenCalledTimes(1);
});

test('clips that came back share one skeleton', async () => {
  const first = await visit();
  for (const to of [200, 190]) await first.one('rounds', { ...plain, to });
  await settled();
  const next = await visit();
  const [a, b] = [clipOf(await next.one('rounds', plain)), clipOf(await next.one('rounds', { ...plain, to: 190 }))];
  expect(b.clip.motion.skeleton).toBe(a.clip.motion.skeleton);
  expect(next.load).not.toHaveBeenCalled();
});

test('a join, whose key says another thing in the next visit, is run in each', async () => {
  await (await visit({}, { lasts: false })).one('rounds', plain);
  await settled();
  const next = await visit({}, { lasts: false });
  await next.one('rounds', plain);
  expect(next.load).toHaveBeenCalledTimes(1);
});

test('why a clip cannot be is said in every visit, and becomes a clip once it can be', async () => {
  const missing = await (await visit()).one('rounds', fitted);
  expect(missing).toMatch(/keeper/);
  await settled();
  const next = await visit({ keeper: await castGlb('wick') });
  expect(typeof (await next.one('rounds', fitted))).toBe('object');
});
