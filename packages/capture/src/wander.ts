import type { Random } from '@lantern/motion';

const TURN = 2 * Math.PI;

/** Slow wandering of a person: a few sines of unrelated periods, different for every seed. Amplitude about 1. */
export function wander(random: Random, seconds: number): (t: number) => number {
  const parts = [1, 1.618, 2.7].map((k) => ({ rate: k / seconds, phase: random.next() * TURN, size: 0.7 / k ** 0.5 }));
  return (t) => parts.reduce((sum, part) => sum + part.size * Math.sin(TURN * part.rate * t + part.phase), 0);
}

/**
 * Wandering with a long memory: every octave from `longest` down to `shortest` counts alike, as in the strides of healthy people.
 * Standard deviation 1. Source: Hausdorff and others, *Is walking a random walk?*, 1995.
 */
export function longMemory(random: Random, longest: number, shortest: number): (x: number) => number {
  const octaves = Math.max(1, Math.round(Math.log2(longest / shortest)) + 1);
  const size = Math.sqrt(2 / octaves);
  const parts = Array.from({ length: octaves }, (_, k) => ({
    rate: (2 ** k / longest) * (0.85 + 0.3 * random.next()),
    phase: random.next() * TURN,
  }));
  return (x) => parts.reduce((sum, { rate, phase }) => sum + size * Math.sin(TURN * rate * x + phase), 0);
}
