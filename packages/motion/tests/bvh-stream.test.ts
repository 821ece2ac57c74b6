import { capture } from '@lantern/capture';
import {
  bvhStream,
  groundwork,
  joinMotions,
  overviewOf,
  readBvh,
  stitchOverview,
  cutMotion,
  writeBvh,
  InputError,
  type Motion,
} from '@lantern/motion';
import { bytesOf } from './made';

const text = writeBvh(capture('rounds', { seed: 4, fps: 120 }).motion);
const bytes = bytesOf(text);

function streamed(all: Uint8Array, piece: number): { motion: Motion; codes: string[]; blocks: number } {
  const stream = bvhStream();
  const motions: Motion[] = [];
  for (let at = 0; at < all.length; at += piece) motions.push(...stream.push(all.subarray(at, at + piece)));
  const { motions: rest, warnings } = stream.end();
  motions.push(...rest);
  return { motion: joinMotions(motions), codes: warnings.map(({ code }) => code), blocks: motions.length };
}

test.each([65_536, 1_000_003])('a BVH that arrives in pieces of %i bytes is the BVH read at once, number for number', (piece) => {
  const whole = readBvh(bytes, 'a').motion;
  const { motion, blocks } = streamed(bytes, piece);
  expect(blocks).toBeGreaterThan(1);
  expect([motion.frames, motion.fps]).toEqual([whole.frames, whole.fps]);
  expect(Buffer.compare(Buffer.from(motion.rotations.buffer), Buffer.from(whole.rotations.buffer))).toBe(0);
  expect(Buffer.compare(Buffer.from(motion.rootPositions.buffer), Buffer.from(whole.rootPositions.buffer))).toBe(0);
});

test('what is wrong far into the file is named by its line in the file', () => {
  const lines = text.split('\n');
  const line = lines.length - 20;
  lines[line - 1] = lines[line - 1].replace(/\S+$/, 'oops');
  const message = (run: () => unknown) => {
    try {
      run();
    } catch (error) {
      return error instanceof InputError ? `${error.place.line}: ${error.message}` : String(error);
    }
    return 'nothing';
  };
  const bad = bytesOf(lines.join('\n'));
  expect(message(() => streamed(bad, 100_000))).toBe(message(() => readBvh(bad, 'a')));
  expect(message(() => streamed(bad, 100_000))).toMatch(new RegExp(`^${line}: .*"oops"`));
  expect(streamed(bytesOf(text.replace(/Frames: \d+/, 'Frames: 7')), 100_000).codes).toContain('frame-count');
  expect(message(() => streamed(bytesOf(text.trimEnd().replace(/\s\S+$/, '')), 100_000))).toMatch(/cut short/);
});

test('the overview put together from stretches is that of the whole take', () => {
  const { motion } = capture('rounds', { seed: 4 });
  const whole = overviewOf(motion, groundwork(motion));
  const stitch = stitchOverview(motion.fps, motion.frames);
  const [length, margin] = [1200, 200];
  for (let from = 0; from < motion.frames; from += length) {
    const first = Math.max(0, from - margin);
    const to = Math.min(motion.frames, from + length);
    stitch.add({ motion: cutMotion(motion, first, Math.min(motion.frames, to + margin) - 1), first, from, to });
  }
  const parts = stitch.result();
  const off = (a: Float32Array, b: Float32Array) => [...a].filter((v, i) => Math.abs(v - b[i]) > 0.05).length / a.length;
  expect(off(parts.speed, whole.speed)).toBeLessThan(0.01);
  expect(off(parts.hipHeight, whole.hipHeight)).toBeLessThan(0.01);
  for (const side of ['left', 'right'] as const) {
    const [a, b] = [parts.contacts?.[side] ?? [], whole.contacts?.[side] ?? []];
    const shared = b.filter(({ from, to }) => a.some((found) => Math.abs(found.from - from) <= 3 && Math.abs(found.to - to) <= 3));
    expect(shared.length / b.length).toBeGreaterThan(0.85);
  }
});
