import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** A file of the built program, and all that it reads before a command is known. */
function readAtStart(file: string, seen = new Map<string, number>()): Map<string, number> {
  if (seen.has(file)) return seen;
  const text = readFileSync(file, 'utf8');
  seen.set(file, text.length);
  for (const [, part] of text.matchAll(/(?:from|import)\s*"(\.[^"]+)"/g)) readAtStart(join(dirname(file), part), seen);
  return seen;
}

test('what is read before a command is known is small: none of the core, no character, no performer', () => {
  const read = readAtStart('apps/cli/dist/lantern.mjs');
  const bytes = [...read.values()].reduce((sum, size) => sum + size, 0);
  expect(read.size).toBeGreaterThan(1);
  expect(bytes).toBeGreaterThan(20_000);
  expect(bytes).toBeLessThan(150_000);
});
