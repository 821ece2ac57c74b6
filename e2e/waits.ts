import { existsSync, readdirSync } from 'node:fs';
import { dirname } from 'node:path';
import type { Page } from 'puppeteer-core';

/** Long enough for a machine three times slower than any that was seen, milliseconds; what is waited for usually comes at once. */
export const PATIENCE = 180_000;
const PAUSE = 100;

/**
 * Waits until a question has an answer other than undefined or false.
 *
 * @param what is waited for, in the words of the error
 */
export async function until<T>(
  ask: () => Promise<T | undefined | false> | T | undefined | false,
  what: string | (() => string),
): Promise<T> {
  for (const end = Date.now() + PATIENCE; Date.now() < end;) {
    const answer = await ask();
    if (answer !== undefined && answer !== false) return answer;
    await new Promise((resolve) => setTimeout(resolve, PAUSE));
  }
  throw new Error(`It never came: ${typeof what === 'string' ? what : what()}`);
}

/** Waits until a download is whole. */
export const fileArrives = (file: string) =>
  until(() => existsSync(file) && !readdirSync(dirname(file)).some((name) => name.endsWith('.crdownload')), `the file ${file}`);

/** Waits until a part of the page looks the same in three pictures one after the other: fades, flights of the camera and drawing are over. */
export async function standsStill(page: Page, selector: string): Promise<void> {
  const pictures: string[] = [];
  const part = await page.waitForSelector(selector);
  if (!part) throw new Error(`There is no ${selector}`);
  await until(async () => {
    pictures.push(await part.screenshot({ encoding: 'base64' }));
    return pictures.length > 2 && new Set(pictures.slice(-3)).size === 1;
  }, `a still picture of ${selector}`);
}
