import type { Page } from 'puppeteer-core';
import { click, focusOn, openPage, shows } from './browser';
import { makeClip, openClip, savedStep, settlesIn, unfold } from './clips';
import { session } from './session';
import { standsStill, until } from './waits';

const tests = session();
const url = () => tests.application.url;

interface SavedLayer {
  readonly name: string;
  readonly weight: number;
  readonly fadeOut: number;
  readonly keys: readonly { readonly frame: number; readonly joint: string; readonly turn: readonly number[] }[];
  readonly touches: readonly {
    readonly limb: string;
    readonly from: number;
    readonly to: number;
    readonly target: { readonly to: string };
  }[];
}
const layersOf = (clip: Parameters<typeof savedStep>[0]) =>
  (savedStep(clip, 'corrections') as { layers?: SavedLayer[] } | undefined)?.layers ?? [];

/** Where a joint's dot is on the stage: what lies under the pointer is said beside it. */
async function jointOn(page: Page, name: string): Promise<{ x: number; y: number }> {
  const box = await page.$eval('canvas', (canvas) => {
    const { x, y, width, height } = canvas.getBoundingClientRect();
    return { x, y, width, height };
  });
  const isAt = async (x: number, y: number) => {
    await page.mouse.move(x, y);
    return page.evaluate(
      (wanted) =>
        [...document.querySelectorAll('div')].some(
          (e) => e.style.pointerEvents === 'none' && e.style.display === 'block' && e.textContent === wanted,
        ),
      name,
    );
  };
  for (let y = box.y + 0.15 * box.height; y < box.y + 0.9 * box.height; y += 11)
    for (let x = box.x + 0.4 * box.width; x < box.x + 0.6 * box.width; x += 11) {
      if (!(await isAt(x, y))) continue;
      // The middle of all places about here that mean it.
      const all = [{ x, y }];
      for (let dy = -12; dy <= 20; dy += 4)
        for (let dx = -16; dx <= 20; dx += 4) if (await isAt(x + dx, y + dy)) all.push({ x: x + dx, y: y + dy });
      const mean = (k: 'x' | 'y') => all.reduce((sum, place) => sum + place[k] / all.length, 0);
      return { x: mean('x'), y: mean('y') };
    }
  throw new Error(`${name} is nowhere on the stage`);
}

test('a joint is picked on the stage, turned, drawn, and what was done to it lies in a layer on the deck', async () => {
  const name = 'corrected-stroll';
  const id = await makeClip(url(), name, {}, [{ kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }] as never);
  const { page, errors } = await openPage(tests.browser);
  await openClip(page, url(), id);
  await click(page, 'button', 'front');
  await page.keyboard.press('c');
  await shows(page, 'turn');
  await standsStill(page, 'canvas');

  // The ring about the left forearm: a layer is made and named by what it does, undo takes the whole drag back.
  const arm = await jointOn(page, 'LeftForearm');
  await page.mouse.click(arm.x, arm.y);
  const rim = { x: arm.x + 44, y: arm.y };
  await page.mouse.move(rim.x, rim.y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(rim.x - i, rim.y - 4 * i);
  await page.mouse.up();
  const [layer] = await settlesIn(url(), name, (clip) => layersOf(clip).length === 1 && layersOf(clip));
  expect(layer.name).toBe('left forearm turned');
  expect(layer.keys).toMatchObject([{ joint: 'LeftForearm' }]);
  await page.waitForSelector('[aria-label="Layer left forearm turned"]');
  await page.waitForSelector('[aria-label="Curve of LeftForearm"]');
  await click(page, 'button', 'Undo');
  await settlesIn(url(), name, (clip) => layersOf(clip).length === 0);
  await click(page, 'button', 'Redo');
  await settlesIn(url(), name, (clip) => layersOf(clip).length === 1);

  // The hand drawn by its handle goes into the same layer.
  await page.keyboard.press('v');
  const hand = await jointOn(page, 'LeftHand');
  await page.mouse.click(hand.x, hand.y);
  await page.waitForSelector('[aria-label="Curve of LeftHand"]');
  await standsStill(page, 'canvas');
  await page.mouse.move(hand.x, hand.y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(hand.x + 2 * i, hand.y - 5 * i);
  await shows(page, /\d cm/);
  await page.mouse.up();
  await settlesIn(url(), name, (clip) => layersOf(clip)[0]?.keys.some(({ joint }) => joint === 'LeftHand'));

  // On the deck its peg is moved by a key, in the card its weight; the clip without it is a ghost.
  const peg = layer.keys[0].frame;
  await focusOn(page, `[aria-label="Peg of left forearm turned at frame ${peg}"]`);
  await page.keyboard.press('ArrowRight');
  await settlesIn(url(), name, (clip) => layersOf(clip)[0]?.keys.every(({ frame }) => frame === peg + 1));
  await unfold(page, 'Corrections');
  await page.focus('input[aria-label="Weight of left forearm turned"]');
  await page.keyboard.press('ArrowLeft');
  await settlesIn(url(), name, (clip) => layersOf(clip)[0]?.weight === 0.95);
  await click(page, 'button', 'See the clip without the corrections step as a ghost');
  await page.waitForSelector('button[aria-label^="See the clip without"][aria-pressed=true]');

  // A touch begins where the hand is; then it is brought to the hip.
  await click(page, 'button', 'Add a touch');
  await click(page, 'menuitem', 'right hand');
  const [{ touches }] = await settlesIn(url(), name, (clip) => layersOf(clip)[0]?.touches.length === 1 && layersOf(clip));
  expect(touches[0]).toMatchObject({ limb: 'right hand', target: { to: 'place' } });
  await page
    .locator('::-p-aria([role="combobox"][name="to"])')
    .click()
    .catch(() => page.click('[aria-label^="Touch of the right hand"] [role=combobox]'));
  await click(page, 'option', 'on RightThigh');
  await settlesIn(url(), name, (clip) => layersOf(clip)[0]?.touches[0]?.target.to === 'joint');
  expect(errors).toEqual([]);
});

test('with H held the take is seen as captured, Tab goes along the chain, and Escape lets go', async () => {
  const id = await makeClip(url(), 'chained-stroll', {}, [{ kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }] as never);
  const { page, errors } = await openPage(tests.browser);
  await openClip(page, url(), id);
  await click(page, 'button', 'front');
  await page.keyboard.press('c');
  await standsStill(page, 'canvas');
  const arm = await jointOn(page, 'LeftForearm');
  await page.mouse.click(arm.x, arm.y);
  const pressed = (label: string) =>
    page.$$eval('button[aria-pressed=true]', (all, words) => all.some((own) => own.textContent === words), label);
  await page.keyboard.down('h');
  await until(() => pressed('as captured'), 'the take is seen');
  await page.keyboard.up('h');
  await until(async () => !(await pressed('as captured')), 'the clip is seen again');
  // The joint that is taken hold of is drawn along: its keys tell which one it was.
  await page.keyboard.press('Tab');
  await page.keyboard.press('v');
  const hand = await jointOn(page, 'LeftHand');
  await page.mouse.move(hand.x, hand.y);
  await page.mouse.down();
  for (let i = 1; i <= 6; i++) await page.mouse.move(hand.x, hand.y - 4 * i);
  await page.mouse.up();
  await settlesIn(url(), 'chained-stroll', (clip) => layersOf(clip)[0]?.name === 'left hand moved');
  await page.keyboard.press('Escape');
  await until(async () => (await page.$('[aria-label^="Curve of"]')) === null, 'nothing is held any more');
  expect(errors).toEqual([]);
});
