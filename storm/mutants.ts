import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { goodFiles, mutate } from '../packages/motion/tests/mutations';
import type { Verdict } from './mutant';

/** A file may take so long, ms, and its reader so much memory, megabytes. */
const MOST_MS = 10_000;
const MOST_MEGABYTES = 1000;
const AT_ONCE = 2;
/** So many of the files go through the command line as a process, too. */
const AS_PROCESS = 120;

/** Broken files through every reader and every command: refused with a sentence or read with numbers, in time, in little memory. */
export async function storm(count: number): Promise<{ figures: object; found: string[] }> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-storm-'));
  const found: string[] = [];
  const tally: Record<string, number> = {};
  let [slowest, largest] = [0, 0];
  const heard = ({ name, seed, outcome, ms, megabytes, why }: Verdict) => {
    tally[outcome] = (tally[outcome] ?? 0) + 1;
    slowest = Math.max(slowest, ms);
    largest = Math.max(largest, megabytes);
    const is = `${name}, seed ${seed}`;
    if (outcome !== 'refused' && outcome !== 'answered') found.push(`${is}: ${outcome}: ${why}`);
    if (ms > MOST_MS) found.push(`${is}: ${ms.toFixed(0)} ms`);
    if (megabytes > MOST_MEGABYTES) found.push(`${is}: ${megabytes.toFixed(0)} MB`);
  };
  try {
    const share = Math.ceil(count / AT_ONCE);
    await Promise.all(
      Array.from({ length: AT_ONCE }, (_, i) => readThrough(i * share, Math.min(count, (i + 1) * share), folder, heard, found)),
    );
    const codes = await asProcesses(Math.min(AS_PROCESS, count), folder, found);
    return { figures: { files: count, ...tally, slowestMs: Math.round(slowest), largestMb: Math.round(largest), codes }, found };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Files `from` to `to` in a process of their own; one that it does not survive is a fault, and the rest goes on in another. */
async function readThrough(from: number, to: number, folder: string, heard: (verdict: Verdict) => void, found: string[]): Promise<void> {
  for (let at = from; at < to;) {
    const child = spawn('node', ['--import', 'tsx', 'storm/mutant.ts', String(at), String(to), folder], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    let timer: NodeJS.Timeout | undefined;
    const watch = () => {
      clearTimeout(timer);
      timer = setTimeout(() => child.kill('SIGKILL'), 6 * MOST_MS);
    };
    watch();
    for await (const line of createInterface({ input: child.stdout })) {
      watch();
      const verdict = JSON.parse(line) as Verdict;
      heard(verdict);
      at = verdict.seed + 1;
    }
    clearTimeout(timer);
    if (at < to) found.push(`seed ${at++}: the process that read it ended`);
  }
}

async function asProcesses(count: number, folder: string, found: string[]): Promise<Record<string, number>> {
  const good = await goodFiles();
  const codes: Record<string, number> = {};
  for (let seed = 0; seed < count; seed++) {
    const { name, bytes } = good[seed % good.length];
    const file = join(folder, `p${seed}-${name}`);
    writeFileSync(file, mutate(bytes, seed));
    const command = ['inspect', 'contacts', 'loops', 'measure'][seed % 4];
    const code = await new Promise<number>((resolve) => {
      execFile('node', ['apps/cli/dist/lantern.mjs', command, file, '--json'], { maxBuffer: 1e9, timeout: MOST_MS }, (error) =>
        resolve(error ? Number(error.code ?? -1) : 0),
      );
    });
    codes[code] = (codes[code] ?? 0) + 1;
    if (code !== 0 && code !== 3) found.push(`${command} of ${name}, seed ${seed}, ended with ${code}`);
  }
  return codes;
}
