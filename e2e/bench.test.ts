import { execFileSync } from 'node:child_process';
import { manifestSchema } from '@lantern/motion';
import type { Page } from 'puppeteer-core';
import { click, figure, focusOn, openPage, shows, withCtrl } from './browser';
import { addStep, makeClip, openClip, projectOf, savedStep, settles, settlesIn, unfold } from './clips';
import { temporaryFolder } from './server';
import { session } from './session';
import { keepsIn, keptFile, shipClips } from './shipping';
import { standsStill, until } from './waits';

const tests = session();
const url = () => tests.application.url;

const LOOP = { kind: 'loop' } as const;
const LOCK = { kind: 'foot-lock' } as const;
const TRAVEL = { kind: 'travel', start: 'origin' } as const;

/** A page with a clip of its own open on the Bench; each test makes and names its clip. */
async function openOn(name: string, steps: Parameters<typeof makeClip>[3], cut: Parameters<typeof makeClip>[2] = {}) {
  const id = await makeClip(url(), name, cut, steps);
  const { page, errors } = await openPage(tests.browser);
  await openClip(page, url(), id);
  return { page, errors, end: () => expect(errors).toEqual([]) };
}

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
      const value = Number.parseFloat(said.replace('−', '-').replace('▲ ', ''));
      return value >= a && value <= b;
    },
    {},
    label,
    least,
    most,
  );

/** Some frames on, ten at a time. */
async function stepOn(page: Page, tens: number): Promise<void> {
  for (let i = 0; i < tens; i++) {
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
  }
}

test('a take is read, and the clips that it offers are made, each with the recipe of what it is', async () => {
  const { page, errors } = await openPage(tests.browser);
  const take = (await projectOf(url())).takes.find(({ name }) => name === 'wick-turns');
  await page.goto(`${url()}/gullmouth/bench?take=${take?.id}`);
  // The band says what is done, in words.
  await page.waitForSelector('[role=button][aria-label^="turns right"]');
  await click(page, 'button', 'See what it offers');
  await shows(page, 'wick-walk-forward');
  await shows(page, /wick-turn-left-90/);
  await page.evaluate(() => {
    for (const row of document.querySelectorAll('[aria-label="Proposed clips"] [role=listitem]'))
      if (!/wick-walk-forward|turn-left/.test(row.textContent ?? '')) row.querySelector<HTMLInputElement>('input')?.click();
  });
  await click(page, 'button', 'Make 2 clips');
  const made = await settles(url(), ({ clips }) => {
    const own = clips.filter(({ name }) => /^wick-(walk-forward|turn-left)/.test(name));
    return own.length === 2 && own;
  });
  const kinds = (isWalk: boolean) => made.find(({ name }) => (name === 'wick-walk-forward') === isWalk)?.steps.map(({ kind }) => kind);
  expect(kinds(true)).toEqual(['loop', 'foot-lock', 'travel']);
  expect(kinds(false)).toEqual(['foot-lock', 'travel']);
  await page.locator('::-p-aria([role="button"][name="Clip wick-walk-forward"])').click();
  await figureIs(page, 'foot slide', 0, 0.15);
  expect(await figure(page, 'finished', 'pose')).toBe('0.00 cm');
  expect(errors).toEqual([]);
  await page.close();
});

test('a contact’s edge is moved by its keys; contacts are set by hand from then on, until they are found again', async () => {
  const { page, end } = await openOn('held', [LOOP, LOCK, TRAVEL]);
  await page.waitForFunction(() => /→/.test(document.querySelector('[aria-label="Foot lock step"]')?.textContent ?? ''));
  const edge = 'g[role=slider][aria-label="End of left contact 1"]';
  await page.waitForSelector(edge);
  const before = Number(await page.$eval(edge, (element) => element.getAttribute('aria-valuenow')));
  await focusOn(page, edge);
  await page.keyboard.press('PageDown');
  const lock = await settlesIn(url(), 'held', (clip) => clip.steps.find((step) => step.contacts));
  expect((lock.contacts as { left: { to: number }[] }).left[0].to).toBe(before - 10);
  await unfold(page, 'Foot lock');
  await click(page, 'button', 'find them again');
  await page.waitForFunction(() => !document.body.innerText.includes('contacts set by hand'));
  end();
  await page.close();
});

test('the playhead of a cycle that begins in mid-stance stands where the motion is: what is split there is split there', async () => {
  const { page, end } = await openOn('midway', [{ ...LOOP, start: 'left-stance' }, LOCK, TRAVEL]);
  await page.keyboard.press('Home');
  const { source } = await settlesIn(url(), 'midway', (clip) => clip);
  const first = await page.evaluate(() => Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]));
  expect(first).toBe(0);
  await page.keyboard.press('x');
  const second = await settles(url(), ({ clips }) => clips.find(({ name }) => name === 'midway-01'));
  // The middle of the left stance lies well inside of the cut, not at its beginning.
  expect(second.source.from).toBeGreaterThan(source.from + 5);
  expect(second.source.from).toBeLessThan(source.to - 5);
  end();
  await page.close();
});

test('the instruments: the loupe says what the figures say of the worst joint, and a click into the map cuts', async () => {
  const { page, end } = await openOn('glassed', [LOOP]);
  await click(page, 'button', 'loupe');
  const loupe = await page.waitForSelector('[aria-label^="End poses over each other; worst "]');
  const said = await loupe?.evaluate((element) => /worst (\S+), ([\d.]+) cm/.exec(element.getAttribute('aria-label') ?? '')?.slice(1));
  await shows(page, `worst joint ${said?.[0]}, ${said?.[1]} cm`);
  await click(page, 'button', 'map');
  const canvas = await page.waitForSelector('canvas[aria-label^="The take against itself"]');
  await standsStill(page, 'canvas[aria-label^="The take against itself"]');
  const { source: before } = await settlesIn(url(), 'glassed', (clip) => clip);
  const box = await canvas?.boundingBox();
  if (!box) throw new Error('no map');
  await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.18);
  await settlesIn(url(), 'glassed', ({ source }) => source.from !== before.from || source.to !== before.to);
  await withCtrl(page, 'z');
  await settlesIn(url(), 'glassed', ({ source }) => source.from === before.from && source.to === before.to);
  await click(page, 'button', 'Close the recurrence map');
  end();
  await page.close();
});

test('a raw cut is cleaned, its hips calmed, its arms late: each card says what it did, and the recipe is saved in the order of work', async () => {
  const { page, end } = await openOn('raw', [LOCK, TRAVEL]);
  const card = (title: string, says: RegExp) =>
    page.waitForFunction(
      (name, source) => new RegExp(source).test(document.querySelector(`[aria-label="${name} step"]`)?.textContent ?? ''),
      {},
      title,
      says.source,
    );
  await addStep(page, 'Clean');
  await card('Clean', /jitter\s\d\.\d\d → 0\.\d\d mm/);
  await card('Clean', /none found/);
  await addStep(page, 'Hips');
  await card('Hips', /sway\s\d\.\d → \d\.\d cm/);
  await addStep(page, 'Follow later');
  await card('Follow later', /lag\s0\.0 → [34]\.\d frames/);
  await click(page, 'switch', 'hands');
  const saved = await settlesIn(url(), 'raw', ({ steps }) => steps.find(({ kind }) => kind === 'hips')?.hands === true && steps);
  expect(saved.map(({ kind }) => kind)).toEqual(['clean', 'hips', 'delay', 'foot-lock', 'travel']);
  end();
  await page.close();
});

test('a clip is cut in two at the playhead, and made whole by undo', async () => {
  const { page, end } = await openOn('halved', [LOCK]);
  await page.keyboard.press('Home');
  await stepOn(page, 2);
  const { source } = await settlesIn(url(), 'halved', (clip) => clip);
  await page.keyboard.press('x');
  const second = await settles(url(), ({ clips }) => clips.find(({ name }) => name === 'halved-01'));
  expect(second.source).toMatchObject({ from: source.from + 20, to: source.to });
  await withCtrl(page, 'z');
  await settles(url(), ({ clips }) => !clips.some(({ name }) => name === 'halved-01'));
  await settlesIn(url(), 'halved', (clip) => clip.source.to === source.to);
  end();
  await page.close();
});

test('gait and direction are taken as measured, and another way of closing is chosen by its figures', async () => {
  const { page, end } = await openOn('closed', [LOOP, LOCK, TRAVEL]);
  await click(page, 'button', 'Take gait and direction as measured');
  expect(await settlesIn(url(), 'closed', ({ gait }) => gait !== '' && gait)).toBe('walk');
  await unfold(page, 'Loop');
  await page.locator('[role=radio][aria-label^="Close around the seam: tick"]').click();
  await settlesIn(url(), 'closed', (clip) => savedStep(clip, 'loop')?.close === 'around');
  end();
  await page.close();
});

test('steps are added from the menu, open with what is good for the clip, and the figures follow: an arc of 3 m at 1.5 m/s', async () => {
  const { page, end } = await openOn('bent', [LOOP, LOCK, TRAVEL]);
  await addStep(page, 'Path');
  await settlesIn(url(), 'bent', (clip) => savedStep(clip, 'path')?.radius === 3);
  // The turn rate is the speed over the radius.
  await figureIs(page, 'turn', 23, 25);
  await addStep(page, 'Speed');
  expect(await settlesIn(url(), 'bent', (clip) => savedStep(clip, 'speed')?.mps as number)).toBeCloseTo(1.25, 1);
  await typeNumber(page, 'Speed asked for', '0.5*3');
  await settlesIn(url(), 'bent', (clip) => savedStep(clip, 'speed')?.mps === 1.5);
  await figureIs(page, 'speed', 1.49, 1.51);
  await figureIs(page, 'turn', 27.5, 29.8);
  await figureIs(page, 'foot slide', 0, 0.15);
  await shows(page, /strides \+\d+ %, cadence \+\d+ %/);
  end();
  await page.close();
});

test('a kind of step stands twice: each is switched by its own card', async () => {
  const { page, end } = await openOn('twice', [LOOP, { kind: 'retime', factor: 2 }, TRAVEL]);
  await addStep(page, 'Retime');
  const ids = await settlesIn(url(), 'twice', (clip) => clip.steps.length === 4 && clip.steps.map(({ id }) => id));
  expect(ids).toEqual(['loop', 'retime', 'travel', 'retime-2']);
  const switches = await page.$$('section[aria-label="Retime step"] input[aria-label="Retime step on"]');
  expect(switches).toHaveLength(2);
  await switches[1].click();
  await settlesIn(url(), 'twice', (clip) => clip.steps[3].off === true && clip.steps[1].off === undefined);
  end();
  await page.close();
});

test('a pose is held at the playhead, its end moved on the threads by a key, and taken back', async () => {
  const { page, end } = await openOn('timed', [LOOP, LOCK, TRAVEL, { kind: 'retime' }]);
  await page.waitForSelector('g[aria-label="Threads"]');
  await page.keyboard.press('Home');
  await stepOn(page, 2);
  await unfold(page, 'Retime');
  await click(page, 'button', 'Hold the pose at the playhead');
  const pinsOf = (count: number) =>
    settlesIn(url(), 'timed', (clip) => {
      const all = savedStep(clip, 'retime')?.pins as { from: number; to: number }[] | undefined;
      return all?.length === count && all;
    });
  const pins = await pinsOf(2);
  expect(pins[0].from).toBe(pins[1].from);
  expect(pins[1].to - pins[0].to).toBe(15);
  const thread = 'g[role=slider][aria-label="Time pin 2, frame of the result"]';
  await page.waitForSelector(thread);
  await focusOn(page, thread);
  await page.keyboard.press('ArrowRight');
  const secondIs = (to: number) => settlesIn(url(), 'timed', (clip) => (savedStep(clip, 'retime')?.pins as { to: number }[])[1].to === to);
  await secondIs(pins[1].to + 1);
  await withCtrl(page, 'z');
  await secondIs(pins[1].to);
  await figureIs(page, 'pose', 0, 0.001);
  await figureIs(page, 'tick', 0, 1.2);
  end();
  await page.close();
});

test('in place and back with one key, the other side with another: it bends the other way', async () => {
  const { page, end } = await openOn('sided', [LOOP, { kind: 'path', shape: 'arc' }, LOCK, TRAVEL]);
  await page.keyboard.press('p');
  await page.waitForFunction(() => document.querySelector('[aria-label="Preview"] [aria-pressed="true"]')?.textContent === 'in place');
  await page.keyboard.press('p');
  await page.keyboard.press('y');
  await settlesIn(url(), 'sided-mirrored', (clip) => savedStep(clip, 'mirror') !== undefined && savedStep(clip, 'path')?.radius === -3);
  await figureIs(page, 'turn', -25, -23);
  await shows(page, 'all joints paired');
  end();
  await page.close();
});

test('every act of the open clip is found by name: a step is added and switched off', async () => {
  const { page, end } = await openOn('found', [LOOP, LOCK]);
  const find = async (words: string) => {
    await withCtrl(page, 'k');
    await page.locator('input[placeholder^="Find a command"]').fill(words);
    await page.keyboard.press('Enter');
  };
  await find('add a step: travel');
  await settlesIn(url(), 'found', (clip) => savedStep(clip, 'travel'));
  await find('switch foot lock off');
  await settlesIn(url(), 'found', (clip) => savedStep(clip, 'foot-lock')?.off === true);
  end();
  await page.close();
});

test('a path is drawn on the floor with clicks, taken back a point at a time, and undone', async () => {
  const { page, end } = await openOn('drawn', [LOOP, { kind: 'extend' }, { kind: 'path', shape: 'arc' }, LOCK, TRAVEL]);
  await unfold(page, 'Path');
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
  const count = (points: number) => settlesIn(url(), 'drawn', (clip) => (savedStep(clip, 'path')?.points as unknown[])?.length === points);
  await page.mouse.click(stage.x + stage.width * 0.45, stage.y + stage.height * 0.62);
  await count(1);
  await page.mouse.click(stage.x + stage.width * 0.6, stage.y + stage.height * 0.7);
  await count(2);
  await click(page, 'button', 'take back');
  await count(1);
  await withCtrl(page, 'z');
  await count(2);
  await figureIs(page, 'foot slide', 0, 0.15);
  expect(await figure(page, 'finished', 'tick')).toBe('–');
  end();
  await page.close();
});

test('nothing scrolls sideways, and nothing covers play, at three sizes of window', async () => {
  const { page, end } = await openOn('sized', [LOOP, LOCK, TRAVEL, { kind: 'retime' }]);
  for (const [width, height] of [
    [1024, 700],
    [1280, 800],
    [1920, 1080],
  ]) {
    await page.setViewport({ width, height });
    await standsStill(page, 'section[aria-label="Clip"]');
    const wrong = await page.evaluate(() => {
      const sideways = [...document.querySelectorAll('*')].filter(
        (e) => e.scrollWidth > e.clientWidth + 1 && ['auto', 'scroll'].includes(getComputedStyle(e).overflowX),
      );
      const play = document.querySelector('button[aria-label="Play"], button[aria-label="Pause"]');
      const { x, y, width: w, height: h } = play?.getBoundingClientRect() ?? new DOMRect();
      const over = document.elementFromPoint(x + w / 2, y + h / 2);
      return [...sideways.map((e) => e.getAttribute('aria-label') ?? e.className), ...(play?.contains(over) ? [] : ['play is covered'])];
    });
    expect({ width, wrong }).toEqual({ width, wrong: [] });
  }
  end();
  await page.close();
});

test('what is bent, quickened, held and mirrored ships, measures so from outside, and has the instants that were marked as events', async () => {
  const steps = [
    LOOP,
    { kind: 'speed', mps: 1.5 },
    { kind: 'path', shape: 'arc', radius: 3 },
    LOCK,
    TRAVEL,
    { kind: 'retime', pins: [20, 20].map((from, i) => ({ from, to: from + 15 * i })) },
  ] as const;
  const id = await makeClip(url(), 'out-left', {}, steps);
  await makeClip(url(), 'out-right', {}, [{ kind: 'mirror' }, ...steps.map((s) => (s.kind === 'path' ? { ...s, radius: -3 } : s))]);
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await openClip(page, url(), id);
  await page.keyboard.press('Home');
  await stepOn(page, 2);
  await page.keyboard.press('l');
  await page.locator('[aria-label^="Marker marker 1"]').click();
  await page.locator('.MuiPopover-paper input').fill('lamp');
  await page.keyboard.press('Enter');
  await page.waitForSelector('[aria-label^="Marker lamp"]');
  const marks = async () => (await projectOf(url())).takes.flatMap(({ markers }) => markers.map(({ name }) => name));
  await withCtrl(page, 'z');
  await until(async () => (await marks()).includes('marker 1'), 'the name before');
  await withCtrl(page, 'z', true);
  await until(async () => (await marks()).includes('lamp'), 'its name again');
  await page.goto(`${url()}/gullmouth/ship`);
  const files = await shipClips(page, downloads, ['out-left', 'out-right']);
  const manifest = manifestSchema.parse(JSON.parse(Buffer.from(files['wick.lantern.json']).toString()));
  for (const { events } of manifest.clips) {
    const mark = events.find((own) => own.kind === 'mark');
    expect(mark).toMatchObject({ name: 'lamp' });
    expect(Math.abs((mark?.at ?? 0) - 20 / 60)).toBeLessThan(1.5 / 60);
  }
  const file = keptFile(files, 'wick.glb', downloads);
  const { clips } = JSON.parse(execFileSync('node', ['apps/cli/dist/lantern.mjs', 'measure', file, '--json'], { encoding: 'utf8' })) as {
    clips: { name: string; seconds: number; tick: number; slideCm: number; speedMps: number; turnDegS: number; seam: { poseCm: number } }[];
  };
  const [left, right] = ['out-left', 'out-right'].map((name) => clips.find((clip) => clip.name === name));
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
