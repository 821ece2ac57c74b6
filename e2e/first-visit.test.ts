import { gzipSync } from 'node:zlib';
import { firstVisit, scriptsNamed } from './page-figures';
import { session } from './session';

const tests = session();

/** Kilobytes of compressed script that a place may name; what is heavy comes when it is shown. */
const MOST_KB = 300;

test.each(['projects', ...['takes', 'fit', 'bench', 'joins', 'set', 'drive', 'ship'].map((place) => `gullmouth/${place}`)])(
  '%s names little script, and neither the stage’s nor that of tables or charts',
  async (address) => {
    const scripts = await scriptsNamed(`${tests.application.url}/${address}`);
    const kb = scripts.reduce((sum, text) => sum + gzipSync(text).length, 0) / 1024;
    expect(kb).toBeGreaterThan(100);
    expect(kb).toBeLessThan(MOST_KB);
    for (const heavy of ['WebGLRenderer', 'MuiDataGrid-virtualScroller', 'recharts-surface'])
      expect({ heavy, in: scripts.filter((text) => text.includes(heavy)).length }).toEqual({ heavy, in: 0 });
  },
);

test('the browser tells of a first visit: what it read and when the largest piece was painted; the stage’s code came after', async () => {
  const { namedKb, allKb, largestPaintMs, blockedMs } = await firstVisit(tests.browser, `${tests.application.url}/gullmouth/takes`);
  expect(namedKb).toBeLessThan(MOST_KB);
  expect(allKb).toBeGreaterThan(namedKb + 200);
  expect(largestPaintMs).toBeGreaterThan(0);
  expect(blockedMs).toBeGreaterThanOrEqual(0);
});
