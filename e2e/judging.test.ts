import { click, focusOn, openPage, shows } from './browser';
import { addStep, makeClip, openClip, savedStep, settlesIn, unfold } from './clips';
import { session } from './session';
import { until } from './waits';

const tests = session();
const url = () => tests.application.url;

interface Rests {
  readonly contacts?: Readonly<Record<'left' | 'right', readonly { readonly from: number; readonly to: number }[]>>;
}
const restsOf = (clip: Parameters<typeof savedStep>[0]) => (savedStep(clip, 'hand-lock') as Rests | undefined)?.contacts;

test('a hand is held from frame to frame on the deck; arcs and balance are judged; one step is seen alone and over another state', async () => {
  const name = 'held-stroll';
  const id = await makeClip(url(), name, {}, [{ kind: 'clean' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }] as never);
  const { page, errors } = await openPage(tests.browser);
  await openClip(page, url(), id);

  // No hand rests in a stroll: a double click on its row puts a contact there, the arrow keys move its edge, undo takes it back.
  await addStep(page, 'Hand lock');
  await unfold(page, 'Hand lock');
  await shows(page, 'No hand rests.');
  const row = await page.waitForSelector('xpath///*[name()="title" and contains(., "put a hand contact here")]/..');
  const place = await row?.boundingBox();
  if (!place) throw new Error('there is no row for the hand');
  await page.mouse.click(place.x + place.width / 2, place.y + place.height / 2, { count: 2 });
  const [first] = await settlesIn(url(), name, (clip) => restsOf(clip)?.left.length === 1 && restsOf(clip)?.left);
  await focusOn(page, '[aria-label="End of left hand contact 1"]');
  await page.keyboard.press('PageUp');
  await settlesIn(url(), name, (clip) => restsOf(clip)?.left[0]?.to === first.to + 10);
  await shows(page, new RegExp(`${first.from}–${first.to + 10}`));
  await click(page, 'button', 'Undo');
  await settlesIn(url(), name, (clip) => restsOf(clip)?.left[0]?.to === first.to);

  // Arcs: cleaned, a hand is smooth; its worst kink is a click away.
  await click(page, 'button', 'Trails of hands');
  await shows(page, /jerk × \d/);
  const kink = await page.waitForSelector('button[aria-label^="Go to the kink of RightHand"]');
  const frame = await kink?.evaluate((button) => /frame (\d+)/.exec(button.getAttribute('aria-label') ?? '')?.[1]);
  await kink?.click();
  await shows(page, `frame ${frame} of`);

  // Balance stands on the stage, on the deck and in the column.
  await page.locator('input[aria-label="Show the balance"]').click();
  await shows(page, /balance \d+\.\d cm (inside|outside)/);
  await until(() => page.$$eval('svg[aria-label=Deck] text', (all) => all.some((own) => own.textContent === 'balance')), 'its trace');

  // One step by itself leaves the recipe what it is.
  await page.locator('::-p-aria([role="combobox"][name="shown"])').click();
  await click(page, 'option', 'Clean alone');
  await shows(page, /slide 0\.\d+ cm|slide –|Foot lock/);
  await page.locator('::-p-aria([role="combobox"][name="over a ghost of"])').click();
  await click(page, 'option', 'as captured');
  await settlesIn(url(), name, (clip) => clip.steps.length === 4 && clip.steps.every((step) => !(step as { off?: true }).off));
  expect(errors).toEqual([]);
});
