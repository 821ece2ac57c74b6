import { randomUUID } from 'node:crypto';
import { capture, type ScriptName } from '@lantern/capture';
import { describeTake, findLoops, readTake, stepSchema, writeBvh } from '@lantern/motion';
import { saveClip } from './clips';
import type { Database } from './database';
import { projects } from './schema';
import { importTake } from './takes';

const TAKES: readonly { script: ScriptName; file: string; seed: number; seconds: number }[] = [
  { script: 'rounds', file: 'wick-rounds.bvh', seed: 7, seconds: 40 },
  { script: 'walk', file: 'wick-stroll.bvh', seed: 11, seconds: 20 },
  { script: 'jog', file: 'wick-jog.bvh', seed: 12, seconds: 14 },
  { script: 'idle', file: 'wick-waiting.bvh', seed: 13, seconds: 30 },
];

/** The project that every database has. */
export async function makeProject(database: Database): Promise<void> {
  await database.insert(projects).values({ id: 'gullmouth', name: 'Gullmouth', character: 'Wick' }).onConflictDoNothing();
}

/** Wick's takes from the simulated suit, and two clips cut from his rounds: the loops that the program itself proposes. */
export async function loadDemo(database: Database): Promise<void> {
  for (const { script, file, seed, seconds } of TAKES) {
    const { motion } = capture(script, { seed, seconds });
    const bytes = new TextEncoder().encode(writeBvh(motion));
    const take = await importTake(database, 'gullmouth', file, bytes);
    if (script !== 'rounds') continue;
    const { gait } = describeTake(readTake(bytes, file));
    const candidates = gait ? findLoops(gait).candidates : [];
    const steps = [stepSchema.parse({ kind: 'loop' }), stepSchema.parse({ kind: 'travel', start: 'origin' })];
    const stroll = candidates.find((c) => c.strides === 1 && c.startsOn === 'left' && c.seconds > 0.95);
    const jog = candidates.find((c) => c.strides === 1 && c.startsOn === 'left' && c.seconds < 0.85);
    for (const [name, loop] of [
      ['stroll-forward', stroll],
      ['jog-forward', jog],
    ] as const) {
      if (loop)
        await saveClip(database, 'gullmouth', randomUUID(), { take: take.id, name, from: loop.from, to: loop.to, steps, revision: 0 });
    }
  }
}
