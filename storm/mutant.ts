import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { InputError } from '@lantern/motion';
import { contacts } from '../apps/cli/src/contacts';
import { fit } from '../apps/cli/src/fit';
import { inspect } from '../apps/cli/src/inspect';
import { loops } from '../apps/cli/src/loops';
import { make } from '../apps/cli/src/make';
import { measure } from '../apps/cli/src/measure';
import { goodFiles, mutate, tweak, type GoodFile } from '../packages/motion/tests/mutations';

/** What became of one broken file. */
export interface Verdict {
  readonly name: string;
  readonly seed: number;
  readonly outcome: 'refused' | 'answered' | 'no number' | 'our fault';
  readonly ms: number;
  readonly megabytes: number;
  readonly why?: string;
}

// Reads broken files one after the other and says a line about each: `mutant.ts FROM TO FOLDER`.
const [from, to] = process.argv.slice(2, 4).map(Number);
const folder = process.argv[4] ?? '.';

/** A project that makes a clip of the file with what most clips have. */
const projectOf = (take: string) =>
  JSON.stringify({
    oldLantern: 1,
    fps: 30,
    takes: [{ id: 't', file: take }],
    clips: [{ id: 'c', name: 'c', source: { take: 't', from: 0, to: 4 }, steps: [{ kind: 'foot-lock' }, { kind: 'travel' }] }],
    ship: { glb: 'c.glb' },
  });
const good: GoodFile[] = [...(await goodFiles()), { name: 'a.json', bytes: new TextEncoder().encode(projectOf('good.bvh')) }];
const [bvh] = good;
writeFileSync(join(folder, 'good.bvh'), bvh.bytes);
const [, , , skeleton] = good;

/** What is no number in an answer is a null in JSON: so it is looked for before. */
const notNumbers: string[] = [];
const { stringify } = JSON;
JSON.stringify = ((value: unknown, ...how: []) => {
  look(value, '');
  return stringify(value, ...how);
}) as typeof JSON.stringify;

function look(value: unknown, path: string): void {
  if (typeof value === 'number' && !Number.isFinite(value)) notNumbers.push(path);
  if (typeof value === 'object' && value !== null && !ArrayBuffer.isView(value))
    for (const [key, own] of Object.entries(value)) look(own, `${path}.${key}`);
}

/** Runs a command without what it writes. */
async function answerOf(run: () => Promise<unknown>): Promise<void> {
  const [out, err] = [process.stdout.write, process.stderr.write];
  process.stdout.write = (() => true) as typeof process.stdout.write;
  process.stderr.write = (() => true) as typeof process.stderr.write;
  try {
    await run();
  } finally {
    [process.stdout.write, process.stderr.write] = [out, err];
  }
}

/** Every command that reads such a file; which of the dear ones, by the seed. */
function commandsOf(file: string, name: string, seed: number): (() => Promise<unknown>)[] {
  const json = { json: true };
  const out = join(folder, `out-${process.pid}`);
  if (name.endsWith('.json')) return [() => make(file, { ...json, out })];
  if (name.endsWith('.asf')) return [() => inspect([file], json)];
  const dear = [
    () => contacts(file, json),
    () => loops(file, json),
    () => measure(file, json),
    () => fit(file, 'tallow', { ...json, out: join(out, 'fit.glb') }),
    () => {
      const project = join(folder, `project-${process.pid}.json`);
      writeFileSync(project, projectOf(file));
      return make(project, { ...json, out, allowOutside: true });
    },
  ];
  return [() => inspect([file], json), dear[seed % dear.length]];
}

/** Every other one is only a little wrong: a file that is refused at its first line tells nothing of what comes after. */
const broken = (bytes: Uint8Array, name: string, seed: number) =>
  Math.floor(seed / good.length) % 2 === 0 ? mutate(bytes, seed) : tweak(bytes, name, seed);

for (let seed = from; seed < to; seed++) {
  const { name, bytes } = good[seed % good.length];
  // An AMC finds its skeleton beside it.
  if (name === 'a.amc') writeFileSync(join(folder, 'a.asf'), skeleton.bytes);
  const file = join(folder, `m${process.pid}-${name}`);
  writeFileSync(file, broken(bytes, name, seed));
  const begun = performance.now();
  let outcome: Verdict['outcome'] = 'answered';
  let why: string | undefined;
  for (const command of commandsOf(file, name, Math.floor(seed / good.length / 2))) {
    try {
      notNumbers.length = 0;
      await answerOf(command);
      if (notNumbers.length > 0) [outcome, why] = ['no number', notNumbers.slice(0, 5).join(', ')];
    } catch (error) {
      if (!(error instanceof InputError))
        [outcome, why] = ['our fault', error instanceof Error ? (error.stack ?? error.message) : String(error)];
      else if (outcome === 'answered') outcome = 'refused';
    }
  }
  const verdict: Verdict = { name, seed, outcome, ms: performance.now() - begun, megabytes: process.memoryUsage.rss() / 1e6, why };
  process.stdout.write(`${JSON.stringify(verdict)}\n`);
}
