import { firstVisit, scriptsNamed } from './page-figures';
import { session } from './session';

const tests = session();
const PLACES = ['takes', 'fit', 'bench', 'joins', 'set', 'drive', 'ship'];

/** Kilobytes of compressed script that a place may name; what is heavy comes when it is shown. */
const MOST_KB = 600;

test.each(PLACES)('a first visit of %s: little script before the page stands, and the browser tells when it was painted', async (place) => {
  const url = `${tests.application.url}/gullmouth/${place}`;
  const { namedKb, allKb, largestPaintMs } = await firstVisit(tests.browser, url);
  expect(namedKb).toBeGreaterThan(100);
  expect(namedKb).toBeLessThan(MOST_KB);
  expect(allKb).toBeGreaterThanOrEqual(namedKb);
  expect(largestPaintMs).toBeGreaterThan(0);
});

test.each(PLACES)('%s names neither the code of the stage nor that of tables or charts: they come when they are shown', async (place) => {
  const scripts = await scriptsNamed(`${tests.application.url}/gullmouth/${place}`);
  expect(scripts.length).toBeGreaterThan(5);
  for (const heavy of ['WebGLRenderer', 'MuiDataGrid-virtualScroller', 'recharts-surface'])
    expect({ heavy, at: scripts.filter((text) => text.includes(heavy)).length }).toEqual({ heavy, at: 0 });
});
