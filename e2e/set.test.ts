import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { click, focusOn, openPage, shows, withCtrl } from './browser';
import { projectOf, savedStep, settlesIn } from './clips';
import { temporaryFolder } from './server';
import { session } from './session';
import { fileArrives, until } from './waits';

const tests = session();
const url = () => tests.application.url;

interface SavedSet {
  readonly id: string;
  readonly shots: readonly {
    readonly text: string;
    readonly slot?: string;
    readonly done: boolean;
    readonly by?: { readonly take: string };
  }[];
  readonly contract: { readonly speedMps: Readonly<Record<string, Readonly<Record<string, number>>>> };
  readonly fields: readonly { readonly name: string; readonly holdFeet: boolean }[];
}

/** Waits until what the server has of the demo's set answers to a question. */
const settlesInSet = <T>(ask: (set: SavedSet) => T | undefined | false): Promise<T> =>
  until(async () => {
    const { sets } = (await projectOf(url())) as unknown as { sets: readonly SavedSet[] };
    return sets[0] && ask(sets[0]);
  }, 'what the server was to have of the set');

const middleOf = async (page: Page, selector: string): Promise<{ x: number; y: number }> => {
  const box = await (await page.waitForSelector(selector))?.boundingBox();
  if (!box) throw new Error(`${selector} is not on the screen`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 8 });
  await page.mouse.up();
}

test('what is missing is mirrored with one undo, a lamp is dragged to the game’s speed, ends are brought home, a shot is written anew', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${url()}/gullmouth/set`);
  await shows(page, '13 of 31 there');
  await click(page, 'button', 'Mirror the 2');
  await shows(page, '15 of 31 there');
  await settlesIn(url(), 'turn-left-90', (clip) => savedStep(clip, 'mirror') !== undefined);
  await withCtrl(page, 'z');
  await shows(page, '13 of 31 there');
  // The stroll is 1.25 m/s; the game asks 1.4.
  const lamp = 'g[role="button"][aria-label^="stroll-forward: there"]';
  const from = await middleOf(page, `${lamp} circle`);
  const centre = await middleOf(page, 'g[role="button"][aria-label^="walk-left"] circle');
  const along = 1.4 / 1.25;
  await drag(page, from, { x: from.x, y: centre.y + (from.y - centre.y) * along });
  const speed = await settlesIn(url(), 'stroll-forward', (clip) => savedStep(clip, 'speed'));
  expect(speed.mps).toBeGreaterThan(1.3);
  expect(speed.mps).toBeLessThan(1.5);
  await page.waitForSelector(`g[role="button"][aria-label="stroll-forward: there, ${(speed.mps as number).toFixed(2)} m/s"]`);
  await page.locator('::-p-text(clips home)').click();
  await settlesIn(url(), 'turn-right-90', (clip) => savedStep(clip, 'meet-home')?.pose !== undefined);
  await page.waitForSelector('button[aria-label^="turn-right-90: there, 0."]');
  await page.locator('input[aria-label="Shot 1"]').click();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type('Walk off to the left of the crates.');
  await page.keyboard.press('Enter');
  await settlesInSet(({ shots }) =>
    shots.some(({ text, slot }) => text === 'Walk off to the left of the crates.' && slot === 'loop/walk/forward-left'),
  );
  await page.reload();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('input')].some(({ value }) => value === 'Walk off to the left of the crates.'),
  );
  expect(errors).toEqual([]);
});

test('takes are held against what is missing, and what is ticked is cut', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${url()}/gullmouth/set`);
  await shows(page, /of 31 there/);
  await click(page, 'button', 'fill from takes');
  await page.waitForFunction(() => !document.querySelector('[aria-label="Reading the takes"]'));
  await page.waitForSelector('input[aria-label^="Cut jog-start-right from wick-rounds"]');
  await click(page, 'button', 'Make 2 clips');
  await settlesIn(url(), 'jog-stop-right', ({ steps }) => steps.length > 1);
  // By mirroring there is one for the other foot now.
  await page.waitForSelector('button[aria-label^="jog-start-left: by mirroring"]');
  expect(errors).toEqual([]);
});

test('the game’s numbers are typed, applied, saved and read again', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  const { id } = await settlesInSet((set) => set);
  await page.goto(`${url()}/gullmouth/set/${id}/contract`);
  const field = 'input[aria-label="The game asks: jog ahead"]';
  await page.locator(field).click();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type('2.5');
  await page.keyboard.press('Enter');
  await settlesInSet(({ contract }) => contract.speedMps.jog?.forward === 2.5);
  await click(page, 'button', 'Apply: jog ahead');
  await settlesIn(url(), 'jog-forward', (clip) => savedStep(clip, 'speed')?.mps === 2.5);
  await click(page, 'button', 'Save the contract as JSON');
  await fileArrives(join(downloads, 'lamplighter-contract.json'));
  const saved = JSON.parse(readFileSync(join(downloads, 'lamplighter-contract.json'), 'utf8')) as SavedSet['contract'];
  expect(saved.speedMps.jog.forward).toBe(2.5);
  await click(page, 'button', 'the set’s own numbers');
  await settlesInSet(({ contract }) => contract.speedMps.hush?.forward !== saved.speedMps.hush.forward);
  const chooser = await page.waitForSelector('input[aria-label="A contract as JSON"]');
  await (chooser as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(join(downloads, 'lamplighter-contract.json'));
  await settlesInSet(({ contract }) => contract.speedMps.hush?.forward === saved.speedMps.hush.forward);
  expect(errors).toEqual([]);
});

test('a field is sounded, its puck dragged, what comes is what is asked; feet let go, it has shallows, which go to the shot list', async () => {
  const { page, errors } = await openPage(tests.browser);
  const { id } = await settlesInSet((set) => set);
  await page.goto(`${url()}/gullmouth/set/${id}/fields`);
  await shows(page, /No shallows/);
  const puck = '[role="slider"][aria-label^="What is asked of"]';
  const asked = () => page.$eval(puck, (own) => own.getAttribute('aria-valuetext') ?? '');
  const before = await asked();
  const at = await middleOf(page, puck);
  await drag(page, at, { x: at.x - 60, y: at.y - 50 });
  const after = await asked();
  expect(after).not.toBe(before);
  expect(after).toMatch(/left$/);
  const speed = Number(after.split(' ')[0]);
  // What comes is measured by playing it.
  await page.waitForFunction(
    (wanted: number) => {
      const comes = [...document.querySelectorAll('section[aria-label="Asked and comes"] span')].map((own) => own.textContent ?? '');
      return comes.some((text) => / m\/s$/.test(text) && Math.abs(parseFloat(text.replace('▲ ', '')) - wanted) <= 0.02 * wanted);
    },
    {},
    speed,
  );
  await focusOn(page, puck);
  await page.keyboard.press('ArrowUp');
  await page.waitForFunction(
    (was: string) => document.querySelector('[role="slider"][aria-label^="What is asked of"]')?.getAttribute('aria-valuetext') !== was,
    {},
    after,
  );
  await page.locator('input[aria-label="feet held"]').click();
  await settlesInSet(({ fields }) => fields[0].holdFeet === false);
  await shows(page, /shallows?, out of bounds/);
  await page.waitForFunction(() => /half of it under/.test(document.body.innerText));
  await page.locator('::-p-text(on the shot list)').click();
  await settlesInSet(({ shots }) => shots.some(({ text }) => /^For strolls and jogs: a (walk|jog|hush-walk) at/.test(text)));
  expect(errors).toEqual([]);
});

test('at the capture desk the next shot is what the performer does; the take that lands ticks it', async () => {
  const { page, errors } = await openPage(tests.browser);
  const { id } = await settlesInSet((set) => set);
  await page.goto(`${url()}/gullmouth/takes?capture=${id}`);
  await click(page, 'button', 'Connect the suit');
  await shows(page, /shots have come in/);
  // On to a turn on the spot, which the suit can play.
  const next = () => page.$eval('section[aria-label="Shots"]', (own) => (own as HTMLElement).innerText);
  for (let text = await next(); !/an eighth of a turn to the left/.test(text); text = await next()) {
    const was = text;
    await page.locator('button[aria-label^="Go on to shot"]').click();
    await page.waitForFunction(
      (known: string) => (document.querySelector('section[aria-label="Shots"]') as HTMLElement | null)?.innerText !== known,
      {},
      was,
    );
  }
  await click(page, 'button', 'the performer does this');
  await click(page, 'button', 'Calibrate');
  await page.waitForFunction(() => [...document.querySelectorAll('button')].some((own) => own.textContent === 'Record' && !own.disabled));
  await click(page, 'button', 'Record');
  // The script ends by itself once he has turned to all sides.
  await page.waitForFunction(() => [...document.querySelectorAll('button')].some((own) => own.textContent === 'Keep'));
  await click(page, 'button', 'Keep');
  await shows(page, /fulfils \d shots/);
  const shots = await settlesInSet(({ shots: all }) => {
    const done = all.filter(({ done: isDone, by }) => isDone && by);
    return done.length >= 2 && done;
  });
  expect(shots.map(({ slot }) => slot)).toEqual(expect.arrayContaining(['turn/left/45', 'turn/right/45']));
  expect(errors).toEqual([]);
});
