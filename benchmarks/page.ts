import { launch } from '../e2e/browser';
import { firstVisit } from '../e2e/page-figures';

/** What a browser says of first visits to the places of a running application: `tsx benchmarks/page.ts http://127.0.0.1:4180`. */
const [url = 'http://127.0.0.1:4180'] = process.argv.slice(2);
const browser = await launch();
console.log('place   script named, kB   in all, kB   largest paint, ms   longest task, ms   held up, ms');
for (const place of ['takes', 'fit', 'bench', 'joins', 'set', 'drive', 'ship']) {
  const { namedKb, allKb, largestPaintMs, longestTaskMs, blockedMs } = await firstVisit(browser, `${url}/gullmouth/${place}`);
  console.log(
    place.padEnd(8) +
      [namedKb, allKb, largestPaintMs, longestTaskMs, blockedMs]
        .map((value, i) => value.toFixed(0).padStart([17, 13, 20, 19, 15][i]))
        .join(''),
  );
}
await browser.close();
