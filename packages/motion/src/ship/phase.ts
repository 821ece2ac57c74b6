import { strideTable } from '@lantern/drive';
import type { Clip } from '../model/clip';
import { playClip } from '../set/play-clip';

/**
 * Seconds to phase, straight between: 0 at the first landing of the left foot, and 1 more with each stride; empty where there are no strides.
 *
 * @example
 * phaseTable(cutClip(motion, 0, 60)); // []
 */
export function phaseTable(clip: Clip): [seconds: number, phase: number][] {
  if (!clip.loop) return [];
  const table = strideTable(playClip(clip, ''));
  if ('why' in table) return [];
  const last = table.starts.length - 1;
  return [...[...table.starts].map((at, k): [number, number] => [at, k / 2]), [table.starts[last] + table.lengths[last], (last + 1) / 2]];
}

/** The phase at an instant of a loop, 0 to 1; null where there are no strides. */
export function phaseAt(table: readonly (readonly [number, number])[], seconds: number): number | null {
  if (table.length < 2) return null;
  const [first] = table[0];
  const cycle = table[table.length - 1][0] - first;
  const t = first + ((((seconds - first) % cycle) + cycle) % cycle);
  const k = Math.max(
    0,
    table.findLastIndex(([at], i) => i < table.length - 1 && at <= t + 1e-9),
  );
  const [[a, p], [b, q]] = [table[k], table[k + 1]];
  return (p + ((t - a) / (b - a)) * (q - p)) % 1;
}
