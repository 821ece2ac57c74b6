import { parseProject, readGlb, type Report } from '@lantern/motion';
import { unzipSync } from 'fflate';
import { click, openPage, retype, shows } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';
import { allMeasured, keepsIn, shipClips } from './shipping';
import { until } from './waits';

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

test('a project leaves as an archive and comes in again, beside the one that is there', async () => {
  const archive = new Uint8Array(await (await fetch(`${url()}/api/projects/gullmouth/archive`)).arrayBuffer());
  const project = parseProject(Buffer.from(unzipSync(archive)['project.json']).toString());
  expect(project.clips).toHaveLength(13);
  const response = await fetch(`${url()}/api/archives`, { method: 'POST', body: archive, headers: { origin: url() } });
  const { id } = (await response.json()) as { id: string };
  expect(id).toBe('gullmouth-2');
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${url()}/${id}/takes`);
  await shows(page, 'wick-rounds');
  await page.goto(`${url()}/${id}/ship`);
  await allMeasured(page);
  // What is made from the same is known already.
  await shows(page, /of 14 are ready/);
  expect(errors).toEqual([]);
  await page.close();
});
