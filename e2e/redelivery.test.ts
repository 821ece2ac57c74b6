import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { cutMotion, writeBvh } from '@lantern/motion';
import type { Page } from 'puppeteer-core';
import { click, openPage, shows } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';
import { until } from './waits';

const tests = session();

/** Drops a file on a row of the list, as a hand does. */
async function dropOn(page: Page, row: string, file: string): Promise<void> {
  // The take's name stands beside the list too: it is shown before the list is.
  await page.waitForSelector(`[role=row][aria-label="${row}"] [data-field=name]`);
  await page.evaluate(() => document.body.insertAdjacentHTML('beforeend', '<input type="file" id="hand" hidden>'));
  await (await page.$('input#hand'))?.uploadFile(file);
  await page.evaluate((name: string) => {
    const dropped = document.querySelector<HTMLInputElement>('#hand')?.files?.[0];
    const target = document.querySelector(`[role=row][aria-label="${name}"] [data-field=name]`);
    if (!dropped || !target) throw new Error('nothing to drop, or nowhere');
    const dataTransfer = new DataTransfer();
    dataTransfer.items.add(dropped);
    for (const kind of ['dragenter', 'dragover', 'drop']) {
      target.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer }));
    }
    document.querySelector('#hand')?.remove();
  }, row);
}

const clipsOf = async () => {
  const data = (await (await fetch(`${tests.application.url}/api/projects/gullmouth`)).json()) as {
    takes: { id: string; name: string }[];
    clips: { name: string; source: { take: string; from: number; to: number } }[];
  };
  const nameOf = new Map(data.takes.map(({ id, name }) => [id, name]));
  // The demo has clips of other takes too.
  const ofRounds = data.clips.filter(({ name }) => ['stroll-forward', 'jog-forward'].includes(name));
  return ofRounds.map(({ name, source: { take, from, to } }) => ({ name, take: nameOf.get(take), from, to }));
};

test('a better solve dropped on a take in use: its clips find their places, are accepted, and undo brings all back', async () => {
  const before = await clipsOf();
  expect(before.every(({ take }) => take === 'wick-rounds')).toBe(true);
  // The demo's rounds without the suit's faults, at twice the rate, without its first half second.
  const { motion } = capture('rounds', { seed: 7, faults: 0, fps: 120 });
  const file = join(temporaryFolder(), 'rounds-solved-again.bvh');
  writeFileSync(file, writeBvh(cutMotion(motion, 60, motion.frames - 1)));
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await shows(page, 'wick-rounds');
  await dropOn(page, 'wick-rounds', file);
  await shows(page, 'A new delivery of “wick-rounds”');
  await shows(page, /begins 0\.50 s into it, has 120 frames a second instead of 60/);
  const first = await page.waitForFunction(
    () => [...document.querySelectorAll('button')].find((it) => it.textContent === 'Accept, with 2 of 2 clips')?.getBoundingClientRect().y,
  );
  const heightOfAccept = (await first.jsonValue()) ?? NaN;
  // Its chart is read now, in the room that is kept for it: the button stays where the hand goes.
  await page.waitForSelector('[role=dialog] [role=img] svg');
  const accept = await page.waitForSelector('::-p-aria([role="button"][name="Accept, with 2 of 2 clips"])');
  expect((await accept?.boundingBox())?.y).toBeCloseTo(heightOfAccept, 0);
  expect((await clipsOf()).every(({ take }) => take === 'wick-rounds')).toBe(true);
  await click(page, 'button', 'Accept, with 2 of 2 clips');
  await page.waitForSelector('[role=row][aria-label="wick-rounds (earlier)"]');
  const settled = (take: string) =>
    until(async () => {
      const now = await clipsOf();
      return now.every((clip) => clip.take === take) && now;
    }, `all clips cut from ${take}`);
  const after = await settled('wick-rounds');
  after.forEach((clip, i) => {
    expect(clip.name).toBe(before[i].name);
    expect(Math.abs(clip.from - (before[i].from - 30) * 2)).toBeLessThanOrEqual(1);
    expect(Math.abs(clip.to - (before[i].to - 30) * 2)).toBeLessThanOrEqual(1);
  });
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await shows(page, 'Undone: “wick-rounds” redelivered.');
  await page.waitForFunction(() => !document.querySelector('[role=row][aria-label="wick-rounds (earlier)"]'));
  expect(await settled('wick-rounds')).toEqual(before);
  expect(errors).toEqual([]);
  await page.close();
});

test('takes that come in again under their names are redelivered all at once: one report, one click, one undo', async () => {
  const folder = temporaryFolder();
  const files = [
    ['walk', 'wick-stroll', 11, 20],
    ['jog', 'wick-jog', 12, 14],
  ] as const;
  for (const [script, name, seed, seconds] of files)
    writeFileSync(join(folder, `${name}.bvh`), writeBvh(capture(script, { seed, seconds, faults: 0, fps: 120 }).motion));
  const cutsOf = async () => {
    const data = (await (await fetch(`${tests.application.url}/api/projects/gullmouth`)).json()) as {
      takes: { id: string; name: string }[];
      clips: { source: { take: string } }[];
    };
    return data.clips.map(({ source }) => data.takes.find(({ id }) => id === source.take)?.name ?? '').sort();
  };
  const before = await cutsOf();
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes`);
  await shows(page, 'wick-stroll');
  await page.waitForSelector('input[aria-label="Take files"]');
  await (await page.$('input[type=file]'))?.uploadFile(...files.map(([, name]) => join(folder, `${name}.bvh`)));
  await shows(page, '2 takes are here twice: new deliveries?');
  await click(page, 'button', 'see what changes…');
  await shows(page, '2 takes delivered anew');
  await shows(page, /\d of \d clips are in the new takes/);
  const accept = await page.waitForSelector('::-p-xpath(//button[starts-with(., "Accept 2 takes")])');
  await accept?.click();
  await shows(page, '2 takes redelivered; the old ones stay, called “(earlier)”.');
  const moved = await until(async () => {
    const now = await cutsOf();
    return !now.some((name) => name.endsWith('(earlier)')) && now;
  }, 'all clips cut from the new takes');
  expect(moved).toEqual(before);
  await page.waitForFunction(() => !document.body.innerText.includes('here twice'));
  await page.keyboard.down('Control');
  await page.keyboard.press('z');
  await page.keyboard.up('Control');
  await shows(page, 'Undone: 2 takes redelivered.');
  await shows(page, '2 takes are here twice: new deliveries?');
  expect(errors).toEqual([]);
  await page.close();
});
