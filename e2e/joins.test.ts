import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { clipFigures, readGlb } from '@lantern/motion';
import type { Page } from 'puppeteer-core';
import { click, focusOn, openPage, retype, shows, withCtrl } from './browser';
import { projectOf } from './clips';
import { temporaryFolder } from './server';
import { session } from './session';
import { keepsIn, keptFile, shipClips } from './shipping';
import { until } from './waits';

const tests = session();
const url = () => tests.application.url;

interface SavedJoin {
  readonly id: string;
  readonly name: string;
  readonly pieces: readonly {
    readonly from?: number;
    readonly times: number;
    readonly into: { readonly frames: number; readonly line: string };
    readonly shifts: readonly { readonly raise: number }[];
  }[];
}

/** Waits until what the server has of a join answers to a question. */
const settlesIn = <T>(name: string, ask: (join: SavedJoin) => T | undefined | false): Promise<T> =>
  until(async () => {
    const { joins } = (await projectOf(url())) as unknown as { joins: readonly SavedJoin[] };
    const found = joins.find((own) => own.name === name);
    return found && ask(found);
  }, `what the server was to have of ${name}`);

const placeOf = async (page: Page, selector: string): Promise<{ x: number; y: number; width: number; height: number }> => {
  const box = await (await page.waitForSelector(selector))?.boundingBox();
  if (!box) throw new Error(`${selector} is not on the screen`);
  return box;
};

/** Drags from the middle of something, as a person does. */
async function drag(page: Page, selector: string, to: (from: { x: number; y: number }) => { x: number; y: number }): Promise<void> {
  const { x, y, width, height } = await placeOf(page, selector);
  const from = { x: x + width / 2, y: y + height / 2 };
  const end = to(from);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + Math.sign(end.x - from.x) * 10, from.y + 2, { steps: 2 });
  await page.mouse.move(end.x, end.y, { steps: 6 });
  await page.mouse.up();
}

const DECK = 'svg[aria-label="Join"]';
const handle = (name: string) => `[role="slider"][aria-label="${name}"]`;
const plaque = (number: number) => `button[aria-label^="Join ${number}:"]`;

/** Waits until the handles of the deck are where they were a moment ago, and so a moment before. */
async function deckStandsStill(page: Page): Promise<void> {
  const seen: string[] = [];
  await until(async () => {
    await new Promise((resolve) => setTimeout(resolve, 250));
    seen.push(
      await page.evaluate(() =>
        [...document.querySelectorAll('svg[aria-label="Join"] [role=slider]')]
          .map((one) => one.getBoundingClientRect().x.toFixed(1))
          .join(),
      ),
    );
    return seen.length > 3 && seen.at(-1) !== '' && new Set(seen.slice(-3)).size === 1;
  }, 'a deck that stands still');
}

test('clips are dropped end to end, overlapped, lined up, repeated, raised, baked; the take is cut into a loop, shipped and measured', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await page.goto(`${url()}/gullmouth/joins`);
  await click(page, 'button', 'New join');
  await shows(page, 'Nothing is joined yet');
  await retype(page, 'Join name', 'onto-the-quay');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces.length === 0);

  // Three clips dropped on the deck, one behind the other.
  for (const [count, name] of [
    [1, 'stroll-forward'],
    [2, 'jog-forward'],
    [3, 'stroll-forward'],
  ] as const) {
    const deck = await placeOf(page, DECK);
    await drag(page, `button[aria-label="${name}: add it to the join"]`, () => ({ x: deck.x + deck.width - 30, y: deck.y + 110 }));
    await settlesIn('onto-the-quay', ({ pieces }) => pieces.length === count);
    await page.waitForSelector(`g[aria-label^="Piece ${count} of ${count}, ${name}"]`);
  }
  await page.waitForSelector(plaque(2));

  // The first is repeated by dragging its far end; the peak is dragged for a longer overlap.
  await focusOn(page, 'g[aria-label^="Piece 1 of 3"]');
  await page.keyboard.press('Enter');
  await deckStandsStill(page);
  await drag(page, handle('Repeats of piece 1, stroll-forward'), ({ x, y }) => ({ x: x + 230, y }));
  const times = await settlesIn('onto-the-quay', ({ pieces }) => pieces[0].times > 1 && pieces[0].times);
  expect(times * 2).toBeCloseTo(Math.round(times * 2), 6);
  await deckStandsStill(page);
  await drag(page, handle('Overlap into piece 2, jog-forward'), ({ x, y }) => ({ x: x - 30, y }));
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[1].into.frames > 20);

  // Lined up by a foot; a proposal from the map; both are undone and done again.
  await page.locator(plaque(1)).click();
  await click(page, 'button', 'left foot');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[1].into.line === 'left foot');
  await page.waitForSelector('button[aria-label^="Proposal 1:"]');
  await page.locator('button[aria-label^="Proposal 1:"]').click();
  const begins = await settlesIn('onto-the-quay', ({ pieces }) => pieces[1].from);
  await withCtrl(page, 'z');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[1].from === undefined);
  await withCtrl(page, 'z', true);
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[1].from === begins);
  await page.waitForFunction(
    () => document.querySelector('button[aria-label^="Join 1:"]')?.getAttribute('aria-label')?.includes('left foot') === true,
  );

  await deckStandsStill(page);
  // From the last piece on all is raised by 20 cm; a reload keeps all of it.
  await focusOn(page, 'g[aria-label^="Piece 3 of 3"]');
  await page.keyboard.press('Enter');
  const last = await placeOf(page, 'g[aria-label^="Piece 3 of 3"]');
  const deck = await placeOf(page, DECK);
  await page.mouse.click(last.x + last.width * 0.5, deck.y + 12);
  await page.keyboard.press('u');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[2].shifts.length === 1);
  await retype(page, 'Shift 1: raised, centimetres', '25');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[2].shifts[0]?.raise === 0.25);
  await retype(page, 'Shift 1: raised, centimetres', '20');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[2].shifts[0]?.raise === 0.2);
  await retype(page, 'Times', '3');
  await settlesIn('onto-the-quay', ({ pieces }) => pieces[2].times === 3);
  await shows(page, 'all saved');
  await page.reload();
  await page.waitForSelector(plaque(2));
  const frames = await until(
    async () => Number(/frame \d+ of (\d+)/.exec(await page.evaluate(() => document.body.innerText))?.[1]) + 1 || undefined,
    'the length of the join',
  );

  // Baked: a take of exactly these frames, raised at its end, which knows what it was made of.
  await page.locator('::-p-xpath(//button[contains(., "Bake into a take")])').click();
  await shows(page, `is a take of its own now, ${frames} frames`);
  const baked = await until(
    async () =>
      (await projectOf(url())).takes.find(({ name }) => name === 'onto-the-quay-baked') as
        | { id: string; frames: number; made?: { join: { id: string; name: string }; pieces: { name: string; revision: number | null }[] } }
        | undefined,
    'the baked take',
  );
  expect(baked.frames).toBe(frames);
  expect(baked.made?.join.name).toBe('onto-the-quay');
  expect(baked.made?.pieces.map(({ name }) => name)).toEqual(['stroll-forward', 'jog-forward', 'stroll-forward']);
  expect(baked.made?.pieces[0].revision).toBeGreaterThan(0);
  const rows = new Float32Array(await (await fetch(`${url()}/api/takes/${baked.id}/motion`)).arrayBuffer());
  const width = rows.length / frames;
  const height = (from: number, to: number) => {
    let sum = 0;
    for (let f = from; f < to; f++) sum += rows[f * width + 1];
    return sum / (to - from);
  };
  // The file is in centimetres.
  const rise = height(frames - 60, frames) - height(0, 60);
  expect(rise).toBeGreaterThan(19);
  expect(rise).toBeLessThan(21);

  // A loop of the take, shipped, and measured from the file.
  await page.goto(`${url()}/gullmouth/takes/${baked.id}`);
  await shows(page, 'Baked from the join onto-the-quay');
  await click(page, 'button', 'Cut a clip on the Bench');
  await click(page, 'button', 'Take the best loop');
  await page.waitForFunction(() => /\/bench\/[0-9a-f-]{36}$/.test(location.pathname));
  await shows(page, 'all saved');
  const clip = await until(
    async () => (await projectOf(url())).clips.find(({ source }) => source.take === baked.id),
    'the clip of the baked take',
  );
  await page.goto(`${url()}/gullmouth/ship`);
  const file = keptFile(await shipClips(page, downloads, [clip.name]), 'wick.glb', downloads);
  const shipped = (await readGlb(new Uint8Array(readFileSync(file)))).find(({ name }) => name === clip.name);
  const figures = shipped && clipFigures(shipped.clip);
  expect(figures?.tick).toBeLessThanOrEqual(1.2);
  expect(figures?.slideCm).toBeLessThan(0.5);
  const loaded = JSON.parse(execFileSync('node', ['e2e/loaders/with-three.mjs', file], { maxBuffer: 1e8, encoding: 'utf8' }));
  expect(loaded.clips.map(({ name }: { name: string }) => name)).toContain(clip.name);

  // A loop of the join itself: it is cut like a take, and leaves with the others.
  await page.goto(`${url()}/gullmouth/joins/${baked.made?.join.id}`);
  await click(page, 'link', 'Cut clips from it on the Bench');
  await click(page, 'button', 'Take the best loop');
  const within = await until(
    async () => (await projectOf(url())).clips.find(({ source }) => source.take === baked.made?.join.id),
    'the clip of the join',
  );
  await shows(page, 'it follows when a piece changes');
  await page.goto(`${url()}/gullmouth/ship`);
  const again = await shipClips(page, downloads, [within.name]);
  const both = (await readGlb(again['wick.glb'])).find(({ name }) => name === within.name);
  // Bake and join are the same motion.
  expect(both?.clip.motion.frames).toBe(shipped?.clip.motion.frames);
  expect(errors).toEqual([]);
});
