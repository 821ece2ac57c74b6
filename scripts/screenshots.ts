import { mkdir } from 'node:fs/promises';
import { click, launch, shows } from '../e2e/browser';
import { addStep, makeClip, unfold } from '../e2e/clips';

// Takes the pictures of docs/screenshots from the running application with its demo data: npm run screenshots [address]
const address = process.argv[2] ?? 'http://127.0.0.1:4180';
const folder = 'docs/screenshots';
await mkdir(folder, { recursive: true });
const browser = await launch();
const page = await browser.newPage();
// As with a graphics card: where the program that plays one does not tell its name, what moves is not drawn coarser.
await page.evaluateOnNewDocument(() => {
  WebGL2RenderingContext.prototype.getExtension = new Proxy(WebGL2RenderingContext.prototype.getExtension, {
    apply: (own, context, [name]: [string]) => (name === 'WEBGL_debug_renderer_info' ? null : Reflect.apply(own, context, [name])),
  });
});
const settle = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

await page.goto(`${address}/gullmouth/takes`);
await page.locator('[data-take] ::-p-text(wick-rounds)').click();
await page.waitForFunction(() => location.pathname.length > 30);
await shows(page, /frame \d+ of 2431/);
await page.mouse.click(742, 740);
await settle(1500);
await page.screenshot({ path: `${folder}/takes.png` });

await page.goto(`${address}/gullmouth/takes?capture`);
await click(page, 'button', 'Connect the suit');
await shows(page, /sensors are heard/);
await settle(6000);
await page.screenshot({ path: `${folder}/capture.png` });
await page.goto(`${address}/gullmouth/fit`);
await click(page, 'radio', 'Tallow 1.50 m, 43 joints');
await page.waitForSelector('[aria-label="Figures of the fit"]');
await settle(2500);
await page.mouse.click(260, 760);
await settle(1500);
await page.screenshot({ path: `${folder}/fit.png` });
await click(page, 'tab', 'Reference');
await click(page, 'button', 'front');
await settle(2000);
await page.screenshot({ path: `${folder}/fit-reference.png` });
await click(page, 'button', 'follow');
await page.goto(`${address}/gullmouth/joins`);
await page.waitForSelector('button[aria-label^="Proposal 1:"]');
await page.locator('button[aria-label^="Join 2:"]').click();
await page.waitForFunction(() => /stroll-forward → jog-forward/.test(document.body.innerText));
await settle(1500);
// In the middle of the chosen overlap, where both pieces are seen.
const crossing = await (await page.waitForSelector('[role=slider][aria-label^="Where piece 2 and"]'))?.boundingBox();
await page.mouse.click((crossing?.x ?? 464) + (crossing?.width ?? 0) / 2, 490);
await settle(2000);
await page.screenshot({ path: `${folder}/joins.png` });
await page.goto(`${address}/gullmouth/set`);
await shows(page, /of 31 there/);
await settle(1500);
await page.screenshot({ path: `${folder}/set-coverage.png` });
await page.locator('::-p-text(Contract)').click();
await shows(page, /from standing/);
await settle(1500);
await page.screenshot({ path: `${folder}/set-contract.png` });
await page.locator('::-p-text(Fields)').click();
await shows(page, /No shallows/);
const puck = await (await page.waitForSelector('[role=slider][aria-label^="What is asked of"]'))?.boundingBox();
await page.mouse.move((puck?.x ?? 360) + (puck?.width ?? 0) / 2, (puck?.y ?? 430) + (puck?.height ?? 0) / 2);
await page.mouse.down();
await page.mouse.move(300, 360, { steps: 12 });
await page.mouse.up();
await settle(4000);
await page.screenshot({ path: `${folder}/set-field.png` });
await page.locator('::-p-text(Graph)').click();
await shows(page, /channels: \d+ hold/);
await settle(3000);
await page.screenshot({ path: `${folder}/set-graph.png` });
await page.goto(`${address}/gullmouth/drive`);
await shows(page, 'to the Graph');
await click(page, 'button', 'Try it');
await shows(page, /changes tried/);
await click(page, 'button', 'Tallow beside him');
await page.waitForSelector('[aria-label="Without Tallow"]');
await page.waitForFunction(() => !document.querySelector('[aria-label="Fitting the set"]'));
await click(page, 'button', 'Led by a capsule');
await page.locator('::-p-text(from the quay)').click();
await settle(1500);
await page.evaluate(() => {
  for (const key of ['w', 'shift']) window.dispatchEvent(new KeyboardEvent('keydown', { key }));
});
await settle(300);
// At rest it is drawn as sharply as the screen has it.
await click(page, 'button', 'Pause');
await settle(2500);
await page.screenshot({ path: `${folder}/drive.png` });
await page.goto(`${address}/gullmouth/ship`);
await shows(page, /\d+ of \d+ are ready/);
await page.waitForFunction(() => !document.body.innerText.includes('still being measured'));
await page.locator('aside[aria-label="Shipment"] button.MuiButton-fullWidth').click();
await shows(page, 'none touched');
await settle(800);
await page.screenshot({ path: `${folder}/ship.png` });

await page.locator('[role=row][aria-label="stroll-forward"] a').click();
await shows(page, /best of \d+/);
await settle(2500);
await page.mouse.click(470, 650);
await settle(1500);
await page.screenshot({ path: `${folder}/bench.png` });
for (const title of ['Clean', 'Hips', 'Follow later']) await addStep(page, title);
await page.waitForFunction(() => /lag/.test(document.querySelector('[aria-label="Follow later step"]')?.textContent ?? ''));
await settle(2500);
await page.screenshot({ path: `${folder}/bench-clean.png` });
for (const section of ['clean', 'hips', 'follow later']) await click(page, 'button', `Remove the ${section} step`);
await click(page, 'button', 'map');
await settle(1500);
await page.screenshot({ path: `${folder}/bench-map.png` });
await click(page, 'button', 'Close the recurrence map');
await addStep(page, 'Walk on');
await addStep(page, 'Path');
await settle(1200);
await click(page, 'button', 'fit');
await page.$eval('section[aria-label="Walk on step"]', (element) => element.scrollIntoView());
await settle(2000);
await page.screenshot({ path: `${folder}/bench-path.png` });
for (const section of ['walk on', 'path']) await click(page, 'button', `Remove the ${section} step`);
await click(page, 'button', 'follow');
await addStep(page, 'Retime');
await settle(1200);
await page.mouse.click(470, 600);
await settle(800);
await click(page, 'button', 'Hold the pose at the playhead');
await settle(2500);
await page.$eval('section[aria-label="Retime step"]', (element) => element.scrollIntoView());
await settle(800);
await page.screenshot({ path: `${folder}/bench-threads.png` });
await click(page, 'button', 'Remove the retime step');
await settle(1500);
const turn = (frame: number, joint: string, ...degrees: [number, number, number]) => ({ frame, joint, turn: degrees });
const corrected = await makeClip(address, 'stroll-hand-to-hip', { take: 'wick-stroll', from: 300, to: 500 }, [
  { kind: 'foot-lock' },
  {
    kind: 'hand-lock',
    contacts: { left: [{ from: 60, to: 113, on: { to: 'joint', joint: 'LeftThigh', at: [0.13, 0.13, 0.03] } }], right: [] },
  },
  {
    kind: 'corrections',
    layers: [
      {
        name: 'hand to the hip',
        touches: [
          {
            limb: 'left hand',
            ...{ from: 60, to: 112, fadeIn: 16, fadeOut: 18, swivel: 18 },
            target: { to: 'joint', joint: 'LeftThigh', at: [0.13, 0.13, 0.03] },
          },
        ],
      },
      { name: 'head higher', weight: 0.6, fadeIn: 30, fadeOut: 30, keys: [turn(70, 'Head', -24, 0, 0), turn(140, 'Head', -16, 8, 0)] },
      { name: 'elbow off the coat', muted: true, keys: [turn(40, 'RightArm', 0, 0, -20), turn(72, 'RightArm', 0, 0, -10)] },
    ],
  },
  { kind: 'travel' },
  { kind: 'thin' },
]);
await page.goto(`${address}/gullmouth/bench/${corrected}`);
await shows(page, /hips to root/);
await page.keyboard.press('c');
await unfold(page, 'Corrections');
await click(page, 'button', 'Open layer head higher');
await page.keyboard.press('Escape');
await settle(1000);
for (let i = 0; i < 9; i++) {
  await page.keyboard.down('Shift');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.up('Shift');
}
await click(page, 'button', 'See the clip without the corrections step as a ghost');
await click(page, 'button', 'Trails of hands');
await page.locator('input[aria-label="Show the balance"]').click();
await page.$eval('section[aria-label="Foot lock step"]', (element) => element.scrollIntoView());
await settle(2500);
await page.mouse.move(700, 700);
await settle(600);
await page.screenshot({ path: `${folder}/bench-corrections.png` });
await click(page, 'button', 'Trails of hands');
await page.locator('input[aria-label="Show the balance"]').click();
await click(page, 'button', 'correct');
await page.goto(`${address}/gullmouth/bench`);
await shows(page, /best of \d+/);
await settle(2500);
await click(page, 'button', 'Night chart');
await settle(600);
await page.screenshot({ path: `${folder}/bench-night.png` });
await click(page, 'button', 'Day chart');
const ask = (start: object) =>
  fetch(`${address}/api/projects`, { method: 'POST', headers: { origin: address }, body: JSON.stringify(start) });
await ask({ name: 'Ferry landing', character: 'Tallow', fps: 30 });
await ask({ copyOf: 'gullmouth' });
await page.goto(`${address}/projects`);
await shows(page, 'Gullmouth 2');
await settle(600);
await page.screenshot({ path: `${folder}/projects.png` });
await browser.close();
