import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { capture } from '@lantern/capture';
import { writeBvh } from '@lantern/motion';
import { unzipSync } from 'fflate';
import { VICTIMS, type Studio } from './studio';

/** The clips of the shipment, and milliseconds after which it is given up. */
const CLIPS = 300;
const LONGEST = 400_000;

interface Listed {
  readonly shipments: readonly {
    readonly id: string;
    readonly state: string;
    readonly done: number;
    readonly of: number;
    readonly message: string;
  }[];
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Ships a large set while the server, the worker, the database and all of them together are killed one after the other. What arrived has to be,
 * byte by byte, what the command line makes of the same project.
 *
 * @param count of kills
 */
export async function storm(studio: Studio, count: number): Promise<{ figures: object; found: string[] }> {
  const found: string[] = [];
  const project = await fill(studio);
  const begun = performance.now();
  const id = await ask(studio, project, { bvh: true, csv: true });
  for (let kills = 0; kills < count; kills++) {
    // Spread over the shipment: the first when some clips are made, the last while it is packed.
    const share = (kills + 1) / (count + 1);
    const now = await until(studio, project, id, ({ done, of, state }) => state !== 'making' || done >= share * of);
    if (now.state === 'done') found.push(`it arrived after ${kills} of ${count} kills`);
    studio.kill(VICTIMS[kills % VICTIMS.length]);
    await studio.ready().catch(() => found.push('the application did not come back'));
  }
  const arrived = await until(studio, project, id, ({ state }) => state !== 'making' && state !== 'packing');
  const seconds = (performance.now() - begun) / 1000;
  if (arrived.state !== 'done') found.push(`lost: the shipment is ${arrived.state}: ${arrived.message}`);
  const { body } = await studio.ask('GET', `/api/shipments/${id}/zip`);
  const stormy = body instanceof Uint8Array ? new Map(Object.entries(unzipSync(body))) : new Map<string, Uint8Array>();
  const calm = await madeInPeace(studio, project);
  const other = [...calm].filter(
    ([path, bytes]) => path !== 'report.json' && Buffer.compare(bytes, stormy.get(path) ?? new Uint8Array()) !== 0,
  );
  if (other.length > 0 || stormy.size !== calm.size)
    found.push(
      `lost: of ${calm.size} files ${stormy.size} arrived, and ${other.length} are not the same: ${other
        .slice(0, 3)
        .map(([path]) => path)
        .join(', ')}`,
    );
  return { figures: { clips: CLIPS, kills: count, files: stormy.size, seconds: Math.round(seconds) }, found };
}

/** A project of its own with takes, and clips cut all over them with their feet held. */
async function fill(studio: Studio): Promise<string> {
  const begun = await studio.ask('POST', '/api/projects', { name: 'Rough weather', character: 'Wick', fps: 60 });
  const path = `/api/projects/${(begun.body as { id: string }).id}`;
  const takes: { id: string; frames: number }[] = [];
  for (const [i, script] of (['walk', 'jog', 'turn', 'idle'] as const).entries()) {
    const bytes = new TextEncoder().encode(writeBvh(capture(script, { seconds: 40, seed: 70 + i }).motion));
    const { body } = await studio.ask('POST', `${path}/takes?file=${script}.bvh`, bytes);
    takes.push(...(body as { takes: typeof takes }).takes);
  }
  for (let i = 0; i < CLIPS; i++) {
    const { id: take, frames } = takes[i % takes.length];
    const from = 20 + ((i * 37) % (frames - 240));
    const steps = [{ kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }];
    const clip = { name: `clip-${String(i).padStart(3, '0')}`, source: { take, from, to: from + 90 + (i % 90) }, steps, revision: 0 };
    const { status } = await studio.ask('PUT', `${path}/clips/${randomUUID()}`, clip);
    if (status !== 200) throw new Error(`a clip was answered with ${status}`);
  }
  return path;
}

async function ask(studio: Studio, project: string, options: object): Promise<string> {
  const { body } = await studio.ask('POST', `${project}/shipments`, { ship: { fps: 60, thin: {}, ...options } });
  return (body as { id: string }).id;
}

async function until(studio: Studio, project: string, id: string, is: (own: Listed['shipments'][number]) => boolean) {
  for (const end = performance.now() + LONGEST; performance.now() < end; await wait(300)) {
    const { status, body } = await studio.ask('GET', `${project}/shipments`);
    const own = status === 200 ? (body as Listed).shipments.find((each) => each.id === id) : undefined;
    if (own && is(own)) return own;
  }
  throw new Error('the shipment has not ended');
}

/** What the command line makes of the same project, kept as an archive: its files by their names. */
async function madeInPeace(studio: Studio, project: string): Promise<Map<string, Uint8Array>> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-storm-'));
  try {
    const { body } = await studio.ask('GET', `${project}/archive`);
    if (!(body instanceof Uint8Array)) throw new Error('the archive did not come');
    for (const [path, bytes] of Object.entries(unzipSync(body))) {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), bytes);
    }
    const out = join(folder, 'out');
    execFileSync('./lantern', ['make', join(folder, 'project.json'), '--out', out], { stdio: 'ignore' });
    const paths = readdirSync(out, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
    return new Map(
      paths.map(({ parentPath, name }) => [relative(out, join(parentPath, name)), new Uint8Array(readFileSync(join(parentPath, name)))]),
    );
  } finally {
    rmSync(folder, { recursive: true });
  }
}
