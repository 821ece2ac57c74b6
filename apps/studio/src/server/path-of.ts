import type { Motion } from '@lantern/motion';

const PATH_POINTS = 120;

/** The way of the root from above: x and z of some points along it, metres, to the millimetre. */
export function pathOf(motion: Motion): number[] {
  const step = Math.max(1, (motion.frames - 1) / (PATH_POINTS - 1));
  const out: number[] = [];
  for (let f = 0; f < motion.frames; f += step) {
    const at = Math.round(f) * 3;
    out.push(Math.round(motion.rootPositions[at] * 1000) / 1000, Math.round(motion.rootPositions[at + 2] * 1000) / 1000);
  }
  return out;
}
