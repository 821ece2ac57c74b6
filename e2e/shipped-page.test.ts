import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { build } from 'esbuild';
import { unzipSync } from 'fflate';
import { openPage } from './browser';
import { session } from './session';
import { until } from './waits';

/** The code of the runtime's page about itself that plays a shipped set: what is written there is what runs here. */
function twentyLines(): string {
  const page = readFileSync(join(__dirname, '../packages/drive/README.md'), 'utf8');
  const found = /## Twenty lines[\s\S]*?```ts\n([\s\S]*?)```/.exec(page)?.[1];
  if (!found) throw new Error('the page has no such lines');
  return found;
}

const BEFORE = `
import * as THREE from 'three';
const renderer = new THREE.WebGLRenderer();
renderer.setSize(320, 240);
document.body.append(renderer.domElement);
const scene = new THREE.Scene();
scene.add(new THREE.HemisphereLight());
const camera = new THREE.PerspectiveCamera(40, 4 / 3, 0.1, 50);
camera.position.set(4, 1.5, 2);
const clock = new THREE.Clock();
const keys = new Set();
addEventListener('keydown', ({ key }) => keys.add(key));
addEventListener('keyup', ({ key }) => keys.delete(key));
`;
const AFTER = `
const at = new THREE.Vector3();
window.feet = () => ['left', 'right'].map((side) => set.skeleton.soles[side].map(({ joint, x, y, z }) => bones[joint].localToWorld(at.set(x, y, z)).toArray()));
window.root = () => [root.position.x, root.position.z];
window.isDown = () => [...player.down];
`;

/** The demo's set as the application ships it, thinned, under the names that the page asks for. */
async function shipped(): Promise<ReadonlyMap<string, Uint8Array>> {
  const { url } = tests.application;
  const shipments = `${url}/api/projects/gullmouth/shipments`;
  const begun = await fetch(shipments, { method: 'POST', headers: { origin: url }, body: JSON.stringify({ ship: { fps: 30, thin: {} } }) });
  if (!begun.ok) throw new Error(`Nothing was shipped: ${await begun.text()}`);
  const { id } = (await begun.json()) as { id: string };
  let said = '';
  await until(
    async () => {
      const listed = (await (await fetch(shipments)).json()) as {
        shipments: { id: string; state: string; done: number; message: string }[];
      };
      const own = listed.shipments.find((other) => other.id === id);
      said = JSON.stringify(own);
      if (own?.state === 'failed') throw new Error(`The shipment failed: ${own.message}`);
      return own?.state === 'done';
    },
    () => `the shipment, which is now ${said}`,
  );
  const files = unzipSync(new Uint8Array(await (await fetch(`${url}/api/shipments/${id}/zip`)).arrayBuffer()));
  return new Map(Object.entries(files).map(([path, bytes]) => [path.replace(/^wick\./, 'set.'), bytes]));
}

const tests = session();
let server: Server;
beforeAll(async () => {
  const { outputFiles } = await build({
    stdin: { contents: `${BEFORE}\n${twentyLines()}\n${AFTER}`, resolveDir: __dirname, loader: 'ts' },
    bundle: true,
    format: 'esm',
    target: 'es2022',
    write: false,
  });
  const files = new Map<string, Uint8Array | string>([
    ...(await shipped()),
    ['page.js', outputFiles[0].contents],
    ['', '<!doctype html><link rel="icon" href="data:,"><body><script type="module" src="page.js"></script>'],
  ]);
  server = createServer(({ url = '/' }, response) => {
    const file = files.get(url.slice(1));
    response.writeHead(file ? 200 : 404, {
      'content-type': url.endsWith('.js') ? 'text/javascript' : url === '/' ? 'text/html' : 'application/octet-stream',
    });
    response.end(file);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(() => server?.close());

interface Shown {
  feet(): number[][][];
  root(): [number, number];
  isDown(): number[];
}

test('the lines of the runtime’s own page play what the application ships with three: he goes, and feet that bear stay where they are on the screen', async () => {
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
  await page.waitForFunction(() => 'isDown' in window);
  await page.keyboard.down('w');
  await page.waitForFunction(() => (window as unknown as Shown).root()[1] > 1);
  // From picture to picture: how far the point of the sole that is lowest moves while the foot bears.
  const { slid, frames, low, went } = await page.evaluate(async () => {
    const shown = window as unknown as Shown;
    let [slid, frames, low] = [0, 0, Infinity];
    let before: { feet: number[][][]; down: number[] } | null = null;
    const [, from] = shown.root();
    const begun = performance.now();
    while (performance.now() - begun < 3000) {
      await new Promise((resolve) => requestAnimationFrame(resolve));
      const now = { feet: shown.feet(), down: shown.isDown() };
      for (const side of [0, 1]) {
        for (const [, y] of now.feet[side]) low = Math.min(low, y);
        if (!before || !before.down[side] || !now.down[side]) continue;
        // Of heel, ball and tip the one that moved least bears.
        const moved = now.feet[side].map(([x, , z], i) =>
          Math.hypot(x - (before?.feet[side][i][0] ?? 0), z - (before?.feet[side][i][2] ?? 0)),
        );
        slid = Math.max(slid, Math.min(...moved));
      }
      before = now;
      frames++;
    }
    return { slid, frames, low, went: shown.root()[1] - from };
  });
  expect(frames).toBeGreaterThan(10);
  expect(went).toBeGreaterThan(2.5);
  expect(went).toBeLessThan(5.5);
  expect(slid).toBeLessThan(0.006);
  expect(low).toBeGreaterThan(-0.03);
  expect(errors).toEqual([]);
  await page.close();
});
