import { join } from 'node:path';
import { captureDay as play, DAY_TAKES } from '@lantern/capture';
import { writeBvh } from '@lantern/motion';
import { writeOutput } from './files';
import { print } from './print';
import { tellProgress } from './progress';

export interface CaptureDayOptions {
  readonly out: string;
  readonly seed: number;
  readonly fps: number;
  readonly faults: number;
  /** The same day solved anew. */
  readonly solve?: number;
  readonly json?: boolean;
}

/** Plays a whole capture day in the simulated suit: its takes as BVH in centimetres, and what is known of them in `truth.json`. */
export async function captureDay({ out, json, seed, ...options }: CaptureDayOptions): Promise<void> {
  const takes = [];
  const tell = tellProgress();
  for (const { name, motion, truth } of play(seed, options)) {
    const file = `${name}.bvh`;
    await writeOutput(join(out, file), writeBvh(motion));
    const { left, right, tries } = truth;
    takes.push({ file, frames: motion.frames, fps: motion.fps, left, right, tries });
    tell(takes.length / DAY_TAKES.length, file);
  }
  const known = { seed, ...options, takes };
  await writeOutput(join(out, 'truth.json'), `${JSON.stringify(known, null, 1)}\n`);
  const tries = takes.flatMap((take) => take.tries);
  const spoilt = tries.filter((own) => own.spoilt).length;
  const seconds = takes.reduce((sum, { frames, fps }) => sum + frames / fps, 0);
  print(json ?? false, { out, ...known }, () => [
    `${out}: ${takes.length} takes, ${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s, ${tries.length} tries, ${spoilt} of them spoilt, seed ${seed}`,
  ]);
}
