import { parseProject, type Report } from '@lantern/motion';
import { unzipSync } from 'fflate';
import { click, openPage, retype, shows } from './browser';
import { session } from './session';
import { allMeasured } from './shipping';
import { until } from './waits';

const tests = session();
const url = () => tests.application.url;
const desk = () => `${url()}/gullmouth/ship`;

interface Listed {
  shipments: { id: string; state: string; done: number; of: number }[];
}
const shipments = async () => ((await (await fetch(`${url()}/api/projects/gullmouth/shipments`)).json()) as Listed).shipments;

test('a set is judged, the worst first; a bound that is let out makes clips ready, and is kept', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(desk());
  await allMeasured(page);
  // Worst first, with what to do; a bound that is let out makes a clip ready.
  await shows(page, /It stands [\d.]+ cm from the home pose\. Let its ends meet home\./);
  const ready = () => page.$eval('h1', (head) => Number(/^\d+/.exec(head.textContent ?? '')?.[0]));
  const before = await ready();
  await retype(page, 'Bound of off home', '30');
  await until(async () => (await ready()) > before, 'a clip that is ready now');
  await shows(page, 'all saved');
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
  expect(errors).toEqual([]);
  await page.close();
});
