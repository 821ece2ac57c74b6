import { capture } from '@lantern/capture';
import { applyOverrides, CHUNK_FRAMES, forwardKinematics, groundwork, motionFromRows, overviewOf } from '@lantern/motion';
import { openLong, readCurves } from '@/data/long-take';
import { usePlayer } from '@/data/player';
import type { TakeInfo } from '@/data/project';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { isInParts } from '@/data/use-viewed-take';
import { newPiece } from '@/places/joins/join-edits';
import { featuresOf, loopsOf, takeOf } from '@/worker/held';
import { openSource } from '@/worker/open-source';
import { madeTake, serve } from './place';

jest.mock('@/worker/core', () => ({
  core: () => ({ figure: jest.requireActual<typeof import('@/worker/figures')>('@/worker/figures').figureView }),
}));

const { take, rows } = madeTake('quay-walk', capture('walk', { seconds: 6, seed: 6 }).motion);
const width = rows.length / take.frames;
const whole = applyOverrides(motionFromRows(rows, take.skeleton, take.fps, []), take.passport.reading, {});
const until = async (is: () => boolean) => {
  for (let i = 0; i < 200 && !is(); i++) await new Promise((resolve) => setTimeout(resolve, 5));
  expect(is()).toBe(true);
};

describe('takes that the worker holds open', () => {
  test('a take is fetched once, however often it is asked for, and is in metres', async () => {
    const asked = serve(() => rows);
    const source = { ...sourceOf(take), key: 'once' };
    await Promise.all([openSource(source), openSource(source)]);
    const held = await takeOf('once');
    expect(asked.map(({ url }) => url)).toEqual(['/api/takes/quay-walk/motion']);
    expect(held.motion.frames).toBe(take.frames);
    expect(held.motion.rootPositions[1]).toBeCloseTo(whole.rootPositions[1], 6);
    expect(held.ground?.contacts.left.length).toBeGreaterThan(2);
  });

  test('what is worked out of it is worked out once', async () => {
    const held = await takeOf('once');
    expect(loopsOf(held)).toBe(loopsOf(held));
    expect(featuresOf(held)).toBe(featuresOf(held));
  });

  test('one that could not be loaded is tried again when it is asked for again', async () => {
    const source = { ...sourceOf(take), key: 'later' };
    serve(() => 503);
    await expect(openSource(source)).rejects.toThrow('The take could not be loaded.');
    await expect(takeOf('later')).rejects.toThrow('The take could not be loaded.');
    serve(() => rows);
    expect((await takeOf('later')).motion.frames).toBe(take.frames);
  });

  test('one that nobody has opened is no take', async () => {
    await expect(takeOf('never')).rejects.toThrow('The take is not open.');
  });

  test('of a long take a stretch is asked for by its chunks', async () => {
    const asked = serve(() => rows.subarray(0, 2 * CHUNK_FRAMES * width));
    await openSource(sourceOf(take, {}, { from: 4, chunks: 2 }));
    expect(asked[0].url).toBe('/api/takes/quay-walk/motion?from=4&chunks=2');
    expect((await takeOf(takeKey(take, {}, { from: 4, chunks: 2 }))).motion.frames).toBe(240);
  });

  test('a joint that was mapped by hand is what every figure is taken from', async () => {
    serve(() => rows);
    const source = { ...sourceOf({ ...take, mapping: { leftHand: ['LeftForearm'] } }), key: 'mapped' };
    await openSource(source);
    const { skeleton } = (await takeOf('mapped')).motion;
    expect(skeleton.joints[skeleton.body?.arms.left.wrist ?? -1].name).toBe('LeftForearm');
  });

  test('a take goes by another key when it is read otherwise, and by the same for the same', () => {
    const keys = [
      takeKey(take),
      takeKey(take, { metresPerUnit: 0.02 }),
      takeKey({ ...take, mapping: { head: ['Neck'] } }),
      takeKey(take, {}, { from: 0, chunks: 3 }),
    ];
    expect(new Set(keys).size).toBe(4);
    expect(takeKey(take, { fps: 30, conform: 60 })).toBe(takeKey(take, { conform: 60, fps: 30 }));
    expect(takeKey({ ...take, mapping: {} })).toBe(takeKey(take));
  });
});

describe('joins that the worker opens like takes', () => {
  const piece = { ...newPiece({ take: 'quay-walk', from: 40, to: 140 }), id: 'a' };
  const joined = (times: number): TakeInfo => {
    const asked = { id: 'j', start: 'captured' as const, pieces: [{ piece: { ...piece, times }, take: takeKey(take), recipe: null }] };
    return { ...take, id: 'j', name: 'round', join: { asked, opens: [take], character: null } };
  };

  test('what it is made of is opened with it, and it is the motion of its pieces', async () => {
    const asked = serve(() => rows);
    const source = sourceOf(joined(1));
    await openSource(source);
    const { motion } = await takeOf(source.key);
    expect(motion.frames).toBe(101);
    expect(asked.every(({ url }) => url === '/api/takes/quay-walk/motion')).toBe(true);
    // Started where it was captured, it is the take's own frames.
    for (let k = 0; k < 3; k++) expect(motion.rootPositions[k]).toBeCloseTo(whole.rootPositions[40 * 3 + k], 5);
    expect((await takeOf(source.key)).ground?.contacts.left.length).toBeGreaterThan(0);
  });

  test('another state of it is another motion, and the one that was there stays', async () => {
    serve(() => rows);
    const [once, twice] = [sourceOf(joined(1)), sourceOf(joined(2))];
    await openSource(once);
    await openSource(twice);
    expect(once.key).not.toBe(twice.key);
    expect((await takeOf(twice.key)).motion.frames).toBe(201);
    expect((await takeOf(once.key)).motion.frames).toBe(101);
  });

  test('one that cannot be made says why, and is made once what was wrong is right', async () => {
    serve(() => rows);
    const bad = joined(1);
    if (!bad.join || !('asked' in bad.join)) throw new Error('a join was expected');
    const [own] = bad.join.asked.pieces;
    const beyond = { ...own, piece: { ...own.piece, to: take.frames + 50 } };
    const source = sourceOf({ ...bad, join: { ...bad.join, asked: { ...bad.join.asked, pieces: [beyond] } } });
    await expect(openSource(source)).rejects.toThrow(/frames/);
    await expect(openSource(sourceOf(joined(1)))).resolves.toBeUndefined();
  });
});

describe('long takes', () => {
  const long = { ...take, long: true };
  const chunk = (index: number) => rows.subarray(index * CHUNK_FRAMES * width, Math.min(take.frames, (index + 1) * CHUNK_FRAMES) * width);
  const inParts = () =>
    serve(({ url }) => {
      const index = /chunks\/(\d+)$/.exec(url)?.[1];
      return index === undefined ? 404 : chunk(Number(index));
    });

  test('are opened with their first part only', async () => {
    const asked = inParts();
    const opened = await openLong(long);
    expect(asked[0].url).toBe('/api/takes/quay-walk/chunks/0');
    expect(opened.motion.frames).toBe(take.frames);
    expect(opened.markers?.footprints).toEqual([]);
    expect(opened.floor).toBeCloseTo(take.passport.reading.floorM, 9);
    expect(opened.mesh.positions.length).toBeGreaterThan(1000);
  });

  test('show what is there and fetch what is looked at before what lies ahead; poses are those of the whole', async () => {
    const asked = inParts();
    const opened = await openLong(long);
    const { part } = opened.motion;
    if (!part) throw new Error('it came whole');
    expect(part(250)).toBeNull();
    let drawn = 0;
    const end = usePlayer.subscribe(() => drawn++);
    await until(() => part(250) !== null);
    end();
    // Whoever waits for it is told to draw again.
    expect(drawn).toBeGreaterThan(0);
    const fetched = asked.map(({ url }) => Number(/\d+$/.exec(url)?.[0]));
    expect(fetched.indexOf(2)).toBeLessThan(4);
    const located = part(250);
    expect(located?.frame).toBe(10);
    const [own, all] = [located?.motion ?? whole, whole].map((motion) => forwardKinematics(motion));
    const at = (globals: typeof own, frame: number) => [
      ...globals.positions.subarray(frame * globals.joints * 3, (frame + 1) * globals.joints * 3),
    ];
    at(own, 10).forEach((value, i) => expect(value).toBeCloseTo(at(all, 250)[i], 4));
  });

  test('a part that could not be fetched is asked for again', async () => {
    serve(({ url }) => (url.endsWith('/0') ? chunk(0) : 503));
    const { motion } = await openLong(long);
    motion.part?.(200);
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(motion.part?.(200)).toBeNull();
    inParts();
    await until(() => motion.part?.(200) !== null);
  });

  test('one whose first part does not come says so', async () => {
    serve(() => 404);
    await expect(openLong(long)).rejects.toThrow('A part of the take could not be loaded.');
  });

  test('their curves come as the server worked them out', async () => {
    const ground = groundwork(whole);
    const made = overviewOf(whole, ground);
    const head = new TextEncoder().encode(JSON.stringify({ contacts: made.contacts, floor: made.floor, stride: made.stride }));
    // Numbers begin where four divides.
    const padded = new Uint8Array(Math.ceil(head.length / 4) * 4).fill(32);
    padded.set(head);
    const sent = new Uint8Array(4 + padded.length + 12 * take.frames);
    new DataView(sent.buffer).setUint32(0, padded.length, true);
    sent.set(padded, 4);
    const curves = new Float32Array([...made.speed, ...made.hipHeight, ...made.heading]);
    sent.set(new Uint8Array(curves.buffer), 4 + padded.length);
    serve(() => sent);
    const read = await readCurves(long);
    expect(read.stride).toBe(made.stride);
    expect(read.contacts).toEqual(JSON.parse(JSON.stringify(made.contacts)));
    expect([...read.speed]).toEqual([...made.speed]);
    expect([...read.heading]).toEqual([...made.heading]);
    serve(() => 500);
    await expect(readCurves(long)).rejects.toThrow('The curves of the take could not be loaded.');
  });

  test('come whole when their rate is changed: then frames lie across the edges of parts', () => {
    expect([isInParts(long), isInParts({ ...long, overrides: { conform: 30 } }), isInParts(take)]).toEqual([true, false, false]);
  });
});
