import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { capture } from '@lantern/capture';
import { clipTraits, coverage, cutClip, recipeRunner, recipeSchema, setSchema } from '@lantern/motion';
import { keptClips, type MadeClip } from '@/worker/kept-clips';

beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});

const { motion } = capture('walk', { seconds: 6, seed: 4 });
const run = recipeRunner(motion, new Map());
const opened = (name: string) =>
  new Promise<IDBDatabase>((resolve) => {
    const opening = indexedDB.open(name);
    opening.onsuccess = () => resolve(opening.result);
  });
const made = (): MadeClip => {
  const clip = run({ from: 60, to: 200, steps: recipeSchema.parse([{ kind: 'foot-lock' }]) });
  const traits = clipTraits(clip);
  if (!traits) throw new Error('a person was expected');
  return { clip, traits };
};

test('what was kept in one visit is there in the next, number by number', async () => {
  const clip = made();
  await keptClips('this program').keep('walk', clip);
  const next = keptClips('this program');
  expect(await next.canKeep()).toBe(true);
  expect(await next.find('walk')).toEqual(clip);
  expect(await next.find('jog')).toBeUndefined();
});

test('a piece of a take is kept without the take that it lies in', async () => {
  const whole = cutClip(motion, 60, 200);
  const rotations = motion.rotations.subarray(0, whole.motion.rotations.length);
  const kept = keptClips('this program');
  await kept.keep('part', { ...made(), clip: { ...whole, motion: { ...whole.motion, rotations } } });
  const found = await kept.find('part');
  expect(found?.clip.motion.rotations).toEqual(rotations);
  expect(found?.clip.motion.rotations.buffer.byteLength).toBe(rotations.byteLength);
});

test('where nothing can be kept, nothing is found and nothing fails', async () => {
  const none = keptClips(null);
  expect(await none.canKeep()).toBe(false);
  await none.keep('walk', made());
  expect(await none.find('walk')).toBeUndefined();
  const full = jest.spyOn(indexedDB, 'open').mockImplementation(() => {
    throw new Error('The disk is full.');
  });
  const failing = keptClips('a program on a full disk');
  expect(await failing.canKeep()).toBe(false);
  await failing.keep('walk', made());
  full.mockRestore();
});

test('a set of clips that came back measures as it did', async () => {
  const set = setSchema.parse({ name: 'Gullmouth', character: null });
  const own = made();
  const kept = keptClips('this program');
  await kept.keep('again', own);
  const back = await kept.find('again');
  if (!back) throw new Error('a clip was expected');
  const measure = (clip: MadeClip) => coverage(set, [{ id: 'a', name: 'walk', ...clip }], null);
  expect(measure(back)).toEqual(measure(own));
});

test('what another program made is deleted, and nothing else', async () => {
  for (const name of ['old-lantern clips of an older one', 'a diary']) (await opened(name)).close();
  const names = async () => (await indexedDB.databases()).map(({ name }) => name);
  const newer = keptClips('a newer one');
  expect(await newer.find('walk')).toBeUndefined();
  expect(await names()).toEqual(expect.arrayContaining(['a diary', expect.stringMatching(/^old-lantern clips [0-9a-f]{64}$/)]));
  expect(await names()).not.toContain('old-lantern clips of an older one');
});

test('a page of an older program that holds its clips open holds nobody up for long', async () => {
  const older = await opened('old-lantern clips of an older one');
  const newer = keptClips('a newer one');
  await newer.keep('walk', made());
  expect(await newer.find('walk')).toEqual(made());
  older.close();
});
