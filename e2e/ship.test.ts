import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { parseProject, readGlb, writeBvh, type Report } from '@lantern/motion';
import { unzipSync } from 'fflate';
import type { ElementHandle } from 'puppeteer-core';
import { click, openPage, retype, shows, withCtrl } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';
import { allMeasured, keepsIn, shipClips } from './shipping';
import { fileArrives, until } from './waits';

const tests = session();
const url = () => tests.application.url;
const desk = () => `${url()}/gullmouth/ship`;

interface Listed {
  shipments: { id: string; state: string; done: number; of: number; written: { path: string; state: string; why: string[] }[] }[];
}
const shipments = async () => ((await (await fetch(`${url()}/api/projects/gullmouth/shipments`)).json()) as Listed).shipments;

test('a set is judged, shipped and kept; a change is the only thing written again, and the two are compared', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await page.goto(desk());
  await allMeasured(page);
  // Worst first, with what to do; a bound that is let out makes a clip ready, and undo takes that back.
  await shows(page, /It stands [\d.]+ cm from the home pose\. Let its ends meet home\./);
  const ready = () => page.$eval('h1', (head) => Number(/^\d+/.exec(head.textContent ?? '')?.[0]));
  const before = await ready();
  await retype(page, 'Bound of off home', '30');
  await until(async () => (await ready()) > before, 'a clip that is ready now');
  await shows(page, 'all saved');
  await click(page, 'button', 'Undo');
  await until(async () => (await ready()) === before, 'the bound as it was');

  await click(page, 'switch', 'CSV of travel');
  const first = await shipClips(page, downloads, ['stroll-forward', 'jog-forward']);
  expect(Object.keys(first)).toEqual([
    ...['wick.glb', 'clips/stroll-forward.travel.csv', 'clips/jog-forward.travel.csv', 'wick.lantern.json', 'report.json'],
  ]);
  expect((await readGlb(first['wick.glb'])).map(({ name }) => name)).toEqual(['stroll-forward', 'jog-forward']);
  await shows(page, 'none touched');
  await shows(page, /2 clips, [\d.]+ MB\. The first\./);

  // Time goes quicker in one of them, from its row.
  await click(page, 'button', 'More for jog-forward');
  await click(page, 'menuitem', 'Let time go slower or quicker …');
  await retype(page, 'How quickly time goes', '110');
  await click(page, 'button', 'Set the time');
  await shows(page, 'all saved');
  await page.waitForSelector('[role=row][aria-label="jog-forward"] [aria-label="changed"]');
  const second = await shipClips(page, downloads, ['stroll-forward', 'jog-forward']);
  const [newest] = await shipments();
  const states = Object.fromEntries(newest.written.map((own) => [own.path, own]));
  expect(states['clips/stroll-forward.travel.csv'].state).toBe('same');
  expect(states['clips/jog-forward.travel.csv'].state).toBe('changed');
  expect(states['wick.glb'].why).toEqual(['jog-forward: the step “retime” came in']);
  const speed = (files: Record<string, Uint8Array>) =>
    (JSON.parse(Buffer.from(files['report.json']).toString()) as Report).clips.find(({ name }) => name === 'jog-forward')?.speedMps ?? 0;
  expect(speed(second) / speed(first)).toBeCloseTo(1.1, 1);
  await page.locator('button[aria-label$="with another"]').click();
  await shows(page, /speed 2\.\d\d → 3\.\d\d m\/s/);
  await click(page, 'button', 'Close');

  // From a clip that is out of bounds one comes to the Bench where it is worst.
  await page.locator('[role=row][aria-label="evening-round"] a').click();
  await page.waitForFunction(() => /\/joins\//.test(location.pathname));
  expect(errors).toEqual([]);
  await page.close();
});

test('a shipment arrives though its worker is killed while it is made; one that is stopped does not', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(desk());
  await allMeasured(page);
  // At a rate at which nothing is known yet.
  await click(page, 'radio', '50');
  await shows(page, 'at 50 frames a second');
  const ask = async () => {
    const response = await fetch(`${url()}/api/projects/gullmouth/shipments`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: url() },
      body: JSON.stringify({ ship: { fps: 25, thin: {}, bvh: true } }),
    });
    return ((await response.json()) as { id: string }).id;
  };
  const id = await ask();
  const own = async () => (await shipments()).find((each) => each.id === id);
  await until(async () => ((await own())?.done ?? 0) >= 2, 'two clips that are made');
  await tests.application.killWorker();
  const arrived = await until(async () => {
    const now = await own();
    return now?.state === 'done' && now;
  }, 'the shipment');
  expect([arrived.done, arrived.of]).toEqual([14, 14]);
  const files = unzipSync(new Uint8Array(await (await fetch(`${url()}/api/shipments/${id}/zip`)).arrayBuffer()));
  const report = JSON.parse(Buffer.from(files['report.json']).toString()) as Report;
  expect(report.failed).toEqual([]);
  expect(report.guarantees?.filter(({ ok }) => !ok)).toEqual([]);
  expect(Object.keys(files).filter((path) => path.endsWith('.bvh'))).toHaveLength(14);
  const stopped = await ask();
  await fetch(`${url()}/api/shipments/${stopped}`, { method: 'DELETE', headers: { origin: url() } });
  const state = (await shipments()).find((each) => each.id === stopped)?.state;
  // It may have arrived first: all of its clips were known.
  expect(['stopped', undefined]).toContain(state);
  expect(errors).toEqual([]);
  await page.close();
});

test('a project is kept as an archive and brought in beside itself, renamed, removed, brought back, and ships as the first does', async () => {
  const { page, errors } = await openPage(tests.browser);
  const downloads = temporaryFolder();
  await keepsIn(page, downloads);
  await page.goto(`${url()}/gullmouth/takes`);
  await click(page, 'link', 'Gullmouth');
  await shows(page, /8 takes, 2 min 39 s · 13 clips · 1 set/);
  await click(page, 'button', 'Keep Gullmouth as an archive');
  const path = join(downloads, 'gullmouth.zip');
  await fileArrives(path);
  const project = parseProject(Buffer.from(unzipSync(new Uint8Array(readFileSync(path)))['project.json']).toString());
  expect(project.clips).toHaveLength(13);

  const desk = await page.waitForSelector('input[aria-label="Archives of projects"]');
  await (desk as ElementHandle<HTMLInputElement>).uploadFile(path);
  await shows(page, /, \/gullmouth-2/);
  const cards = () => page.$$eval('ul[aria-label=Projects] > li', (all) => all.map((own) => own.getAttribute('aria-label')));
  expect(await cards()).toEqual(['Gullmouth', 'Gullmouth']);
  await page.locator('li:has(a[href="/gullmouth-2/takes"]) button[aria-label^=Rename]').click();
  await page.locator('input[name=name]').fill('Harbour at night');
  await click(page, 'button', 'Rename');
  await until(async () => (await cards()).includes('Harbour at night'), 'the new name');
  await click(page, 'button', 'Remove Harbour at night');
  await until(async () => (await cards()).length === 1, 'one project less');
  await withCtrl(page, 'z');
  await until(async () => (await cards()).length === 2, 'the project that is back');

  const broken = join(downloads, 'broken.zip');
  writeFileSync(broken, 'no archive at all');
  await (desk as ElementHandle<HTMLInputElement>).uploadFile(broken);
  await shows(page, 'This is no archive');
  await click(page, 'button', 'Put it away');

  await click(page, 'link', 'Harbour at night');
  await shows(page, 'wick-rounds');
  expect(new URL(page.url()).pathname).toBe('/gullmouth-2/takes');
  await page.locator('nav a[href="/gullmouth-2/ship"]').click();
  await allMeasured(page);
  // What is made from the same is known already.
  await shows(page, /of 14 are ready/);
  // Whoever comes again comes to what was open last.
  await page.goto(url());
  await shows(page, 'Harbour at night');
  expect(new URL(page.url()).pathname).toBe('/gullmouth-2/takes');
  expect(errors).toEqual([]);
  await page.close();
});

test('a project begins empty and takes its first file; one is duplicated; the demo comes once more', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${url()}/projects`);
  await click(page, 'button', 'New project');
  await page.locator('input[name=name]').fill('Ferry landing');
  await page.locator('input[name=character]').fill('Tallow');
  await click(page, 'button', 'Begin');
  await page.waitForFunction(() => location.pathname === '/ferry-landing/takes');
  await shows(page, 'Tallow');
  const take = join(temporaryFolder(), 'tallow-walk.bvh');
  writeFileSync(take, writeBvh(capture('walk', { seed: 3, seconds: 6 }).motion));
  const files = await page.waitForSelector('input[aria-label="Take files"]');
  await (files as ElementHandle<HTMLInputElement>).uploadFile(take);
  await page.waitForFunction(() => /^\/ferry-landing\/takes\/./.test(location.pathname));
  await click(page, 'link', 'Ferry landing');
  await shows(page, /1 take, 6 s/);
  await click(page, 'button', 'Duplicate Ferry landing');
  await shows(page, 'Ferry landing 2');
  const demos = () => page.$$eval('ul[aria-label=Projects] a', (all) => all.filter((own) => own.textContent === 'Gullmouth').length);
  const before = await demos();
  await click(page, 'button', 'Bring the demo in');
  await page.waitForSelector('[aria-label="Gullmouth, the demo progress"]');
  await page.waitForFunction(() => !document.querySelector('[aria-label="Gullmouth, the demo progress"]'));
  // The list stands still again when the new one is in it.
  await until(async () => (await demos()) === before + 1, 'the demo');
  await page.locator('li[aria-label="Ferry landing 2"] a').click();
  await shows(page, 'tallow-walk');
  expect(errors).toEqual([]);
  await page.close();
});
