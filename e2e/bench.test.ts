import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser } from 'puppeteer-core';
import { click, figure, launch, openPage, shows } from './browser';
import { startApplication, temporaryFolder, type Running } from './server';

let application: Running;
let browser: Browser;
beforeAll(async () => {
  [application, browser] = await Promise.all([startApplication(), launch()]);
});
afterAll(async () => {
  await browser.close();
  await application.stop();
});

const saved = async () => {
  const data = (await (await fetch(`${application.url}/api/projects/gullmouth`)).json()) as {
    takes: { id: string; name: string }[];
    clips: { name: string; from: number; to: number; steps: { kind: string; contacts?: { left: { from: number; to: number }[] } }[] }[];
  };
  return data;
};

/** Waits until what the server has of the clips answers to a question. */
async function settles<T>(ask: (data: Awaited<ReturnType<typeof saved>>) => T | undefined | false): Promise<T> {
  for (let i = 0; i < 80; i++) {
    const answer = ask(await saved());
    if (answer !== undefined && answer !== false) return answer;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('the server never had it');
}

test('a take is read, its clips are proposed and made, feet are held by contacts set by hand, and all of it ships', async () => {
  const { page, errors } = await openPage(browser);
  const downloads = temporaryFolder();
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  const take = (await saved()).takes.find(({ name }) => name === 'wick-turns');
  await page.goto(`${application.url}/gullmouth/bench?take=${take?.id}`);
  // The band says what is done, in words.
  await page.waitForSelector('[role=button][aria-label^="turns right"]');
  await click(page, 'button', 'See what it offers');
  await shows(page, 'wick-walk-forward');
  await shows(page, /wick-turn-right-90/);
  await page.evaluate(() => {
    for (const row of document.querySelectorAll('[aria-label="Proposed clips"] [role=listitem]'))
      if (!/wick-walk-forward|turn-right/.test(row.textContent ?? '')) row.querySelector<HTMLInputElement>('input')?.click();
  });
  await click(page, 'button', 'Make 2 clips');
  const made = await settles(({ clips }) => {
    const own = clips.filter(({ name }) => /^wick-(walk-forward|turn-right)/.test(name));
    return own.length === 2 && own;
  });
  expect(made.find(({ name }) => name === 'wick-walk-forward')?.steps.map(({ kind }) => kind)).toEqual(['loop', 'foot-lock', 'travel']);
  expect(made.find(({ name }) => name !== 'wick-walk-forward')?.steps.map(({ kind }) => kind)).toEqual(['foot-lock', 'travel']);
  await page.locator('::-p-aria([role="button"][name="Clip wick-walk-forward"])').click();
  await page.waitForFunction(() => /→/.test(document.querySelector('[aria-label="Foot lock step"]')?.textContent ?? ''));
  expect(Number.parseFloat((await figure(page, 'finished', 'foot slide')) ?? '9')).toBeLessThan(0.15);
  expect(Number.parseFloat((await figure(page, 'finished', 'pose')) ?? '9')).toBe(0);
  // An edge of a contact, moved by its keys: the contacts are the clip's own from now on, until they are found again.
  const edge = 'g[role=slider][aria-label="End of left contact 1"]';
  const end = Number(await page.$eval(edge, (element) => element.getAttribute('aria-valuenow')));
  await page.$eval(edge, (element) => (element as SVGElement).focus());
  await page.keyboard.press('PageDown');
  await shows(page, 'contacts set by hand');
  const lock = await settles(({ clips }) => clips.find(({ name }) => name === 'wick-walk-forward')?.steps.find((step) => step.contacts));
  expect(lock.contacts?.left[0].to).toBe(end - 5);
  await click(page, 'button', 'find them again');
  await page.waitForFunction(() => !document.body.innerText.includes('contacts set by hand'));
  // The instruments: both end poses, and the take against itself, where a click cuts.
  await click(page, 'button', 'loupe');
  await page.waitForSelector('[aria-label^="End poses over each other; worst "]');
  await click(page, 'button', 'map');
  const canvas = await page.waitForSelector('canvas[aria-label^="The take against itself"]');
  await new Promise((resolve) => setTimeout(resolve, 600));
  const before = made.find(({ name }) => name === 'wick-walk-forward');
  const box = await canvas?.boundingBox();
  if (!box) throw new Error('no map');
  await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.18);
  await settles(({ clips }) => {
    const now = clips.find(({ name }) => name === 'wick-walk-forward');
    return now && (now.from !== before?.from || now.to !== before.to);
  });
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await settles(({ clips }) => clips.some(({ from, to }) => from === before?.from && to === before.to));
  await click(page, 'button', 'Close the recurrence map');
  // Cut in two at the playhead, and back.
  await page.keyboard.press('Home');
  for (let i = 0; i < 2; i++) {
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
  }
  const count = (await saved()).clips.length;
  await page.keyboard.press('x');
  await settles(({ clips }) => clips.length === count + 1);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await settles(({ clips }) => clips.length === count);
  // And out: the file, measured from outside.
  await page.goto(`${application.url}/gullmouth/ship`);
  await click(page, 'button', 'Ship 4 clips');
  await shows(page, /wick\.glb, [\d.]+ MB, is in your downloads/);
  const file = join(downloads, 'wick.glb');
  for (let i = 0; i < 50 && !existsSync(file); i++) await new Promise((resolve) => setTimeout(resolve, 100));
  const measured = JSON.parse(execFileSync('node', ['apps/cli/dist/lantern.mjs', 'measure', file, '--json'], { encoding: 'utf8' })) as {
    clips: { name: string; loop: boolean; tick: number; slideCm: number; seam: { poseCm: number } }[];
  };
  const walk = measured.clips.find(({ name }) => name === 'wick-walk-forward');
  expect(walk).toMatchObject({ loop: true });
  expect(walk?.seam.poseCm).toBeLessThan(0.01);
  expect(walk?.tick).toBeLessThanOrEqual(1.2);
  expect(walk?.slideCm).toBeLessThan(0.3);
  expect(errors).toEqual([]);
  await page.close();
});
