import { strideTable } from '@lantern/drive';
import type { Clip } from '../model/clip';
import { playClip } from '../set/play-clip';

/**
 * Seconds to phase, straight between: 0 at the first landing of the left foot, and 1 more with each stride; empty where there are no strides.
 */
export function phaseTable(clip: Clip): [seconds: number, phase: number][] {
  if (!clip.loop) return [];
  const table = strideTable(playClip(clip, ''));
  if ('why' in table) return [];
  // From the first landing of the left foot on, round the loop: what follows may pass its length.
  const rows: [number, number][] = [[table.starts[0], 0]];
  table.lengths.forEach((length, k) => rows.push([rows[k][0] + length, (k + 1) / 2]));
  return rows;
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
