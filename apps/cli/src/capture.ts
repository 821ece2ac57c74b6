import { capture as play, type ScriptName } from '@lantern/capture';
import { writeBvh } from '@lantern/motion';
import { writeOutput } from './files';
import { print } from './print';

export interface CaptureOptions {
  readonly out: string;
  readonly seconds: number;
  /** Metres a second, of the scripts that go at one speed. */
  readonly speed?: number;
  readonly fps: number;
  readonly seed: number;
  readonly faults: number;
  readonly uneven: number;
  /** Whether the suit records fingers. */
  readonly gloves?: boolean;
  /** How the performer feels, each 0 to 1. */
  readonly tired: number;
  readonly brisk: number;
  readonly wary: number;
  readonly truth?: string;
  readonly json?: boolean;
}

/** Plays a script in the simulated suit and writes what the suit recorded, in centimetres. */
export async function capture(
  script: ScriptName,
  { out, truth: truthFile, json, tired, brisk, wary, ...options }: CaptureOptions,
): Promise<void> {
  const { motion, truth } = play(script, { ...options, mood: { tired, brisk, wary } });
  const { motion: _, ...facts } = truth;
  await writeOutput(out, writeBvh(motion));
  if (truthFile) {
    await writeOutput(truthFile, `${JSON.stringify(facts, null, 1)}\n`);
  }
  print(json ?? false, { file: out, frames: motion.frames, ...facts }, () => [
    `${out}: ${motion.frames} frames at ${motion.fps}, ${facts.strides} strides at ${facts.speedMps.toFixed(2)} m/s, seed ${facts.seed}`,
  ]);
}
