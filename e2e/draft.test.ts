import { click, openPage, shows } from './browser';
import { session } from './session';
import { until } from './waits';

const tests = session();

interface Project {
  readonly clips: readonly {
    readonly id: string;
    readonly name: string;
    readonly source: { readonly take: string; readonly from: number };
  }[];
  readonly sets: readonly {
    readonly name: string;
    readonly draft?: { readonly choices: readonly { readonly slot: string; readonly clip: string | null; readonly why: string }[] };
  }[];
}
const saved = async (): Promise<Project> => (await (await fetch(`${tests.application.url}/api/projects/capture-day`)).json()) as Project;

test('a day is captured, its set drafted, a runner-up taken instead, and the character driven', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/projects`);
  await click(page, 'button', 'Capture a day');
  await shows(page, '20 takes');

  // Start, Draft the set, Drive: the first five minutes.
  await page.goto(`${tests.application.url}/capture-day/takes`);
  await click(page, 'button', 'draft the set…');
  await click(page, 'button', 'Draft the set');
  await page.waitForSelector('[aria-label="Drafting the set"]');
  await shows(page, /3[01] of 31 slots/);
  await click(page, 'button', 'Look at the set');
  await shows(page, /3[01] of 31 there/);
  const { clips, sets } = await until(async () => {
    const all = await saved();
    return all.sets.length === 1 && all.clips.length >= 30 && all;
  }, 'the drafted set, saved');
  const walk = clips.find(({ name }) => name === 'walk-forward');
  expect(sets[0].draft?.choices.find(({ slot }) => slot === 'loop/walk/forward')).toMatchObject({ clip: walk?.id });

  await click(page, 'button', 'how it was drafted');
  const other = await page.waitForSelector('ul[aria-label="Runners-up of loop/walk/forward"] button');
  await other?.click();
  await until(async () => {
    const { clips: now } = await saved();
    const own = now.find(({ name }) => name === 'walk-forward');
    return own && walk && (own.source.from !== walk.source.from || own.source.take !== walk.source.take);
  }, 'the other cut');
  await click(page, 'button', 'Close');

  await page.goto(`${tests.application.url}/capture-day/drive`);
  const where = () => page.$eval('[aria-label="Where it is in the graph"]', (own) => own.textContent ?? '');
  await page.waitForFunction(() => /^waiting/.test(document.querySelector('[aria-label="Where it is in the graph"]')?.textContent ?? ''));
  await page.keyboard.down('w');
  await until(async () => /^moving/.test(await where()), 'he goes');
  await page.keyboard.up('w');
  await until(async () => /^(stopping|waiting)/.test(await where()), 'he stops');
  expect(errors).toEqual([]);
});
