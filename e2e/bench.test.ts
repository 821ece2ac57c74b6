import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { click, figure, openPage, shows } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';
import { fileArrives, standsStill, until } from './waits';

const tests = session();

const saved = async () => {
  const data = (await (await fetch(`${tests.application.url}/api/projects/gullmouth`)).json()) as {
    takes: { id: string; name: string }[];
    clips: { name: string; from: number; to: number; steps: { kind: string; contacts?: { left: { from: number; to: number }[] } }[] }[];
  };
  return data;
};

/** Waits until what the server has of the clips answers to a question. */
const settles = <T>(ask: (data: Awaited<ReturnType<typeof saved>>) => T | undefined | false): Promise<T> =>
  until(async () => ask(await saved()), 'what the server was to have');

test('a take is read, its clips are proposed and made, feet are held by contacts set by hand, and all of it ships', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  const take = (await saved()).takes.find(({ name }) => name === 'wick-turns');
  await page.goto(`${tests.application.url}/gullmouth/bench?take=${take?.id}`);
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
  await standsStill(page, 'canvas[aria-label^="The take against itself"]');
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
  await page.goto(`${tests.application.url}/gullmouth/ship`);
  await click(page, 'button', 'Ship 4 clips');
  await shows(page, /wick\.glb, [\d.]+ MB, is in your downloads/);
  const file = join(downloads, 'wick.glb');
  await fileArrives(file);
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

interface Saved {
  readonly name: string;
  readonly gait: string;
  readonly steps: readonly ({ readonly kind: string } & Readonly<Record<string, unknown>>)[];
}

/** Waits until what the server has of a clip answers to a question. */
const settlesIn = <T>(name: string, ask: (clip: Saved) => T | undefined | false): Promise<T> =>
  until(async () => {
    const data = (await (await fetch(`${tests.application.url}/api/projects/gullmouth`)).json()) as { clips: Saved[] };
    const clip = data.clips.find((c) => c.name === name);
    return clip && ask(clip);
  }, `what the server was to have of ${name}`);

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
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  await page.goto(`${tests.application.url}/gullmouth/bench`);
  await figureIs(page, 'tick', 0.01, 1.2);

  // What it is, as measured; another way of closing, chosen by its figures.
  await click(page, 'button', 'Take gait and direction as measured');
  expect(await settlesIn('stroll-forward', ({ gait }) => gait !== '' && gait)).toBe('walk');
  await page.locator('[role=radio][aria-label^="Close around the seam: tick"]').click();
  await settlesIn('stroll-forward', (clip) => stepOf(clip, 'loop')?.close === 'around');

  // Bent: the turn rate is the speed over the radius.
  await click(page, 'button', 'path');
  await settlesIn('stroll-forward', (clip) => stepOf(clip, 'path')?.radius === 3);
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
  const pins = await settlesIn('stroll-forward', (clip) => {
    const all = stepOf(clip, 'retime')?.pins as { from: number; to: number }[] | undefined;
    return all?.length === 2 && all;
  });
  expect(pins[0].from).toBe(pins[1].from);
  expect(pins[1].to - pins[0].to).toBe(15);
  await page.locator('g[role=slider][aria-label="Time pin 2, frame of the result"]').wait();
  await page.$eval('g[role=slider][aria-label="Time pin 2, frame of the result"]', (element) => (element as SVGElement).focus());
  await page.keyboard.press('ArrowRight');
  const second = async (to: number) =>
    settlesIn('stroll-forward', (clip) => (stepOf(clip, 'retime')?.pins as { to: number }[])[1].to === to);
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
  await settlesIn('stroll-forward-mirrored', (clip) => stepOf(clip, 'mirror') !== undefined && stepOf(clip, 'path')?.radius === -3);
  // Turned less fast on the whole, for the moment that is held.
  await figureIs(page, 'turn', -25, -20);
  await shows(page, 'all joints paired');
  await shows(page, 'all saved');

  await page.goto(`${tests.application.url}/gullmouth/ship`);
  await click(page, 'button', 'Ship 5 clips');
  await shows(page, /wick\.glb, [\d.]+ MB, is in your downloads/);
  const file = join(downloads, 'wick.glb');
  await fileArrives(file);
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
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/bench`);
  await page
    .locator('::-p-aria([role="button"][name="Clip jog-forward"])')
    .wait()
    .catch(() => undefined);
  await figureIs(page, 'speed', 0.5, 5);
  await click(page, 'button', 'duplicate');
  const name = 'stroll-forward-01';
  await settlesIn(name, () => true);
  await click(page, 'button', 'Remove the retime step');
  await click(page, 'button', 'Remove the speed step');
  await click(page, 'button', 'walk on');
  await settlesIn(name, (clip) => stepOf(clip, 'extend') && !stepOf(clip, 'retime') && !stepOf(clip, 'speed'));
  await page.$eval('section[aria-label="Path step"]', (element) => element.scrollIntoView());
  await page.locator('section[aria-label="Path step"] [role=combobox]').click();
  await page.locator('::-p-text(along a drawn path)').click();
  await shows(page, 'done drawing');
  // The list has gone: a click would only close it.
  await page.waitForFunction(() => !document.querySelector('[role=listbox], .MuiBackdrop-root'));
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
    await settlesIn(name, (clip) => (stepOf(clip, 'path')?.points as unknown[])?.length === count);
  }
  await click(page, 'button', 'take back');
  await settlesIn(name, (clip) => (stepOf(clip, 'path')?.points as unknown[]).length === 1);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await settlesIn(name, (clip) => (stepOf(clip, 'path')?.points as unknown[]).length === 2);
  await figureIs(page, 'foot slide', 0, 0.15);
  expect(await figure(page, 'finished', 'tick')).toBe('–');
  expect(errors).toEqual([]);
  await page.close();
});
