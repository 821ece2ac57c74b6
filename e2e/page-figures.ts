import type { Browser } from 'puppeteer-core';

/** What the browser itself says of a first visit. */
export interface PageFigures {
  /** Compressed script that the page names, and all that came until it stood still, kilobytes. */
  readonly namedKb: number;
  readonly allKb: number;
  /** When its largest piece was painted, and how long its longest task and all tasks beyond 50 ms held it up, milliseconds. */
  readonly largestPaintMs: number;
  readonly longestTaskMs: number;
  readonly blockedMs: number;
}

/** Seconds without anything new after which a page stands still; one on which something always moves is looked at for so many. */
const STILL = 3;
const LOOKED_AT = 40;

/** Opens an address in a profile that has nothing of it yet. */
export async function firstVisit(browser: Browser, url: string): Promise<PageFigures> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.evaluateOnNewDocument(`
    window.seen = { paint: 0, tasks: [], last: 0 };
    const watch = (type, see) =>
      new PerformanceObserver((list) => { list.getEntries().forEach(see); window.seen.last = performance.now(); }).observe({ type, buffered: true });
    watch('largest-contentful-paint', (entry) => { window.seen.paint = entry.startTime; });
    watch('longtask', (entry) => { window.seen.tasks.push(entry.duration); });
    watch('resource', () => {});
  `);
  const response = await page.goto(url);
  const html = (await response?.text()) ?? '';
  await page.waitForFunction(`performance.now() - window.seen.last > ${STILL * 1000} || performance.now() > ${LOOKED_AT * 1000}`, {
    timeout: 120_000,
  });
  const seen = (await page.evaluate('window.seen')) as { readonly paint: number; readonly tasks: readonly number[] };
  const scripts = (await page.evaluate(
    `performance.getEntriesByType('resource').filter(({ name }) => /[.]js($|[?])/.test(name)).map(({ name, encodedBodySize }) => [name, encodedBodySize])`,
  )) as readonly (readonly [string, number])[];
  await context.close();
  const kb = (own: typeof scripts) => own.reduce((sum, [, bytes]) => sum + bytes, 0) / 1024;
  return {
    namedKb: kb(scripts.filter(([name]) => html.includes(new URL(name).pathname))),
    allKb: kb(scripts),
    largestPaintMs: seen.paint,
    longestTaskMs: Math.max(0, ...seen.tasks),
    blockedMs: seen.tasks.reduce((sum, ms) => sum + ms - 50, 0),
  };
}

/** The text of every script that a page names, as the server gives it; those for browsers that know no modules are not read by others. */
export async function scriptsNamed(url: string): Promise<string[]> {
  const html = await (await fetch(url)).text();
  const tags = (html.match(/<(?:script|link)\b[^>]*>/gi) ?? []).filter((tag) => !/\bnomodule\b/i.test(tag));
  const names = new Set(tags.flatMap((tag) => /(?:src|href)="([^"]+\.js)[^"]*"/.exec(tag)?.[1] ?? []));
  return Promise.all([...names].map(async (name) => (await fetch(new URL(name, url))).text()));
}
