import { randomUUID } from 'node:crypto';
import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { describeTake, findLoops, joinSchema, readTake, recipeSchema, writeBvh } from '@lantern/motion';
import { and, eq } from 'drizzle-orm';
import { importCharacter } from './characters';
import { saveClip } from './clips';
import { saveJoin } from './joins';
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

/**
 * Wick's takes from the simulated suit, two clips cut from his rounds, which are loops that the program itself proposes, and a join: he waits, strolls, jogs,
 * strolls again, and hops onto a box.
 */
export async function loadDemo(database: Database): Promise<void> {
  const ids = new Map<string, string>();
  for (const { script, file, seed, seconds, tags, notes, star } of TAKES) {
    const { motion } = capture(script, { seed, seconds });
    const bytes = new TextEncoder().encode(writeBvh(motion));
    const take = await importTake(database, 'gullmouth', file, bytes);
    if (tags || notes || star) await changeTake(database, take.id, { tags, notes, star });
    ids.set(take.name, take.id);
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
      if (!loop) continue;
      const id = randomUUID();
      ids.set(name, id);
      await saveClip(database, 'gullmouth', id, {
        name,
        source: { take: take.id, from: loop.from, to: loop.to },
        steps,
        gait: '',
        direction: '',
        revision: 0,
      });
    }
  }
  await joinRound(database, (name) => ids.get(name));
}

/** An evening round, of cuts and clips of the demo. */
async function joinRound(database: Database, idOf: (name: string) => string | undefined): Promise<void> {
  const [waiting, stroll, jog, hop] = ['wick-waiting', 'stroll-forward', 'jog-forward', 'wick-hop'].map(idOf);
  if (!waiting || !stroll || !jog || !hop) return;
  const id = () => randomUUID();
  const { pieces, start } = joinSchema.parse({
    name: 'evening-round',
    pieces: [
      { id: id(), take: waiting, from: 24, to: 142 },
      { id: id(), clip: stroll, times: 3, marks: [{ at: 10, name: 'sets off' }] },
      { id: id(), clip: jog, times: 4, marks: [{ at: 12, name: 'breaks into a jog' }] },
      { id: id(), clip: stroll, times: 2 },
      { id: id(), take: hop, from: 40, to: 200, shifts: [{ at: 60, raise: 0.2 }] },
    ],
  });
  await saveJoin(database, 'gullmouth', id(), { name: 'evening-round', pieces, start, revision: 0 });
}
