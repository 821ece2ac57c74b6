import { sql } from 'drizzle-orm';
import type { ProjectRow } from '@/http/projects';
import type { Database } from './database';

/** Takes whose ways are drawn, and points of a way. */
const DRAWN = 12;
const POINTS = 48;

interface Counted extends Record<string, unknown> {
  readonly id: string;
  readonly name: string;
  readonly character: string;
  readonly fps: number;
  readonly removed: Date | null;
  readonly changed: Date;
  readonly takes: number;
  readonly clips: number;
  readonly sets: number;
  readonly shipments: number;
  readonly seconds: number;
}

/** All projects, the latest changed first; those that were removed are told by when. */
export async function listProjects(database: Database): Promise<readonly ProjectRow[]> {
  const { rows } = await database.execute<Counted>(sql`
    select p.id, p.name, p.character, p.fps, p.removed, t.takes, t.seconds, c.clips, s.sets, h.shipments,
      greatest(p.created, t.last, c.last, s.last, j.last, h.last) as changed
    from projects p,
      lateral (select count(*)::int takes, coalesce(sum(frames / fps), 0)::float seconds, max(created) last from takes where project = p.id and removed is null) t,
      lateral (select count(*) filter (where removed is null)::int clips, max(updated) last from clips where project = p.id) c,
      lateral (select count(*) filter (where removed is null)::int sets, max(updated) last from sets where project = p.id) s,
      lateral (select max(updated) last from joins where project = p.id) j,
      lateral (select count(*)::int shipments, max(created) last from shipments where project = p.id and removed is null and state = 'done') h
    order by changed desc, p.id`);
  const ways = await waysOf(database);
  return rows.map(({ removed, changed, ...row }) => ({
    ...row,
    changed: new Date(changed).toISOString(),
    removed: removed && new Date(removed).toISOString(),
    paths: ways.get(row.id) ?? [],
  }));
}

/** The ways of the longest takes of every project, with no more points than are seen in a small picture. */
async function waysOf(database: Database): Promise<Map<string, number[][]>> {
  const { rows } = await database.execute<{ project: string; path: number[] }>(sql`
    select project, path from (
      select project, path, row_number() over (partition by project order by frames / fps desc, id) place from takes where removed is null
    ) own where place <= ${DRAWN}`);
  const ways = new Map<string, number[][]>();
  for (const { project, path } of rows) ways.set(project, [...(ways.get(project) ?? []), thinned(path)]);
  return ways;
}

function thinned(path: readonly number[]): number[] {
  const count = path.length / 2;
  const kept = Math.min(count, POINTS);
  return Array.from({ length: kept }, (_, i) => (kept < 2 ? 0 : Math.round((i * (count - 1)) / (kept - 1)))).flatMap((at) =>
    [path[2 * at], path[2 * at + 1]].map((metres) => Math.round(metres * 100) / 100),
  );
}
