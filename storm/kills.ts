import { randomUUID } from 'node:crypto';
import { quantileOf, random, smallFile } from './small-files';
import { VICTIMS, type Studio } from './studio';

/** A restart may take so long, ms. */
const MOST_RESTART = 30_000;
/** Jobs of the queue must have ended so long after the last kill, ms. */
const MOST_QUEUE = 90_000;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

interface ClipState {
  readonly id: string;
  revision: number;
  to: number;
  /** Sent, and nobody knows whether it arrived. */
  sent: number | null;
}
interface Project {
  readonly takes: readonly { id: string; frames: number }[];
  readonly clips: readonly { id: string; revision: number; source: { to: number } }[];
}
interface Job {
  readonly id: string;
  readonly state: string;
  readonly hasFile: boolean;
}

/**
 * Kills the server, the worker, the database, or everything, at random moments, while files come in, clips are saved and takes are fitted.
 * Whatever was answered with a success must be there afterwards, whole; what was not may be there or not, but not in half.
 */
export async function storm(studio: Studio, count: number): Promise<{ figures: object; found: string[] }> {
  const next = random(20261127);
  const found: string[] = [];
  const takes = new Map<string, number>();
  const clips: ClipState[] = [];
  const restarts: number[] = [];
  const killed: Record<string, number> = {};
  const done = { uploads: 0, saves: 0, runs: 0, refused: 0 };
  let isOver = false;
  let files = Date.now() % 1e9;

  const first = await studio.ask('POST', '/api/projects/gullmouth/takes?file=first.bvh', smallFile(files++));
  const [{ id: ground, frames }] = (first.body as { takes: { id: string; frames: number }[] }).takes;
  takes.set(ground, frames);
  for (let i = 0; i < 4; i++) clips.push({ id: randomUUID(), revision: 0, to: 60, sent: null });

  const upload = async () => {
    while (!isOver) {
      const { status, body } = await studio.ask('POST', `/api/projects/gullmouth/takes?file=s${files}.bvh`, smallFile(files++));
      if (status !== 201) await later(status);
      else {
        done.uploads++;
        for (const take of (body as { takes: { id: string; frames: number }[] }).takes) takes.set(take.id, take.frames);
      }
    }
  };
  const save = async (clip: ClipState) => {
    for (let n = 0; !isOver; n++) {
      clip.sent = 60 + (n % 50);
      const source = { take: ground, from: 10, to: clip.sent };
      const body = { name: `clip ${clip.id.slice(0, 4)}`, source, steps: [{ kind: 'loop' }], revision: clip.revision };
      const answer = await studio.ask('PUT', `/api/projects/gullmouth/clips/${clip.id}`, body);
      if (answer.status === 200) {
        done.saves++;
        Object.assign(clip, { revision: clip.revision + 1, to: clip.sent, sent: null });
      } else {
        await later(answer.status);
        if (answer.status !== 409) continue;
        // The save before arrived, and its answer did not.
        const there = (answer.body as { clip: { revision: number; source: { to: number } } }).clip;
        Object.assign(clip, { revision: there.revision, to: there.source.to, sent: null });
      }
    }
  };
  const fit = async () => {
    while (!isOver) {
      const some = [...takes.keys()].slice(-3);
      const { status } = await studio.ask('POST', '/api/projects/gullmouth/fit-runs', { takes: some, characters: ['wick'] });
      if (status === 201) done.runs++;
      else await later(status);
      await wait(1500);
    }
  };
  const later = async (status: number) => {
    // Away, or cut off: anything else is a fault.
    if (![0, 409, 500, 503].includes(status)) found.push(`an answer of ${status} during the kills`);
    if (status === 500) found.push('an answer of 500 during the kills');
    done.refused++;
    await wait(200);
  };

  const load = [upload(), upload(), ...clips.map(save), fit()];
  while (restarts.length < count) {
    await wait(200 + 1800 * next());
    const victim = VICTIMS[Math.floor(next() * VICTIMS.length)];
    if (!studio.kill(victim)) continue;
    killed[victim] = (killed[victim] ?? 0) + 1;
    const ms = await studio.ready().catch(() => Infinity);
    restarts.push(ms);
    if (ms > MOST_RESTART) found.push(`after the ${victim} was killed it took ${(ms / 1000).toFixed(1)} s`);
    if (restarts.length % 10 === 0) await check(studio, takes, clips, found);
  }
  isOver = true;
  await Promise.all(load);
  await check(studio, takes, clips, found);
  const stuck = await queueEnds(studio);
  if (stuck > 0) found.push(`${stuck} jobs have not ended`);
  const figures = {
    kills: restarts.length,
    ...killed,
    ...done,
    lost: found.filter((fault) => fault.startsWith('lost')).length,
    stuck,
    restartMedianS: round(quantileOf(restarts, 0.5)),
    restartWorstS: round(Math.max(...restarts)),
  };
  return { figures, found };
}

const round = (ms: number) => Math.round(ms / 100) / 10;

/** Everything that was answered with a success is there, whole. */
async function check(studio: Studio, takes: ReadonlyMap<string, number>, clips: readonly ClipState[], found: string[]): Promise<void> {
  // People go on meanwhile: what is asked for is what stood before the question.
  const stood = { takes: [...takes], clips: clips.map((clip) => ({ ...clip })) };
  const { body } = await studio.ask('GET', '/api/projects/gullmouth');
  const project = body as Project | null;
  if (!project?.takes) return void found.push('the project could not be read');
  const there = new Map(project.takes.map((take) => [take.id, take.frames]));
  for (const [id, frames] of stood.takes) if (there.get(id) !== frames) found.push(`lost: take ${id}`);
  for (const clip of stood.clips) {
    if (clip.revision === 0) continue;
    const own = project.clips.find(({ id }) => id === clip.id);
    const isIt = own && (own.revision > clip.revision || (own.revision === clip.revision && own.source.to === clip.to));
    if (!isIt) found.push(`lost: a save of clip ${clip.id}: ${JSON.stringify(own)} for ${JSON.stringify(clip)}`);
  }
  // Motion is whole or not there: of the newest, every row.
  for (const { id, frames } of project.takes.slice(-5)) {
    const motion = await studio.ask('GET', `/api/takes/${id}/motion`);
    const bytes = motion.body instanceof Uint8Array ? motion.body.length : 0;
    if (bytes === 0 || bytes % (4 * frames) !== 0) found.push(`lost: rows of take ${id}`);
  }
}

/** How many jobs of the newest run have not ended after a while. */
async function queueEnds(studio: Studio): Promise<number> {
  const begun = performance.now();
  for (;;) {
    const { body } = await studio.ask('GET', '/api/projects/gullmouth/fit-runs');
    const open = (Array.isArray(body) ? (body as Job[]) : []).filter(({ state }) => state === 'waiting' || state === 'running');
    if (Array.isArray(body) && open.length === 0) return 0;
    if (performance.now() - begun > MOST_QUEUE) return open.length || -1;
    await wait(1000);
  }
}
