import { capture, SCRIPTS, type ScriptName } from '@lantern/capture';
import { groundwork, type Contacts, type Interval } from '@lantern/motion';

/** How contacts found agree with the truth, over many takes of a script. */
export interface ContactScore {
  readonly script: ScriptName;
  readonly faults: number;
  /** By frame, mean over takes, and the worst take. */
  readonly f1: number;
  readonly worst: number;
  /** Median distance of an edge found from the true one, frames at 60 a second. */
  readonly edgeFrames: number;
}

/** Scores contact detection on unseen seeds of all scripts. */
export function scoreContacts(seeds: number, faults: number): ContactScore[] {
  return SCRIPTS.map((script) => {
    const scores: number[] = [];
    const edges: number[] = [];
    for (let seed = 0; seed < seeds; seed++) {
      const { motion, truth } = capture(script, { seed: 5000 + seed * 13, seconds: 8, faults });
      const found = groundwork(motion)?.contacts;
      scores.push(found ? f1(found, truth, motion.frames) : 0);
      if (found) edges.push(...edgeErrors(found, truth, motion.frames));
    }
    edges.sort((a, b) => a - b);
    return {
      script,
      faults,
      f1: scores.reduce((a, b) => a + b) / scores.length,
      worst: Math.min(...scores),
      edgeFrames: edges[edges.length >> 1] ?? 0,
    };
  });
}

type Sides = Pick<Contacts, 'left' | 'right'>;

function f1(found: Sides, truth: Sides, frames: number): number {
  let both = 0;
  let one = 0;
  for (const side of ['left', 'right'] as const) {
    const mask = (intervals: readonly Interval[]) => {
      const out = new Uint8Array(frames);
      for (const { from, to } of intervals) out.fill(1, from, to);
      return out;
    };
    const [a, b] = [mask(found[side]), mask(truth[side])];
    for (let f = 0; f < frames; f++) {
      both += a[f] & b[f];
      one += a[f] ^ b[f];
    }
  }
  return both + one > 0 ? (2 * both) / (2 * both + one) : 1;
}

/** Of every true edge within the take, the distance to the nearest one found of its kind. */
function edgeErrors(found: Sides, truth: Sides, frames: number): number[] {
  return (['left', 'right'] as const).flatMap((side) =>
    (['from', 'to'] as const).flatMap((edge) =>
      truth[side]
        .map((interval) => interval[edge])
        .filter((f) => f > 2 && f < frames - 2)
        .map((f) => Math.min(...found[side].map((interval) => Math.abs(interval[edge] - f)))),
    ),
  );
}
