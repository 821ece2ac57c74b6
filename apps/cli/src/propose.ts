import { readdir, stat } from 'node:fs/promises';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { CAST_NAMES, castGlb, type CastName } from '@lantern/cast';
import {
  bareName,
  draftProject,
  InputError,
  projectSchema,
  readAsf,
  readCharacter,
  readTake,
  readTakes,
  settleTake,
  slotList,
  type AsfSkeleton,
  type Doubt,
  type DraftTake,
  type ProjectInput,
  type SlotList,
  type Take,
} from '@lantern/motion';
import { inFile, readInput, writeOutput } from './files';
import { print } from './print';
import { tellProgress } from './progress';

export interface ProposeOptions {
  readonly character?: string;
  readonly slots: SlotList;
  readonly out: string;
  readonly name: string;
  readonly json?: boolean;
}

type TakeOf = ProjectInput['takes'][number];

const isOurs = (name: string): name is CastName => CAST_NAMES.some((own) => own === name);

/** A set drafted from all takes of a folder, written as a project file that `make`, `set` and `drive` read. */
export async function propose(folder: string, { character, slots, out, name, json }: ProposeOptions): Promise<void> {
  const start = performance.now();
  const tell = tellProgress();
  const home = dirname(resolve(out));
  const found = await stat(folder).catch(() => null);
  if (!found?.isDirectory()) throw new InputError('folder', 'A folder of takes was expected here.', { file: folder, line: 1 });
  const doubts: Doubt[] = [];
  const takes: DraftTake[] = [];
  const described: TakeOf[] = [];
  for await (const { file, skeleton, take, animation } of takesIn(folder, doubts)) {
    const id = freeId(animation ? `${bareName(file)}-${animation}` : bareName(file), described);
    const settled = inFile(file, () => settleTake(id, take));
    takes.push({ id, motion: settled.motion });
    doubts.push(...settled.doubts);
    const place = (path: string) => relative(home, resolve(path)).split(sep).join('/');
    described.push({
      id,
      file: place(file),
      ...(animation && { animation }),
      ...(skeleton && { skeleton: place(skeleton) }),
      ...settled.overrides,
    });
    tell(0, `Read ${id}`);
  }
  if (takes.length === 0)
    throw new InputError('folder', 'There is no take in the folder: BVH, GLB, or AMC with its ASF.', { file: folder, line: 1 });
  const whom = character === undefined ? null : await characterOf(character, home);
  const drafting = draftProject(takes, whom ? new Map([[whom.id, whom.character]]) : new Map(), {
    name,
    slots: slotList(slots),
    character: whom?.id ?? null,
    doubts,
  });
  let step = drafting.next();
  while (!step.done) {
    tell(step.value.share, step.value.says);
    step = drafting.next();
  }
  const { clips, set, fields, missing, weather, doubts: all } = step.value;
  if (clips.length === 0) throw new InputError('folder', 'Nothing in these takes fills a slot of a set.', { file: folder, line: 1 });
  const project: ProjectInput = {
    oldLantern: 1,
    takes: described,
    characters: whom ? [{ id: whom.id, file: whom.file }] : [],
    clips: clips.map(({ id: _, ...clip }) => clip),
    sets: [set],
    fields: [...fields],
  };
  // What is written can be read.
  projectSchema.parse(project);
  await writeOutput(out, `${JSON.stringify(project, null, 1)}\n`);
  const choices = set.draft?.choices ?? [];
  const result = {
    file: out,
    set: set.name,
    slots: set.slots.length,
    filled: clips.length,
    missing,
    doubts: all,
    choices: choices.map(({ slot, clip, why, others, out: beyond }) => ({
      slot,
      clip,
      why,
      runnersUp: others.length,
      outOfBounds: beyond,
    })),
    weather: weather && { popCm: Number(weather.popCm.toFixed(2)), slideCm: Number(weather.slideCm.toFixed(3)) },
    ms: Math.round(performance.now() - start),
  };
  print(json ?? false, result, () => [
    `${out}: ${clips.length} of ${set.slots.length} slots filled from ${takes.length} takes, in ${(result.ms / 1000).toFixed(1)} s`,
    ...choices.map(
      (own) =>
        `  ${own.slot.padEnd(28)} ${own.clip ?? '–'}  ${own.why}${own.out.length > 0 ? `; out of bounds: ${own.out.join(', ')}` : ''}`,
    ),
    ...(missing.length > 0 ? ['to capture', ...missing.map(({ shot }) => `  ${shot}`)] : []),
    ...(all.length > 0 ? ['doubts', ...all.map(({ take, what }) => `  ${take}: ${what}`)] : []),
  ]);
}

/** The takes of a folder, in the order of their names; a file that cannot be read is a doubt, and the others are read. */
async function* takesIn(
  folder: string,
  doubts: Doubt[],
): AsyncGenerator<{ readonly file: string; readonly skeleton?: string; readonly take: Take; readonly animation?: string }> {
  const names = (await readdir(folder)).sort();
  const skeletons = new Map<string, AsfSkeleton>();
  for (const own of names.filter((one) => /\.asf$/i.test(one))) {
    const file = join(folder, own);
    const skeleton = await readable(own, doubts, async () => readAsf(await readInput(file), bareName(file)));
    if (skeleton) skeletons.set(file, skeleton);
  }
  for (const own of names.filter((one) => /\.(bvh|glb|gltf|amc)$/i.test(one))) {
    const file = join(folder, own);
    if (/\.amc$/i.test(own)) {
      const bytes = await readInput(file);
      // The skeleton whose joints its motion has, that of its own name first.
      const order = [...skeletons].sort(([a], [b]) => Number(bareName(b) === bareName(file)) - Number(bareName(a) === bareName(file)));
      const fits = order.flatMap(([skeleton, asf]) => {
        try {
          return [{ file, skeleton, take: readTake(bytes, file, { skeletons: [asf] }) }];
        } catch (error) {
          if (error instanceof InputError) return [];
          throw error;
        }
      });
      if (fits[0]) yield fits[0];
      else doubts.push({ take: own, what: 'No ASF in the folder is its skeleton, so it is left out.' });
      continue;
    }
    const all = await readable(own, doubts, async () => readTakes(await readInput(file), file, {}));
    for (const take of all ?? []) yield { file, take, ...(all && all.length > 1 && take.part && { animation: take.part }) };
  }
}

async function readable<T>(name: string, doubts: Doubt[], read: () => Promise<T>): Promise<T | null> {
  try {
    return await read();
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    doubts.push({ take: name, what: `It cannot be read, and is left out: ${error.message}` });
    return null;
  }
}

/** A character of ours, whose file is put beside the project, or one from a file. */
async function characterOf(name: string, home: string) {
  const file = isOurs(name) ? join(home, `${name}.glb`) : name;
  const bytes = isOurs(name) ? await castGlb(name) : await readInput(name);
  const character = inFile(file, () => readCharacter(bytes, bareName(file)));
  if (isOurs(name)) await writeOutput(file, bytes);
  return { id: bareName(file), character, file: relative(home, resolve(file)).split(sep).join('/') };
}

function freeId(stem: string, takes: readonly TakeOf[]): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!takes.some((own) => own.id === id)) return id;
  }
}
