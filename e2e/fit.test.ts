import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { castGlb } from '@lantern/cast';
import { fitTrouble, readCharacter, type FitReport } from '@lantern/motion';
import { click, openPage, retype, shows } from './browser';
import { unfold } from './clips';
import { temporaryFolder } from './server';
import { session } from './session';
import { keepsIn, keptFile, shipClips } from './shipping';
import { standsStill, until } from './waits';

const tests = session();

/** On the rim of the ring about the character's left shoulder, seen from the front in the usual window. */
const RIM = { x: 682, y: 347 };

interface Saved {
  takes: { id: string; name: string }[];
  clips: { name: string; steps: { kind: string; character?: string }[] }[];
  characters: { id: string }[];
  fits: {
    character: string;
    settings: {
      offsets?: Record<string, number[]>;
      mapping?: { source: Record<string, string[]> };
      reference?: { turns: { target: Record<string, number[]> } };
    };
  }[];
}
const project = async (path = '') => (await fetch(`${tests.application.url}/api/projects/gullmouth${path}`)).json();

/** Waits until what the server has answers to a question. */
const settles = <T>(ask: (data: Saved) => T | undefined | false): Promise<T> =>
  until(async () => ask((await project()) as Saved), 'what the server was to have');

test('a take is fitted to Tallow: parts put right, arms turned, all of it undone and kept; a clip of it ships in her own skin', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await page.goto(`${tests.application.url}/gullmouth/fit`);
  await click(page, 'radio', 'Tallow 1.50 m, 43 joints');
  await shows(page, 'Back1 … Back4 (4)');
  await page.waitForSelector('[aria-label="Figures of the fit"]');
  const slide = await page.$eval('[aria-label="Figures of the fit"]', (element) =>
    Number(/slide ([\d.]+) cm/.exec(element.textContent ?? '')?.[1]),
  );
  expect(slide).toBeLessThan(0.2);

  // A part is put right by hand, said to be so, and as found again by undo.
  await page.locator('[role=row][aria-label="left toes"]').click();
  await click(page, 'combobox', 'in the take');
  await page.keyboard.press('Backspace');
  await settles(({ fits }) => fits.find(({ character }) => character === 'tallow')?.settings.mapping?.source.leftToes?.length === 0);
  // Undo is of the place once the field is left.
  await page.keyboard.press('Escape');
  await page.locator('[role=row][aria-label="left toes"]').click();
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await settles(({ fits }) => fits.find(({ character }) => character === 'tallow')?.settings.mapping === undefined);

  // The references side by side, what is left between them, and a turn that is mirrored.
  await click(page, 'tab', 'Reference');
  await page.waitForSelector('[aria-label="Mismatch of the references"] li');
  await retype(page, 'Turn about the axis to the front, degrees', '-10');
  await shows(page, '10.0°');
  await click(page, 'button', 'The same for the right upper arm');
  await settles(({ fits }) => JSON.stringify(fits).includes('rightUpperArm'));

  // The ring about a joint on the stage: a drag turns it by steps of 5° and says by how much; undo takes the whole drag back.
  const ofArm = ({ fits }: Saved) => fits[0]?.settings.reference?.turns.target.leftUpperArm?.[2];
  await click(page, 'button', 'front');
  await standsStill(page, 'canvas');
  await page.mouse.move(RIM.x, RIM.y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(RIM.x - i, RIM.y + 4 * i);
  await shows(page, /front −\d+°/);
  await page.mouse.up();
  const turned = await settles((data) => ofArm(data) !== -10 && ofArm(data));
  expect(turned).toBeLessThan(-10);
  expect(turned % 5).toBeCloseTo(0, 6);
  await click(page, 'button', 'Undo');
  await settles((data) => ofArm(data) === -10);
  // Space plays though a tab was clicked last.
  await click(page, 'tab', 'Parts');
  await page.keyboard.press('Space');
  await page.waitForFunction(() => Number(/frame (\d+) of/.exec(document.body.innerText)?.[1]) > 5);
  await page.keyboard.press('Space');

  await click(page, 'tab', 'Limbs');
  await retype(page, 'Added about the axis to the up, degrees', '12');
  await settles(({ fits }) => fits[0]?.settings.offsets?.leftCollar?.[1] === 12);
  await page.reload();
  await click(page, 'tab', 'Limbs');
  await shows(page, 'left collar 0° 12° 0°');

  // New clips are fitted to her, without a question.
  await click(page, 'button', 'fit new clips to Tallow');
  await shows(page, 'new clips are fitted to Tallow');
  const take = (await settles(({ takes }) => takes.find(({ name }) => name === 'wick-turns'))).id;
  await page.goto(`${tests.application.url}/gullmouth/bench?take=${take}`);
  await click(page, 'button', 'See what it offers');
  await shows(page, 'wick-walk-forward');
  await page.evaluate(() => {
    for (const row of document.querySelectorAll('[aria-label="Proposed clips"] [role=listitem]'))
      if (!/wick-walk-forward/.test(row.textContent ?? '')) row.querySelector<HTMLInputElement>('input')?.click();
  });
  await click(page, 'button', 'Make 1 clip');
  const made = await settles(({ clips }) => clips.find(({ name }) => name === 'wick-walk-forward'));
  expect(made.steps[0]).toMatchObject({ kind: 'fit', character: 'tallow' });
  await unfold(page, 'Fit');
  await click(page, 'button', 'Keep the left hand here');
  await page.waitForSelector('[aria-label="left hand kept"]');
  await click(page, 'button', 'Let the left hand go');

  await page.goto(`${tests.application.url}/gullmouth/ship`);
  const file = keptFile(await shipClips(page, downloads, ['wick-walk-forward']), 'wick.glb', downloads);
  const own = readCharacter(await castGlb('tallow'), 'tallow');
  const shipped = readCharacter(readFileSync(file), 'shipped');
  expect(shipped.skeleton.joints.map(({ name }) => name)).toEqual(own.skeleton.joints.map(({ name }) => name));
  const { clips } = JSON.parse(execFileSync('./lantern', ['measure', file, '--json'], { encoding: 'utf8' })) as {
    clips: { name: string; slideCm: number; tick: number }[];
  };
  expect(clips[0]).toMatchObject({ name: 'wick-walk-forward' });
  expect(clips[0].slideCm).toBeLessThan(0.3);
  expect(errors).toEqual([]);
  await page.close();
});

test('a whole day is fitted though its worker is killed, and the report has the worst first', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/fit`);
  await click(page, 'tab', 'Whole day');
  await click(page, 'button', 'Fit 8 takes onto 2 characters');
  await page.waitForFunction(() => /\d+ of 16 done/.test(document.body.innerText));
  await tests.application.killWorker();
  interface Job {
    id: string;
    state: string;
    report: FitReport | null;
  }
  const jobs = await until(async () => {
    const now = (await project('/fit-runs')) as Job[];
    return now.length === 16 && now.every(({ state }) => state !== 'waiting' && state !== 'running') && now;
  }, 'the end of all fits');
  expect(jobs.map(({ state }) => state)).toEqual(new Array(16).fill('done'));
  for (const { report } of jobs) expect(report?.slideCm).toBeLessThan(0.2);
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="Report of the fits"] a').length === 16);
  const shown = await page.$$eval('[aria-label="Report of the fits"] a', (links) => links.map((link) => link.getAttribute('href')));
  const ranks = shown.map((href) => jobs.find(({ id }) => href?.endsWith(id))?.report).map((report) => (report ? fitTrouble(report) : -1));
  expect(Math.min(...ranks)).toBeGreaterThan(0);
  expect(ranks).toEqual([...ranks].sort((a, b) => b - a));
  expect(errors).toEqual([]);
  await page.close();
});

test('a character of one’s own is brought in, a file that is none is refused with a sentence', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/fit`);
  const input = await page.waitForSelector('input[type=file][aria-label="Character file"]');
  const put = async (name: string, bytes: Uint8Array) =>
    input?.evaluate(
      (element, file, data) => {
        const list = new DataTransfer();
        list.items.add(new File([Uint8Array.from(data)], file));
        (element as HTMLInputElement).files = list.files;
        element.dispatchEvent(new Event('change', { bubbles: true }));
      },
      name,
      [...bytes],
    );
  await put('nobody.glb', new TextEncoder().encode('glTF but not really'));
  await shows(page, 'The GLB is cut short');
  const { characterGlb, wick } = await import('@lantern/cast');
  const build = wick();
  await put('Ferrywoman.glb', await characterGlb({ ...build, name: 'Ferrywoman' }));
  await page.waitForSelector('[role=radio][aria-checked=true]');
  await shows(page, 'Ferrywoman');
  await settles(({ characters }) => characters.some(({ id }) => id === 'ferrywoman'));
  expect(errors).toEqual([]);
  await page.close();
});
