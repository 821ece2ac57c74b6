import { randomUUID } from 'node:crypto';
import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  describeTake,
  fieldSchema,
  findLoops,
  joinSchema,
  proposals,
  readTake,
  recipeSchema,
  segments,
  setSchema,
  stepSchema,
  withStep,
  writeBvh,
} from '@lantern/motion';
import { and, eq } from 'drizzle-orm';
import { importCharacter } from './characters';
import type { ClipSave } from '@/http/clip';
import { saveClip } from './clips';
import { saveJoin } from './joins';
import type { Database } from './database';
import { characters, projects } from './schema';
import { saveSet } from './sets';
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

/** The project that every database begins with. */
export const DEMO = { id: 'gullmouth', name: 'Gullmouth', character: 'Wick' } as const;

export async function makeProject(database: Database): Promise<void> {
  await database.insert(projects).values(DEMO).onConflictDoNothing();
}

/** The characters that come with the program. */
export async function addCast(database: Database, project: string = DEMO.id): Promise<void> {
  for (const [id, file] of [
    ['wick', 'Wick.glb'],
    ['tallow', 'Tallow.glb'],
  ] as const) {
    const known = await database
      .select({ id: characters.id })
      .from(characters)
      .where(and(eq(characters.project, project), eq(characters.id, id)));
    if (known.length === 0) await importCharacter(database, project, file, await castGlb(id));
  }
}

/** What of a take is cut for the set: how the clip is called, and what the program calls it that proposes it. */
const CUTS: Readonly<Partial<Record<ScriptName, readonly (readonly [name: string, proposal: RegExp])[]>>> = {
  idle: [['wait', /^idle/]],
  hush: [['hush-forward', /^sneak/]],
  hop: [['hop-rope', /^hop$/]],
  turn: [
    ['stroll-start', /^walk-start/],
    ['stroll-stop', /^walk-stop/],
    ['turn-right-90', /^turn-right-90/],
    ['turn-left-180', /^turn-left-180/],
  ],
};

/** A stride of a take round an arc: metres to the left. */
const ARCS: Readonly<Partial<Record<ScriptName, readonly (readonly [name: string, radius: number])[]>>> = {
  walk: [
    ['stroll-arc-left', 1.6],
    ['stroll-arc-right', -1.6],
  ],
  jog: [
    ['jog-arc-left', 3],
    ['jog-arc-right', -3],
  ],
};

/** The ids of clips by their names. */
type Saved = ReadonlyMap<string, string>;

/**
 * Wick's takes from the simulated suit; clips cut from them, which the program itself proposes; a join: he waits, strolls, jogs, strolls again, and hops
 * onto a box; and his set, of which a part is there.
 *
 * @param project that gets them, which is there and empty
 * @param told hears how much of it is done, 0 to 1
 */
export async function loadDemo(database: Database, project: string = DEMO.id, told: (share: number) => void = () => {}): Promise<void> {
  const ids = new Map<string, string>();
  const save = async (name: string, source: ClipSave['source'], steps: ClipSave['steps']) => {
    const id = randomUUID();
    ids.set(name, id);
    await saveClip(database, project, id, { name, source, steps, gait: '', direction: '', revision: 0 });
  };
  const loop = recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
  // Who stands, or plays once, is cleaned: a stretched knee makes much of a hip that trembles.
  const cleanLoop = recipeSchema.parse([{ kind: 'clean' }, { kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
  const once = recipeSchema.parse([{ kind: 'clean' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
  for (const [i, { script, file, seed, seconds, tags, notes, star }] of TAKES.entries()) {
    told(i / TAKES.length);
    const { motion } = capture(script, { seed, seconds });
    const bytes = new TextEncoder().encode(writeBvh(motion));
    const take = await importTake(database, project, file, bytes);
    if (tags || notes || star) await changeTake(database, take.id, { tags, notes, star });
    ids.set(take.name, take.id);
    if (script !== 'rounds' && !CUTS[script] && !ARCS[script]) continue;
    const { ground } = describeTake(readTake(bytes, file));
    const candidates = ground ? findLoops(ground).candidates : [];
    if (script === 'rounds') {
      const stride = (is: (seconds: number) => boolean) =>
        candidates.find((c) => c.strides === 1 && c.startsOn === 'left' && is(c.seconds));
      for (const [name, cut] of [
        ['stroll-forward', stride((s) => s > 0.95)],
        ['jog-forward', stride((s) => s < 0.85)],
      ] as const)
        if (cut) await save(name, { take: take.id, from: cut.from, to: cut.to }, loop);
      continue;
    }
    const [stride] = candidates.filter(({ strides }) => strides === 1);
    for (const [name, radius] of ARCS[script] ?? []) {
      const bent = withStep(loop, stepSchema.parse({ kind: 'path', shape: 'arc', radius }));
      if (stride) await save(name, { take: take.id, from: stride.from, to: stride.to }, bent);
    }
    const offers = ground ? proposals(ground, segments(ground), candidates) : [];
    for (const [name, like] of CUTS[script] ?? []) {
      const offer = offers.find((own) => like.test(own.name));
      if (offer) await save(name, { take: take.id, from: offer.from, to: offer.to }, offer.isLoop ? cleanLoop : once);
    }
  }
  await joinRound(database, project, (name) => ids.get(name));
  await makeSet(database, project, ids);
}

/** Wick's set with the numbers of a game, and a field of his strolls and jogs. */
async function makeSet(database: Database, project: string, saved: Saved): Promise<void> {
  const idOf = (name: string) => saved.get(name);
  const wait = idOf('wait');
  const clips = ['stroll-forward', 'jog-forward', ...Object.values(ARCS).flatMap((arcs) => arcs.map(([name]) => name))].flatMap(
    (name) => idOf(name) ?? [],
  );
  const set = setSchema.parse({
    name: 'lamplighter',
    slots: 'full',
    home: wait && { clip: wait, frame: 0 },
    contract: {
      speedMps: { hush: { forward: 0.8 }, walk: { forward: 1.4 }, jog: { forward: 2.7 }, dash: { forward: 3.8 } },
      turnRateDegS: { walk: 50, jog: 60 },
      accelerationMps2: { walk: 1.2 },
      decelerationMps2: { walk: 1.2 },
      stoppingM: { walk: 0.8 },
      turnAnglesDeg: [45, 90, 180],
      capsuleRadiusM: 0.3,
    },
  });
  const fields = [{ id: randomUUID(), ...fieldSchema.parse({ name: 'strolls and jogs', clips }) }];
  await saveSet(database, project, randomUUID(), { ...set, fields, revision: 0 });
}

/** An evening round, of cuts and clips of the demo. */
async function joinRound(database: Database, project: string, idOf: (name: string) => string | undefined): Promise<void> {
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
  await saveJoin(database, project, id(), { name: 'evening-round', pieces, start, revision: 0 });
}
