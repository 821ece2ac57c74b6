import { capture } from '@lantern/capture';
import { writeBvh } from '@lantern/motion';

const text = writeBvh(capture('walk', { seconds: 2, seed: 4 }).motion);
const rowsAt = text.indexOf('\n', text.indexOf('Frame Time')) + 1;

/** A small walk that is no other file's: its first row stands a little elsewhere. */
export function smallFile(n: number): Uint8Array {
  const rows = text.slice(rowsAt).replace(/^\S+/, (n / 1000).toFixed(3));
  return new TextEncoder().encode(text.slice(0, rowsAt) + rows);
}

/** Numbers between 0 and 1 that are the same for the same seed. */
export function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
}

/** @param share 0.99 for the 99th percentile */
export const quantileOf = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;
