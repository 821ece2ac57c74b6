import { mkdir } from 'node:fs/promises';
import { click, launch, shows } from '../e2e/browser';

// Takes the pictures of docs/screenshots from the running application with its demo data: npm run screenshots [address]
const address = process.argv[2] ?? 'http://127.0.0.1:4180';
const folder = 'docs/screenshots';
await mkdir(folder, { recursive: true });
const browser = await launch();
const page = await browser.newPage();
const settle = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

await page.goto(`${address}/gullmouth/takes`);
await page.locator('::-p-text(wick-rounds)').click();
await page.waitForFunction(() => location.pathname.length > 30);
await shows(page, /frame \d+ of 2431/);
await page.mouse.click(742, 740);
await settle(1500);
await page.screenshot({ path: `${folder}/takes.png` });

await page.goto(`${address}/gullmouth/takes?capture`);
await click(page, 'button', 'Connect the suit');
await shows(page, /sensors are heard/);
await settle(1500);
await page.screenshot({ path: `${folder}/capture.png` });
await page.goto(`${address}/gullmouth/ship`);
await shows(page, /stroll-forward[\s\S]*m\/s/);
await settle(800);
await page.screenshot({ path: `${folder}/ship.png` });

await page.locator('::-p-text(stroll-forward)').click();
await shows(page, /best of \d+/);
await settle(2500);
await page.mouse.click(470, 650);
await settle(1500);
await page.screenshot({ path: `${folder}/bench.png` });
await click(page, 'button', 'map');
await settle(1500);
await page.screenshot({ path: `${folder}/bench-map.png` });
await click(page, 'button', 'Close the recurrence map');
const add = async (kind: string, section: string) => {
  await click(page, 'button', kind);
  await page.waitForSelector(`section[aria-label="${section} step"]`);
  await settle(1200);
};
await add('walk on', 'Walk on');
await add('path', 'Path');
await click(page, 'button', 'fit');
await page.$eval('section[aria-label="Walk on step"]', (element) => element.scrollIntoView());
await settle(2000);
await page.screenshot({ path: `${folder}/bench-path.png` });
for (const section of ['walk on', 'path']) await click(page, 'button', `Remove the ${section} step`);
await click(page, 'button', 'follow');
await add('retime', 'Retime');
await page.mouse.click(470, 600);
await settle(800);
await click(page, 'button', 'Hold the pose at the playhead');
await settle(2500);
await page.$eval('section[aria-label="Retime step"]', (element) => element.scrollIntoView());
await settle(800);
await page.screenshot({ path: `${folder}/bench-threads.png` });
await click(page, 'button', 'Remove the retime step');
await settle(1500);
await page.locator('::-p-text(night chart)').click();
await settle(600);
await page.screenshot({ path: `${folder}/bench-night.png` });
await browser.close();
