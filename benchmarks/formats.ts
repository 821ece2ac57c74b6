import { capture } from '@lantern/capture';
import { readAsf, readTake } from '@lantern/motion';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { asfAndAmc, oddGlb } from '../packages/motion/tests/odd-files';

/** A reader of a format beside its peer: bytes read, and what each run does. */
export interface FormatRace {
  readonly name: string;
  readonly megabytes: number;
  readonly ours: () => unknown;
  readonly theirs: () => Promise<unknown> | unknown;
  readonly beside: string;
}

/** Readers beside a general library, or where there is none beside the least that any reader of the text must do. */
export async function formatRaces(): Promise<FormatRace[]> {
  const { motion } = capture('walk', { seconds: 60, seed: 5 });
  const glb = await oddGlb(motion);
  const buffer = glb.slice().buffer;
  const { asf, amc } = asfAndAmc(motion);
  const skeletons = [readAsf(new TextEncoder().encode(asf), 'wick')];
  const text = new TextEncoder().encode(amc);
  return [
    {
      name: 'read GLB',
      megabytes: glb.length / 1e6,
      ours: () => readTake(glb, 'way.glb'),
      theirs: () => new GLTFLoader().parseAsync(buffer, ''),
      beside: 'GLTFLoader of three',
    },
    {
      name: 'read AMC',
      megabytes: text.length / 1e6,
      ours: () => readTake(text, 'wick_01.amc', { skeletons }),
      theirs: () => new TextDecoder().decode(text).split(/\s+/).map(Number),
      beside: 'split and Number alone',
    },
  ];
}
