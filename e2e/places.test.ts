import { readFileSync } from 'node:fs';
import type { Page } from 'puppeteer-core';
import { click, focusOn, openPage, retype, shows } from './browser';
import { projectOf, unfold } from './clips';
import { temporaryFolder } from './server';
import { session } from './session';
import { keepsIn, shipClips } from './shipping';
import { standsStill } from './waits';

const tests = session();

const openClip = async (page: Page, name: string) => {
  const { clips } = await projectOf(tests.application.url);
  await page.goto(`${tests.application.url}/gullmouth/bench/${clips.find((clip) => clip.name === name)?.id}`);
  await page.waitForSelector('[role="slider"][aria-label="Out post"]');
};
test('two tabs on one clip: the later save is told, nothing is overwritten, and mine can be kept as a copy', async () => {
  const first = await openPage(tests.browser);
  await openClip(first.page, 'jog-forward');
  const second = await openPage(tests.browser);
  await second.page.goto(first.page.url());
  await second.page.waitForSelector('[role="slider"][aria-label="Out post"]');
  await first.page.bringToFront();
  await retype(first.page, 'Clip name', 'trot');
  await shows(first.page, 'all saved');
  await second.page.bringToFront();
  await retype(second.page, 'Clip name', 'canter');
  await shows(second.page, 'This clip was saved elsewhere');
  await shows(second.page, '“trot”');
  await click(second.page, 'button', 'Keep mine as a copy');
  // Tall enough for all rows.
  for (const { page } of [first, second]) await page.setViewport({ width: 1280, height: 1300 });
  await click(second.page, 'link', 'Ship 14');
  await shows(second.page, 'trot');
  await shows(second.page, 'canter (mine)');
  // Another tab's names are there after a reload too: nothing was lost on the server.
  await first.page.bringToFront();
  await first.page.goto(`${tests.application.url}/gullmouth/ship`);
  await shows(first.page, 'canter (mine)');
  expect([...first.errors, ...second.errors]).toEqual([]);
  await first.page.close();
  await second.page.close();
});

test('the bench works from the keyboard: posts by arrows, a loop by its number, any command by name', async () => {
  const { page, errors } = await openPage(tests.browser);
  await openClip(page, 'stroll-forward');
  const out = () => page.$eval('[role="slider"][aria-label="Out post"]', (post) => Number(post.getAttribute('aria-valuenow')));
  const before = await out();
  await focusOn(page, '[role="slider"][aria-label="Out post"]');
  await page.keyboard.press('ArrowRight');
  await page.waitForFunction(
    (frame: number) => Number(document.querySelector('[aria-label="Out post"]')?.getAttribute('aria-valuenow')) === frame,
    {},
    before + 1,
  );
  await shows(page, 'best of');
  await page.keyboard.press('2');
  await page.waitForFunction(
    (frame: number) => Number(document.querySelector('[aria-label="Out post"]')?.getAttribute('aria-valuenow')) !== frame,
    {},
    before + 1,
  );
  await page.keyboard.down('Control');
  await page.keyboard.press('k');
  await page.keyboard.up('Control');
  await page.locator('input[placeholder^="Find a command"]').fill('go to takes');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname.endsWith('/takes'));
  expect(errors).toEqual([]);
  await page.close();
});

test('a shared link lands on its take; a gone one says so', async () => {
  const { page } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await page.locator('::-p-text(wick-jog)').click();
  await page.waitForFunction(() => /\/takes\/[0-9a-f-]{36}$/.test(location.pathname));
  const link = page.url();
  await page.goto('about:blank');
  await page.goto(link);
  await page.waitForFunction(() => [...document.querySelectorAll('h2')].some((h) => h.textContent === 'wick-jog'));
  await page.goto(`${tests.application.url}/gullmouth/takes/00000000-0000-4000-8000-000000000000`);
  await shows(page, 'This take is not in the project any more');
  await page.goto(`${tests.application.url}/gullmouth/bench/00000000-0000-4000-8000-000000000000`);
  await shows(page, 'This clip is not in the project any more');
  await page.close();
});

test('a recipe is changed by its cards, seen on the stage, shipped one file each, and a removed clip comes back by undo', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await openClip(page, 'stroll-forward');
  await shows(page, 'travelling × 4');
  // Forward dropped: the figures say how fast the feet go under someone who stays where he is.
  await unfold(page, 'Travel');
  await page.locator('section[aria-label="Travel step"] [role="combobox"]').click();
  await page.locator('::-p-aria([role="option"][name="dropped"])').click();
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-figures="finished"] > div')].some((row) => /^speed1\.2\d m\/s$/.test(row.textContent ?? '')),
  );
  await click(page, 'button', 'in place');
  await click(page, 'button', 'as captured');
  await shows(page, /frame \d+ of 2431/);
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');

  await click(page, 'button', 'New clip');
  await page.waitForFunction(() => /wick-rounds-01/.test(document.querySelector('header')?.textContent ?? ''));
  await click(page, 'button', 'Remove this clip');
  await shows(page, 'No clip is open');
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await page.waitForSelector('[aria-label="Clip wick-rounds-01"]');
  await shows(page, 'all saved');

  await page.goto(`${tests.application.url}/gullmouth/ship`);
  await click(page, 'radio', 'one each');
  const files = await shipClips(page, downloads, ['stroll-forward', 'jog-arc-left']);
  expect(Object.keys(files)).toContain('stroll-forward.glb');
  expect(Object.keys(files)).not.toContain('wick-rounds-01.glb');
  const report = JSON.parse(new TextDecoder().decode(files['report.json']));
  expect(report.clips.find((clip: { name: string }) => clip.name === 'stroll-forward')).toMatchObject({
    loop: true,
    seam: { driftCm: expect.closeTo(0, 3) },
  });
  expect(errors).toEqual([]);
  await page.close();
});

test('a take without clips is removed, and brought back', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await page.locator('::-p-text(wick-kerb)').click();
  await page.waitForFunction(() => [...document.querySelectorAll('h2')].some((h) => h.textContent === 'wick-kerb'));
  await click(page, 'button', 'Remove this take');
  await shows(page, '“wick-kerb” is removed.');
  await page.waitForFunction(() => !document.querySelector<HTMLElement>('[role=grid]')?.innerText.includes('wick-kerb'));
  await click(page, 'button', 'bring back');
  await page.waitForFunction(() => document.querySelector<HTMLElement>('[role=grid]')?.innerText.includes('wick-kerb'));
  expect(errors).toEqual([]);
  await page.close();
});

test('a change from another site is refused', async () => {
  const response = await fetch(`${tests.application.url}/api/projects/gullmouth/takes?file=a.bvh`, {
    method: 'POST',
    body: 'HIERARCHY',
    headers: { origin: 'http://elsewhere.example' },
  });
  expect(response.status).toBe(403);
  const page = await fetch(`${tests.application.url}/gullmouth/takes`);
  expect(page.headers.get('content-security-policy')).toMatch(/script-src 'self' 'nonce-/);
});

test('the first steps lead to the clip they speak of, and go on after a reload where they were', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await page.locator('nav[aria-label="Places"] button').click();
  await shows(page, 'Look at a take');
  await click(page, 'button', 'Next step');
  await click(page, 'button', 'Take me there');
  await page.waitForFunction(() => document.querySelector('header')?.textContent?.includes('stroll-forward'));
  await page.reload();
  await shows(page, 'Close a loop');
  await page.locator('[aria-label="Leave the guide"]').click();
  await page.waitForFunction(() => !document.querySelector('section[aria-label="First steps"]'));
  await shows(page, '1 of 5');
  expect(errors).toEqual([]);
  await page.close();
});

test.each(['light', 'dark'])('names, roles and contrast are in order in the %s chart', async (mode) => {
  const { page } = await openPage(tests.browser);
  await page.evaluateOnNewDocument((value: string) => localStorage.setItem('mui-mode', value), mode);
  for (const place of ['takes', 'fit', 'bench', 'joins', 'set', 'drive', 'ship']) {
    await page.goto(`${tests.application.url}/gullmouth/${place}`);
    await page.waitForFunction(
      (name: string) =>
        document.body.innerText.includes(
          {
            takes: 'Cut a clip',
            fit: 'Reference',
            bench: 'tick',
            joins: 'piece',
            set: 'of 31 there',
            drive: 'to the Graph',
            ship: 'are ready',
          }[name] ?? '',
        ),
      {},
      place,
    );
    await standsStill(page, 'header');
    // While one place becomes another, the framework takes the title down and puts it up again.
    await page.waitForFunction(() => document.title !== '');
    // Colours on their way from one to another are neither.
    await page.waitForFunction(() => !document.getAnimations().some((own) => own instanceof CSSTransition));
    await page.evaluate(readFileSync('node_modules/axe-core/axe.min.js', 'utf8'));
    const problems = await page.evaluate(async () => {
      const { axe } = window as unknown as {
        axe: { run: (options: object) => Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }> };
      };
      const { violations } = await axe.run({ runOnly: ['wcag2a', 'wcag2aa'] });
      return violations
        .filter((v) => v.impact === 'serious' || v.impact === 'critical')
        .map(
          (v) =>
            `${v.id}: ${v.nodes
              .slice(0, 3)
              .map((n) => n.html.slice(0, 120))
              .join(' | ')}`,
        );
    });
    expect({ place, problems }).toEqual({ place, problems: [] });
  }
  await page.close();
});
