import type { Page } from 'puppeteer-core';
import { click, openPage, shows, withCtrl } from './browser';
import { session } from './session';
import { until } from './waits';

const tests = session();

/** What the server has of the demo's set. */
async function theSet(): Promise<{
  id: string;
  name: string;
  graph?: { states: { name: string; at?: { x: number; y: number } }[]; transitions: { from: string; to: string; overlap: number }[] };
}> {
  const project = await fetch(`${tests.application.url}/api/projects/gullmouth`).then((response) => response.json());
  return project.sets[0];
}

const key = (page: Page, name: string) =>
  page.evaluate((own: string) => {
    window.dispatchEvent(new KeyboardEvent('keydown', { key: own }));
  }, name);

/** Whether the page shows a text that has a number in it, within bounds. */
const between = (page: Page, pattern: RegExp, least: number, most: number) =>
  page.waitForFunction(
    (source: string, a: number, b: number) => {
      const found = Number(new RegExp(source).exec(document.body.innerText)?.[1]?.replace('−', '-'));
      return found >= a && found <= b;
    },
    {},
    pattern.source,
    least,
    most,
  );

test('the graph: drawn with soundings, a card dragged stays, a channel drawn, a transition changed and taken back, played in place', async () => {
  const { page, errors } = await openPage(tests.browser);
  const { id } = await theSet();
  await page.goto(`${tests.application.url}/gullmouth/set/${id}/graph`);
  await shows(page, /7 states, 16 channels: \d+ hold/);
  // Every state shows what it plays.
  await page.waitForFunction(
    () => [...document.querySelectorAll('.react-flow__node')].filter((node) => node.innerHTML.includes('data:image/png')).length === 7,
  );
  const card = await page.waitForSelector('.react-flow__node[data-id="hopping"]');
  const box = await card?.boundingBox();
  if (!box) throw new Error('no card');
  await page.mouse.move(box.x + 40, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x - 20, box.y + 40, { steps: 6 });
  await page.mouse.up();
  const moved = await until(async () => (await theSet()).graph, 'the graph is the set’s');
  expect(moved.states).toHaveLength(7);
  expect(moved.states.every(({ at }) => at !== undefined)).toBe(true);
  // A channel from the ring under a card to another card.
  const from = await (await page.waitForSelector('.react-flow__node[data-id="hopping"]'))?.boundingBox();
  const to = await (await page.waitForSelector('.react-flow__node[data-id="stopping"]'))?.boundingBox();
  if (!from || !to) throw new Error('no cards');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height - 1);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + 20, { steps: 8 });
  await page.mouse.up();
  await until(
    async () => (await theSet()).graph?.transitions.some((own) => own.from === 'hopping' && own.to === 'stopping'),
    'a channel from hopping to stopping',
  );
  await shows(page, 'From hopping to stopping');
  await shows(page, 'Tried from 24 phases');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await withCtrl(page, 'z');
  await until(
    async () => !(await theSet()).graph?.transitions.some((own) => own.from === 'hopping' && own.to === 'stopping'),
    'the channel taken back',
  );
  // Played in place: as the slider goes up he moves.
  await page.evaluate(() => {
    const slider = document.querySelector<HTMLInputElement>('input[type=range][aria-label="speed"]');
    slider?.focus();
  });
  for (let i = 0; i < 5; i++) await page.keyboard.press('PageUp');
  await page.waitForFunction(() =>
    document.querySelector('[aria-label="States passed through"]')?.firstElementChild?.textContent?.startsWith('moving'),
  );
  expect(errors).toEqual([]);
  await page.close();
});

test('Drive: keys, a pad, a capsule, a recording, another body, rough weather that opens its worst', async () => {
  const { page, errors } = await openPage(tests.browser);
  // A pad of ours: what a game would read of one.
  await page.evaluateOnNewDocument(() => {
    const pad = {
      axes: [0, 0, 0, 0],
      buttons: Array.from({ length: 16 }, () => ({ pressed: false, touched: false, value: 0 })),
      connected: false,
    };
    Object.assign(window, { pad });
    navigator.getGamepads = () => [pad.connected ? (pad as unknown as Gamepad) : null, null, null, null];
  });
  const { id } = await theSet();
  await page.goto(`${tests.application.url}/gullmouth/drive/${id}`);
  await shows(page, 'to the Graph');
  await shows(page, /asked 0\.00 m\/s/);
  await key(page, 'w');
  await between(page, /comes (\d+\.\d+) m\/s/, 1.2, 1.7);
  await page.waitForFunction(() => /^moving/.test(document.querySelector('[aria-label="Where it is in the graph"]')?.textContent ?? ''));
  await key(page, 'Escape');
  await between(page, /comes (\d+\.\d+) m\/s/, 0, 0.1);
  // The pad takes the helm; its first button hops.
  await page.evaluate(() => {
    const { pad } = window as unknown as { pad: { axes: number[]; connected: boolean } };
    pad.connected = true;
    pad.axes[1] = -1;
  });
  await shows(page, 'pad 1');
  await between(page, /comes (\d+\.\d+) m\/s/, 2.2, 3.2);
  await page.evaluate(() => {
    (window as unknown as { pad: { buttons: { pressed: boolean }[] } }).pad.buttons[0].pressed = true;
  });
  await page.waitForFunction(() => /^hopping/.test(document.querySelector('[aria-label="Where it is in the graph"]')?.textContent ?? ''));
  await page.evaluate(() => {
    (window as unknown as { pad: { axes: number[]; connected: boolean } }).pad.axes[1] = 0;
    (window as unknown as { pad: { connected: boolean } }).pad.connected = false;
  });
  await click(page, 'button', 'Led by a capsule');
  await page.waitForSelector('[role=group][aria-label^="gap:"]');
  // What is recorded is played again to the same place.
  await click(page, 'button', 'Record what is asked');
  await key(page, 'w');
  await between(page, /comes (\d+\.\d+) m\/s/, 1.2, 1.7);
  await key(page, 'Escape');
  await between(page, /comes (\d+\.\d+) m\/s/, 0, 0.1);
  await click(page, 'button', 'Stop');
  await click(page, 'button', 'Play the recording');
  await shows(page, /played again: what was recorded/);
  await click(page, 'button', 'Stop');
  await click(page, 'button', 'Tallow beside him');
  await page.waitForSelector('[aria-label="Without Tallow"]');
  await page.waitForFunction(() => !document.querySelector('[aria-label="Fitting the set"]'));
  await click(page, 'button', 'Without Tallow');
  await click(page, 'button', 'Try it');
  await shows(page, /[\d\u2009]+ changes tried, worst pop \d/);
  await click(page, 'button', 'Try it again');
  await click(page, 'button', 'Stop');
  await page.waitForSelector('[aria-label="Findings"] li');
  await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label="Findings"] li span')?.click());
  await shows(page, /played again: pop \d/);
  await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label="Findings"] li button[aria-label$="on the Bench"]')?.click());
  await page.waitForFunction(() => location.pathname.includes('/bench/'));
  await shows(page, /frame \d+ of/);
  expect(errors).toEqual([]);
  await page.close();
});
