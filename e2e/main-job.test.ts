import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { readGlb, clipFigures } from '@lantern/motion';
import type { ElementHandle, Page } from 'puppeteer-core';
import { validateBytes } from 'gltf-validator';
import { click, figure, openPage, retype, shows } from './browser';
import { foreignWalk } from './foreign';
import { temporaryFolder } from './server';
import { session } from './session';
import { keepsIn, keptFile, shipClips } from './shipping';
import { until } from './waits';

const tests = session({ empty: true });

/** Drops files on the window as a person does. */
const drop = (page: Page, files: readonly { name: string; text: string }[]) =>
  page.evaluate((list: readonly { name: string; text: string }[]) => {
    const data = new DataTransfer();
    for (const { name, text } of list) data.items.add(new File([text], name));
    const target = document.querySelector('main') ?? document.body;
    for (const type of ['dragenter', 'dragover', 'drop'])
      target.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }));
  }, files);

const centre = async (handle: ElementHandle | null) => {
  const box = await handle?.boundingBox();
  if (!box) throw new Error('not on the screen');
  return { x: box.x + box.width / 2, y: box.y + 10 };
};
const frameShown = (page: Page) => page.evaluate(() => Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]));
const valueOf = (page: Page, name: string) =>
  page.$eval(`[role="slider"][aria-label="${name}"]`, (post) => Number(post.getAttribute('aria-valuenow')));

test('from a foreign file to a GLB that an engine plays: drop, look, take the loop, change it, ship it', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await page.goto(tests.application.url);
  await shows(page, 'No takes yet');

  // Two files at once, one of them bad: a sentence for it, the other unharmed.
  const good = foreignWalk();
  await drop(page, [
    { name: 'broken.bvh', text: good.slice(0, 60_000) },
    { name: 'wandeling.bvh', text: good },
  ]);
  await shows(page, /line \d+: The last row has \d+ of 66 numbers/);
  await shows(page, '1 of 2 files came in');
  await page.waitForFunction(() => /\/takes\/[0-9a-f-]{36}$/.test(location.pathname));
  await shows(page, '1.78 m');
  await shows(page, '1 unit = 2.54 cm');
  await shows(page, '100 frames/s');
  await shows(page, 'The file has Z up');
  await click(page, 'button', 'Close');

  // It plays, and stops.
  await shows(page, /frame \d+ of 801/);
  await page.keyboard.press('Space');
  await page.waitForFunction(() => Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]) > 20);
  await page.keyboard.press('Space');
  const stopped = await frameShown(page);
  await page.keyboard.press('ArrowRight');
  await page.waitForFunction((frame: number) => document.body.innerText.includes(`frame ${frame} of`), {}, stopped + 1);

  // The best loop, in one click.
  await click(page, 'button', 'Cut a clip on the Bench');
  await click(page, 'button', 'Take the best loop');
  await page.waitForFunction(() => /\/bench\/[0-9a-f-]{36}$/.test(location.pathname));
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-figures="finished"] > div')].some((row) =>
      /^tick0\.\d\d|^tick1\.[01]\d/.test(row.textContent ?? ''),
    ),
  );
  expect(await figure(page, 'finished', 'pose')).toBe('0.00 cm');
  expect(await figure(page, 'finished', 'speed')).toMatch(/^1\.(29|3\d) m\/s$/);

  // Drag the out post: the seam follows; undo puts it back.
  const before = await valueOf(page, 'Out post');
  const captured = await figure(page, 'captured', 'pose');
  const post = await centre(await page.$('[role="slider"][aria-label="Out post"]'));
  await page.keyboard.down('Alt');
  await page.mouse.move(post.x, post.y);
  await page.mouse.down();
  await page.mouse.move(post.x + 20, post.y);
  await page.mouse.move(post.x + 40, post.y, { steps: 4 });
  await page.waitForFunction(
    (was: string | null) =>
      [...document.querySelectorAll('[data-figures="captured"] > div')].some(
        (row) => row.firstElementChild?.textContent === 'pose' && row.lastElementChild?.textContent !== was,
      ),
    {},
    captured,
  );
  await page.mouse.up();
  await page.keyboard.up('Alt');
  expect(await valueOf(page, 'Out post')).toBeGreaterThan(before + 3);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await page.waitForFunction(
    (frame: number) => Number(document.querySelector('[role="slider"][aria-label="Out post"]')?.getAttribute('aria-valuenow')) === frame,
    {},
    before,
  );
  await page.waitForFunction(
    (was: string | null) =>
      [...document.querySelectorAll('[data-figures="captured"] > div')].some(
        (row) => row.firstElementChild?.textContent === 'pose' && row.lastElementChild?.textContent === was,
      ),
    {},
    captured,
  );

  // The loop step off: the gap is as captured; on again: closed.
  await page.locator('input[aria-label="Loop step on"]').click();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-figures="finished"] > div')].some((row) => row.textContent === 'tick–'),
  );
  await page.locator('input[aria-label="Loop step on"]').click();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-figures="finished"] > div')].some((row) => row.textContent === 'pose0.00 cm'),
  );

  // A name; all saved; a reload lands on the same clip, and undo is still there.
  await retype(page, 'Clip name', 'drentel');
  await shows(page, 'all saved');
  await page.waitForFunction(() => document.querySelector('header')?.textContent?.includes('drentel'));
  await until(async () => {
    const data = (await (await fetch(`${tests.application.url}/api/projects/gullmouth`)).json()) as { clips: { name: string }[] };
    return data.clips.some(({ name }) => name === 'drentel');
  }, 'the new name on the server');
  await shows(page, 'all saved');
  await page.reload();
  await page.waitForFunction(() => document.querySelector('header')?.textContent?.includes('drentel'));
  await page.waitForSelector('[role="slider"][aria-label="Out post"]');
  expect(await valueOf(page, 'Out post')).toBe(before);
  expect(
    await page.$eval(
      'header',
      (header) => [...header.querySelectorAll('button')].find((b) => b.getAttribute('aria-label') === 'Undo')?.disabled,
    ),
  ).toBe(false);

  // Ship it, and load it elsewhere.
  await click(page, 'link', 'Ship 1');
  const files = await shipClips(page, downloads, ['drentel']);
  expect(Object.keys(files)).toEqual(['wick.glb', 'report.json']);
  const file = keptFile(files, 'wick.glb', downloads);
  const loaded = JSON.parse(execFileSync('node', ['e2e/loaders/with-three.mjs', file], { maxBuffer: 1e8, encoding: 'utf8' }));
  expect(loaded).toMatchObject({ bones: 22, clips: [{ name: 'drentel' }] });
  const { poses } = loaded.clips[0];
  expect(poses[0].root).toEqual([0, 0, 0]);
  expect(poses[19].root[2] / (loaded.clips[0].duration * (19 / 19.5))).toBeCloseTo(1.3, 1);
  expect(Math.abs(poses[19].root[0])).toBeLessThan(0.001);
  const report = await validateBytes(new Uint8Array(readFileSync(file)));
  expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0]);
  const [{ clip }] = await readGlb(new Uint8Array(readFileSync(file)));
  expect(clipFigures(clip)?.tick).toBeLessThanOrEqual(1.2);
  expect(clip.motion.fps).toBe(60);
  expect(errors).toEqual([]);
});
