import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { writeBvh, type Motion } from '@lantern/motion';
import type { Page } from 'puppeteer-core';
import { asfAndAmc, oddGlb } from '../packages/motion/tests/odd-files';
import { click, clickIn, openPage, shows } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';
import { until } from './waits';

const tests = session();

const row = (page: Page, name: string) => page.locator(`::-p-xpath(//*[@role="row"][@aria-label="${name}"])`);
const press = async (page: Page, key: 'z' | 'y', shift = false) => {
  await page.keyboard.down('Control');
  if (shift) await page.keyboard.down('Shift');
  await page.keyboard.press(key);
  if (shift) await page.keyboard.up('Shift');
  await page.keyboard.up('Control');
};
const rows = (page: Page) => page.$$eval('[role=row][aria-label]', (found) => found.map((row) => row.getAttribute('aria-label')));
const frameOf = (page: Page) => page.evaluate(() => Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]));

test('a day of files at once: BVH, GLB with two animations, a skeleton and its motion, one of them twice, one broken', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await shows(page, 'wick-rounds');
  const { motion } = capture('walk', { seconds: 1, seed: 21 });
  const short: Motion = {
    ...motion,
    frames: 40,
    rotations: motion.rotations.subarray(0, 40 * 84),
    rootPositions: motion.rootPositions.subarray(0, 120),
  };
  const { asf, amc } = asfAndAmc(short);
  const folder = temporaryFolder();
  const files: [string, string | Uint8Array][] = [
    ['pier_01.amc', amc],
    ['pier.asf', asf],
    ['gulls.glb', await oddGlb(short, { animations: 2, armature: true })],
    ['steps.bvh', writeBvh(motion)],
    ['steps-again.bvh', writeBvh(motion)],
    ['packed.bvh', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 0, 0])],
  ];
  for (const [name, content] of files) writeFileSync(join(folder, name), content);
  await (await page.$('input[type=file]'))?.uploadFile(...files.map(([name]) => join(folder, name)));
  await shows(page, '5 of 6 files came in');
  await shows(page, 'a skeleton, kept for its motions');
  await shows(page, /here already as “steps/);
  await shows(page, 'This is a ZIP archive');
  await shows(page, '2 takes');
  const names = await rows(page);
  for (const name of ['pier_01', 'gulls way 1', 'gulls way 2']) expect(names).toContain(name);
  // Both copies are sent at once: whichever is read first is the take.
  expect(names.filter((name) => name?.startsWith('steps'))).toHaveLength(1);
  await row(page, 'pier_01').click();
  await shows(page, 'AMC files do not say their rate');
  await shows(page, /frame 0 of 40/);
  expect(errors).toEqual([]);
  await page.close();
});

test('a passport line opens on its reason; overruling it changes the take, and undo and redo take it back and forth', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await row(page, 'wick-stroll').click();
  await shows(page, /frame 0 of 1201/);
  await page.locator('::-p-xpath(//section[@aria-label="Passport"]//button[contains(., "Scale")])').click();
  await shows(page, 'The figure is 178.0 units tall: 1.78 m when a unit is a centimetre.');
  await page.locator('::-p-aria([role="textbox"][name="The performer is tall"])').click();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type('1.60');
  await page.keyboard.press('Enter');
  await shows(page, '1.60 m');
  await shows(page, 'set by hand');
  await shows(page, /other takes of this suit are read otherwise/);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await press(page, 'z');
  await shows(page, 'Undone: passport.');
  await shows(page, 'cm, 100 % sure');
  await press(page, 'z', true);
  await shows(page, '1.60 m');
  await press(page, 'z');
  await shows(page, 'cm, 100 % sure');
  // The project has put the floor at zero by itself; where that is taken back it is a warning, which is mended at one click.
  await shows(page, /put at zero, was −?\d+\.\d cm/);
  await page.locator('::-p-xpath(//section[@aria-label="Passport"]//button[contains(., "Floor")])').click();
  await click(page, 'switch', 'Put the feet at height zero');
  await shows(page, 'The floor lies at');
  await click(page, 'button', 'put the feet at zero');
  await page.waitForFunction(() => !document.body.innerText.includes('The floor lies at'));
  expect(errors).toEqual([]);
  await page.close();
});

test('the library: star, tag, search, choose several, remove and bring back by Ctrl-Z', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await row(page, 'pier_01').click();
  await page.waitForFunction(() => document.querySelector('[role=row][aria-label="pier_01"]')?.getAttribute('aria-current') === 'true');
  await page.keyboard.press('*');
  await page.waitForSelector('button[aria-label="Take the star from pier_01"]');
  const search = async (text: string) => {
    await page.click('input[aria-label="Search takes"]', { count: 3 });
    await page.keyboard.press('Backspace');
    if (text) await page.keyboard.type(text);
  };
  await search('* ');
  await page.waitForFunction(() => document.querySelectorAll('[role=row][aria-label]').length === 2);
  await search('#quay');
  await page.waitForFunction(() => document.querySelectorAll('[role=row][aria-label]').length === 3);
  for (const name of ['pier_01', 'wick-kerb']) {
    await search(name);
    await page.waitForFunction(() => document.querySelectorAll('[role=row][aria-label]').length === 1);
    await page.click(`input[aria-label="Choose ${name}"]`);
  }
  await search('');
  await shows(page, '2 chosen');
  await clickIn(page, '[aria-label="Chosen takes"]', 'remove');
  await shows(page, '2 takes are removed');
  await page.waitForFunction(() => !document.querySelector('[role=row][aria-label="pier_01"]'));
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await press(page, 'z');
  await page.waitForSelector('[role=row][aria-label="pier_01"]');
  // Undo survives a reload: the star is still there to be taken back.
  await page.reload();
  await page.waitForSelector('button[aria-label="Take the star from pier_01"]');
  await press(page, 'z');
  await page.waitForSelector('button[aria-label="Star pier_01"]');
  expect(errors).toEqual([]);
  await page.close();
});

test('the deck: a trace of a joint, a marker, a range that plays round; two takes are compared joint by joint', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await row(page, 'wick-jog').click();
  await shows(page, /frame 0 of 841/);
  const deck = await (await page.waitForSelector('[role=slider][aria-label=Time]'))?.boundingBox();
  if (!deck) throw new Error('no deck');
  const at = (share: number) => deck.x + 72 + share * (deck.width - 86);
  await page.mouse.click(at(0.5), deck.y + 80);
  await page.waitForFunction(() => Math.abs(Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]) - 420) < 6);
  await page.keyboard.press('p');
  await page.waitForSelector('button[aria-label^="Marker marker 1, frame 4"]');
  await page.keyboard.down('Shift');
  await page.mouse.move(at(0.2), deck.y + 80);
  await page.mouse.down();
  await page.mouse.move(at(0.25), deck.y + 80, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await shows(page, /playing 2\.\d+–3\.\d+ s round/);
  // The processor draws here: what rests is drawn finer than the screen is, and what moves coarser.
  const drawnFiner = (least: number, most: number) =>
    page.waitForFunction(
      (from: number, to: number) => {
        const canvas = document.querySelector('canvas');
        const finer = canvas ? canvas.width / canvas.clientWidth : NaN;
        return finer > from && finer < to;
      },
      {},
      least,
      most,
    );
  await drawnFiner(1.4, 1.6);
  await page.keyboard.press('Space');
  await drawnFiner(0.3, 0.9);
  // It has come round when a frame is shown that lies before the one shown last.
  let shown = -1;
  await until(async () => {
    const before = shown;
    shown = await frameOf(page);
    return before >= 160 && shown < before;
  }, 'the range from its beginning again');
  await page.keyboard.press('Space');
  const frame = await frameOf(page);
  expect(frame).toBeGreaterThanOrEqual(160);
  expect(frame).toBeLessThanOrEqual(215);
  await page.click('input[aria-label="Choose wick-jog"]');
  await page.click('input[aria-label="Choose wick-stroll"]');
  await clickIn(page, '[aria-label="Chosen takes"]', 'compare');
  await shows(page, 'mean and greatest distance of 21 joints');
  await shows(page, 'distance');
  // Over each other their poses differ; where they were captured they are metres apart.
  const worst = async () => {
    const shownCm = await page.waitForFunction(() => {
      const cm = Number.parseFloat(document.querySelector('[aria-label=Comparison] b')?.textContent ?? '');
      return Number.isFinite(cm) && { cm };
    });
    return ((await shownCm.jsonValue()) as { cm: number }).cm;
  };
  const over = await worst();
  expect(over).toBeLessThan(200);
  await click(page, 'button', 'where captured');
  await page.waitForFunction(
    (cm: number) => Number.parseFloat(document.querySelector('[aria-label=Comparison] b')?.textContent ?? '') > 3 * cm,
    {},
    over,
  );
  expect(errors).toEqual([]);
  await page.close();
});

test('the capture desk: connect, calibrate by the countdown, record, stop, name and keep', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await click(page, 'button', 'capture…');
  await click(page, 'button', 'Connect the suit');
  await shows(page, 'All 18 sensors are heard');
  const press = (name: string) =>
    page.waitForFunction(
      (wanted: string) => {
        const found = [...document.querySelectorAll('button')].find((b) => b.textContent === wanted && !b.disabled);
        found?.click();
        return found !== undefined;
      },
      {},
      name,
    );
  await press('Calibrate');
  await page.waitForSelector('[role=timer]');
  await shows(page, 'heading off by');
  await press('Record');
  await page.waitForSelector('[aria-label=Recording]');
  // A clip wants some frames: the suit says how long it has recorded.
  await page.waitForFunction(() => {
    const [minutes, seconds] = (document.querySelector('[aria-label=Recording]')?.textContent ?? '').split(':').map(Number);
    return minutes * 60 + seconds > 1;
  });
  await press('Stop');
  await shows(page, /Recorded \d+\.\d s\. Keep it\?/);
  await press('Keep');
  await shows(page, '“wick-walk-01” is in the library.');
  // Whether it is one of the shots is said when it is measured; until then what is beside it moves.
  await shows(page, /“wick-walk-01” fulfils/);
  await click(page, 'button', 'Close the capture desk');
  await page.waitForSelector('[role=row][aria-label="wick-walk-01"]');
  expect(errors).toEqual([]);
  await page.close();
});
