import { randomUUID } from 'node:crypto';
import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { describeTake, findLoops, readTake, recipeSchema, writeBvh } from '@lantern/motion';
import { and, eq } from 'drizzle-orm';
import { importCharacter } from './characters';
import { saveClip } from './clips';
import type { Database } from './database';
import { characters, projects } from './schema';
import { changeTake, importTake } from './takes';

const TAKES: readonly {
  script: ScriptName;
  file: string;
  seed: number;
  seconds: number;
  tags?: string[];
  notes?: string;
  star?: boolean;
}[] = [
  {
    script: 'rounds',
    file: 'wick-rounds.bvh',
    seed: 7,
    seconds: 40,
    tags: ['quay'],
    notes: 'Down the quay, round the post and back; he sees how late it is at 27 s.',
    star: true,
  },
  { script: 'walk', file: 'wick-stroll.bvh', seed: 11, seconds: 20 },
  { script: 'jog', file: 'wick-jog.bvh', seed: 12, seconds: 14 },
  { script: 'idle', file: 'wick-waiting.bvh', seed: 13, seconds: 30 },
  {
    script: 'hop',
    file: 'wick-hop.bvh',
    seed: 14,
    seconds: 12,
    tags: ['rope'],
    notes: 'Over the mooring rope on both feet, then on the left, then on the right.',
  },
  { script: 'hush', file: 'wick-hush.bvh', seed: 15, seconds: 12 },
  { script: 'kerb', file: 'wick-kerb.bvh', seed: 16, seconds: 10, tags: ['quay'] },
  { script: 'turn', file: 'wick-turns.bvh', seed: 17, seconds: 20, tags: ['quay', 'turn'] },
];

/** The project that every database has. */
export async function makeProject(database: Database): Promise<void> {
  await database.insert(projects).values({ id: 'gullmouth', name: 'Gullmouth', character: 'Wick' }).onConflictDoNothing();
}

/** The characters that come with the program. */
export async function addCast(database: Database): Promise<void> {
  for (const [id, file] of [
    ['wick', 'Wick.glb'],
    ['tallow', 'Tallow.glb'],
  ] as const) {
    const known = await database
      .select({ id: characters.id })
      .from(characters)
      .where(and(eq(characters.project, 'gullmouth'), eq(characters.id, id)));
    if (known.length === 0) await importCharacter(database, 'gullmouth', file, await castGlb(id));
  }
}

/** Wick's takes from the simulated suit, and two clips cut from his rounds: the loops that the program itself proposes. */
export async function loadDemo(database: Database): Promise<void> {
  for (const { script, file, seed, seconds, tags, notes, star } of TAKES) {
    const { motion } = capture(script, { seed, seconds });
    const bytes = new TextEncoder().encode(writeBvh(motion));
    const take = await importTake(database, 'gullmouth', file, bytes);
    if (tags || notes || star) await changeTake(database, take.id, { tags, notes, star });
    if (script !== 'rounds') continue;
    const { ground } = describeTake(readTake(bytes, file));
    const candidates = ground ? findLoops(ground).candidates : [];
    const steps = recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
    const stroll = candidates.find((c) => c.strides === 1 && c.startsOn === 'left' && c.seconds > 0.95);
    const jog = candidates.find((c) => c.strides === 1 && c.startsOn === 'left' && c.seconds < 0.85);
    for (const [name, loop] of [
      ['stroll-forward', stroll],
      ['jog-forward', jog],
    ] as const) {
      if (loop)
        await saveClip(database, 'gullmouth', randomUUID(), {
          name,
          source: { take: take.id, from: loop.from, to: loop.to },
          steps,
          gait: '',
          direction: '',
          revision: 0,
        });
    }
  }
}
