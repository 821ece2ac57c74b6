import { randomUUID } from 'node:crypto';
import { quantileOf, random, smallFile } from './small-files';
import type { Studio } from './studio';

const CLIENTS = 20;
/** The 99th percentile of a save, ms. */
const MOST_SAVE = 500;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Twenty people at work: each saves a clip as one does while dragging, looks at takes, tags them, and brings a file in now and then. */
export async function storm(studio: Studio, seconds: number): Promise<{ figures: object; found: string[] }> {
  const found: string[] = [];
  const times: Record<'save' | 'look' | 'tag' | 'file', number[]> = { save: [], look: [], tag: [], file: [] };
  const base = Date.now() % 1e9;
  const first = await studio.ask('POST', '/api/projects/gullmouth/takes?file=ground.bvh', smallFile(base));
  const [ground] = (first.body as { takes: { id: string }[] }).takes;
  const until = performance.now() + seconds * 1000;

  const client = async (who: number) => {
    const next = random(who);
    const clip = randomUUID();
    let revision = 0;
    let files = 0;
    const timed = async (kind: keyof typeof times, want: number, ...asked: Parameters<Studio['ask']>) => {
      const begun = performance.now();
      const answer = await studio.ask(...asked);
      times[kind].push(performance.now() - begun);
      if (answer.status !== want) found.push(`${kind}: ${answer.status} ${JSON.stringify(answer.body)?.slice(0, 200)}`);
      return answer;
    };
    while (performance.now() < until) {
      const act = next();
      if (act < 0.6) {
        const source = { take: ground.id, from: 5, to: 60 + Math.floor(next() * 50) };
        const body = { name: `clip of ${who}`, source, steps: [{ kind: 'loop' }], revision };
        if ((await timed('save', 200, 'PUT', `/api/projects/gullmouth/clips/${clip}`, body)).status === 200) revision++;
      } else if (act < 0.85) await timed('look', 200, 'GET', `/api/takes/${ground.id}/motion`);
      else if (act < 0.97) await timed('tag', 200, 'PATCH', `/api/takes/${ground.id}`, { tags: [`t${who}`], before: { tags: [] } });
      else {
        const file = smallFile(base + 1000 * (who + 1) + files++);
        await timed('file', 201, 'POST', `/api/projects/gullmouth/takes?file=c${who}-${files}.bvh`, file);
      }
      await wait(50 + 200 * next());
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, who) => client(who)));
  const worst = quantileOf(times.save, 0.99);
  if (worst > MOST_SAVE) found.push(`saves took ${worst.toFixed(0)} ms at the 99th percentile`);
  const of = (kind: keyof typeof times) => ({
    count: times[kind].length,
    medianMs: Math.round(quantileOf(times[kind], 0.5)),
    p99Ms: Math.round(quantileOf(times[kind], 0.99)),
  });
  return { figures: { clients: CLIENTS, seconds, save: of('save'), look: of('look'), tag: of('tag'), file: of('file') }, found };
}
