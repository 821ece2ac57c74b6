import { randomUUID } from 'node:crypto';
import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { recipeSchema, shipSchema, writeBvh } from '@lantern/motion';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { connect } from '../apps/studio/src/server/database';
import { makeProject } from '../apps/studio/src/server/demo';
import { importCharacter } from '../apps/studio/src/server/characters';
import { importTake } from '../apps/studio/src/server/takes';
import { saveClip } from '../apps/studio/src/server/clips';
import { openBoss } from '../apps/studio/src/server/fit-jobs';
import { listShipments, startShipment } from '../apps/studio/src/server/ship/shipments';
import { readiness } from '../apps/studio/src/server/ship/readiness';
import { shippedEntries, zipStream } from '../apps/studio/src/server/ship/zip-stream';
import { madeClips } from '../apps/studio/src/server/schema';
const base = process.env.DATABASE_URL!;
const server = connect(base);
const name = `bench_${randomUUID().replace(/-/g, '')}`;
await server.database.execute(sql.raw(`create database ${name}`));
const own = new URL(base); own.pathname = `/${name}`;
const { database, close } = connect(own.href);
await migrate(database, { migrationsFolder: 'apps/studio/drizzle' });
await makeProject(database);
await importCharacter(database, 'gullmouth', 'Tallow.glb', await castGlb('tallow'));
const takes: { id: string; frames: number }[] = [];
for (const [i, script] of (['walk', 'jog', 'turn', 'rounds', 'idle', 'hush'] as const).entries()) {
  const { motion } = capture(script, { seconds: 40, seed: 30 + i });
  const t = await importTake(database, 'gullmouth', `${script}.bvh`, new TextEncoder().encode(writeBvh(motion)));
  takes.push({ id: t.id, frames: motion.frames });
}
const N = 300;
const steps = recipeSchema.parse([{ kind: 'clean' }, { kind: 'fit', character: 'tallow' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
for (let i = 0; i < N; i++) {
  const t = takes[i % takes.length];
  const from = 20 + ((i * 37) % (t.frames - 240));
  await saveClip(database, 'gullmouth', randomUUID(), { name: `clip-${String(i).padStart(3, '0')}`, source: { take: t.id, from, to: from + 90 + (i % 90) }, steps, gait: '', direction: '', revision: 0 });
}
const boss = await openBoss(own.href);
const ship = shipSchema.parse({ fps: 60, thin: {}, bvh: true, csv: true });
const start = () => spawn('node', ['dist/worker.mjs'], { cwd: 'apps/studio', env: { ...process.env, DATABASE_URL: own.href, LANTERN_CORE: 'bench' }, stdio: 'inherit' });
process.env.LANTERN_CORE = 'bench';
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
let peak = 0;
const rss = (c: ChildProcess) => { try { return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${c.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024; } catch { return 0; } };
async function round(title: string, workers: number, kills = 0) {
  await database.delete(madeClips);
  peak = 0;
  const all = Array.from({ length: workers }, start);
  await wait(2500);
  const begun = performance.now();
  const id = (await startShipment(database, boss, 'gullmouth', ship))!;
  const asked = performance.now() - begun;
  let left = kills, made = 0;
  for (;;) {
    await wait(100);
    for (const w of all) peak = Math.max(peak, rss(w));
    const s = (await listShipments(database, 'gullmouth')).find((x) => x.id === id)!;
    if (!made && s.done >= N) made = performance.now() - begun;
    if (left > 0 && s.done > (kills - left + 1) * (N / (kills + 1)) ) { left--; all[0].kill('SIGKILL'); all[0] = start(); }
    if (s.state !== 'making' && s.state !== 'packing') {
      console.log(title, { state: s.state, failed: s.failed, askedMs: asked | 0, madeS: +(made / 1000).toFixed(1), totalS: +((performance.now() - begun) / 1000).toFixed(1), peakMB: peak | 0, files: s.files.length, MB: +(s.files.reduce((a, f) => a + f.bytes, 0) / 1e6).toFixed(1), states: s.written.reduce((m: any, f) => ((m[f.state] = (m[f.state] ?? 0) + 1), m), {}) });
      break;
    }
  }
  for (const w of all) w.kill('SIGKILL');
  await wait(500);
  return id;
}
await round('one worker', 1);
const id = await round('two workers', 2);
await round('two workers, killed 3 times', 2, 3);
let t = performance.now();
const rows = await readiness(database, boss, 'gullmouth', ship);
console.log('readiness known', rows!.filter((r) => r.state === 'done').length, `${(performance.now() - t).toFixed(0)} ms`, JSON.stringify(rows).length);
t = performance.now();
let bytes = 0;
for (const reader = zipStream(shippedEntries(database, id)).getReader(); ; ) { const { done, value } = await reader.read(); if (done) break; bytes += value.length; }
console.log('zip', (bytes / 1e6).toFixed(1), 'MB', `${(performance.now() - t).toFixed(0)} ms`, 'rss', (process.memoryUsage().rss / 1e6) | 0);
await boss.stop({ graceful: false });
await close();
await server.database.execute(sql.raw(`drop database ${name} with (force)`));
await server.close();
process.exit(0);
