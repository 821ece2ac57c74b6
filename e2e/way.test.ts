import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, Page } from 'puppeteer-core';
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

interface Saved {
  readonly name: string;
  readonly gait: string;
  readonly steps: readonly ({ readonly kind: string } & Readonly<Record<string, unknown>>)[];
}

/** Waits until what the server has of a clip answers to a question. */
async function settles<T>(name: string, ask: (clip: Saved) => T | undefined | false): Promise<T> {
  for (let i = 0; i < 100; i++) {
    const data = (await (await fetch(`${application.url}/api/projects/gullmouth`)).json()) as { clips: Saved[] };
    const clip = data.clips.find((c) => c.name === name);
    const answer = clip && ask(clip);
    if (answer !== undefined && answer !== false) return answer;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`the server never had that of ${name}`);
}

const stepOf = (clip: Saved, kind: string) => clip.steps.find((step) => step.kind === kind);

/** Types a number into a card. */
async function typeNumber(page: Page, name: string, value: string): Promise<void> {
  const field = await page.waitForSelector(`input[aria-label="${name}"]`);
  await field?.evaluate((element) => element.scrollIntoView());
  await field?.click({ count: 3 });
  await page.keyboard.type(value);
  await page.keyboard.press('Enter');
}

/** Waits until a finished figure is what a question asks. */
const figureIs = (page: Page, label: string, least: number, most: number) =>
  page.waitForFunction(
    (l: string, a: number, b: number) => {
      const rows = [...document.querySelectorAll('[data-figures="finished"] > div')];
      const said = rows.find((row) => row.firstElementChild?.textContent === l)?.lastElementChild?.textContent ?? '';
      const value = Number.parseFloat(said.replace('−', '-'));
      return value >= a && value <= b;
    },
    {},
    label,
    least,
    most,
  );

test('a stroll is bent to an arc of 3 m, brought to 1.5 m/s, held for a moment, mirrored, shipped, and measures so from outside', async () => {
  const { page, errors } = await openPage(browser);
  const downloads = temporaryFolder();
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  await page.goto(`${application.url}/gullmouth/bench`);
  await figureIs(page, 'tick', 0.01, 1.2);

  // What it is, as measured; another way of closing, chosen by its figures.
  await click(page, 'button', 'Take gait and direction as measured');
  expect(await settles('stroll-forward', ({ gait }) => gait !== '' && gait)).toBe('walk');
  await page.locator('[role=radio][aria-label^="Close around the seam: tick"]').click();
  await settles('stroll-forward', (clip) => stepOf(clip, 'loop')?.close === 'around');

  // Bent: the turn rate is the speed over the radius.
  await click(page, 'button', 'path');
  await settles('stroll-forward', (clip) => stepOf(clip, 'path')?.radius === 3);
  await figureIs(page, 'turn', 23, 25);
  await click(page, 'button', 'speed');
  await typeNumber(page, 'Speed asked for', '1.5');
  await figureIs(page, 'speed', 1.49, 1.51);
  await figureIs(page, 'turn', 27.5, 29.8);
  await figureIs(page, 'foot slide', 0, 0.15);
  await shows(page, /strides \+\d+ %, cadence \+\d+ %/);

  // Time: a pose held at the playhead, its end moved on the threads, and taken back.
  await click(page, 'button', 'retime');
  await page.waitForSelector('g[aria-label="Threads"]');
  await page.keyboard.press('Home');
  for (let i = 0; i < 2; i++) {
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
  }
  await click(page, 'button', 'Hold the pose at the playhead');
  const pins = await settles('stroll-forward', (clip) => {
    const all = stepOf(clip, 'retime')?.pins as { from: number; to: number }[] | undefined;
    return all?.length === 2 && all;
  });
  expect(pins[0].from).toBe(pins[1].from);
  expect(pins[1].to - pins[0].to).toBe(15);
  await page.locator('g[role=slider][aria-label="Time pin 2, frame of the result"]').wait();
  await page.$eval('g[role=slider][aria-label="Time pin 2, frame of the result"]', (element) => (element as SVGElement).focus());
  await page.keyboard.press('ArrowRight');
  const second = async (to: number) => settles('stroll-forward', (clip) => (stepOf(clip, 'retime')?.pins as { to: number }[])[1].to === to);
  await second(pins[1].to + 1);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await second(pins[1].to);
  await figureIs(page, 'pose', 0, 0.001);
  await figureIs(page, 'tick', 0, 1.2);

  // In place and back with one key; the other side with another.
  await page.keyboard.press('p');
  await page.waitForFunction(() => document.querySelector('[aria-label="Preview"] [aria-pressed="true"]')?.textContent === 'in place');
  await page.keyboard.press('p');
  await page.keyboard.press('y');
  await settles('stroll-forward-mirrored', (clip) => stepOf(clip, 'mirror') !== undefined && stepOf(clip, 'path')?.radius === -3);
  // Turned less fast on the whole, for the moment that is held.
  await figureIs(page, 'turn', -25, -20);
  await shows(page, 'all joints paired');
  await shows(page, 'all saved');

  await page.goto(`${application.url}/gullmouth/ship`);
  await click(page, 'button', 'Ship 3 clips');
  await shows(page, /wick\.glb, [\d.]+ MB, is in your downloads/);
  const file = join(downloads, 'wick.glb');
  for (let i = 0; i < 50 && !existsSync(file); i++) await new Promise((resolve) => setTimeout(resolve, 100));
  const { clips } = JSON.parse(execFileSync('node', ['apps/cli/dist/lantern.mjs', 'measure', file, '--json'], { encoding: 'utf8' })) as {
    clips: { name: string; seconds: number; tick: number; slideCm: number; speedMps: number; turnDegS: number; seam: { poseCm: number } }[];
  };
  const [left, right] = ['stroll-forward', 'stroll-forward-mirrored'].map((name) => clips.find((clip) => clip.name === name));
  if (!left || !right) throw new Error('a clip did not ship');
  expect(right.seconds).toBeCloseTo(left.seconds, 5);
  for (const [clip, sign] of [
    [left, 1],
    [right, -1],
  ] as const) {
    // The held quarter second is part of the cycle: as much less speed, as much less turn.
    const moving = (clip.seconds - 0.25) / clip.seconds;
    expect(clip.speedMps).toBeCloseTo(1.5 * moving, 1);
    expect((clip.turnDegS * Math.PI) / 180).toBeCloseTo((sign * 1.5 * moving) / 3, 1);
    expect(clip.seam.poseCm).toBeLessThan(0.01);
    expect(clip.tick).toBeLessThanOrEqual(1.2);
    expect(clip.slideCm).toBeLessThan(0.3);
  }
  expect(errors).toEqual([]);
  await page.close();
});

test('a path is drawn on the floor with clicks, taken back a point at a time, and undone', async () => {
  const { page, errors } = await openPage(browser);
  await page.goto(`${application.url}/gullmouth/bench`);
  await page
    .locator('::-p-aria([role="button"][name="Clip jog-forward"])')
    .wait()
    .catch(() => undefined);
  await figureIs(page, 'speed', 0.5, 5);
  await click(page, 'button', 'duplicate');
  const name = 'stroll-forward-01';
  await settles(name, () => true);
  await click(page, 'button', 'Remove the retime step');
  await click(page, 'button', 'Remove the speed step');
  await click(page, 'button', 'walk on');
  await settles(name, (clip) => stepOf(clip, 'extend') && !stepOf(clip, 'retime') && !stepOf(clip, 'speed'));
  await page.$eval('section[aria-label="Path step"]', (element) => element.scrollIntoView());
  await page.locator('section[aria-label="Path step"] [role=combobox]').click();
  await page.locator('::-p-text(along a drawn path)').click();
  await shows(page, 'done drawing');
  await page.waitForFunction(() => [...document.querySelectorAll('canvas')].some((canvas) => canvas.style.cursor === 'crosshair'));
  const stage = await page.$eval('[aria-label="Stage"] canvas, canvas', (element) => {
    const { x, y, width, height } = element.getBoundingClientRect();
    return { x, y, width, height };
  });
  for (const [u, v, count] of [
    [0.45, 0.62, 1],
    [0.6, 0.7, 2],
  ] as const) {
    await page.mouse.click(stage.x + stage.width * u, stage.y + stage.height * v);
    await settles(name, (clip) => (stepOf(clip, 'path')?.points as unknown[])?.length === count);
  }
  await click(page, 'button', 'take back');
  await settles(name, (clip) => (stepOf(clip, 'path')?.points as unknown[]).length === 1);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await settles(name, (clip) => (stepOf(clip, 'path')?.points as unknown[]).length === 2);
  await figureIs(page, 'foot slide', 0, 0.15);
  expect(await figure(page, 'finished', 'tick')).toBe('–');
  expect(errors).toEqual([]);
  await page.close();
});
