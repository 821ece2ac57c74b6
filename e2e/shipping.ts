import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { Page } from 'puppeteer-core';
import { click, shows } from './browser';
import { fileArrives, until } from './waits';

/** Lets the browser keep what it is given in a folder. */
export async function keepsIn(page: Page, folder: string): Promise<void> {
  await (await page.createCDPSession()).send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
}

/** Waits until every clip of the desk is measured. */
export async function allMeasured(page: Page): Promise<void> {
  await shows(page, /\d+ of \d+ (is|are) ready/);
  await page.waitForFunction(() => !document.body.innerText.includes('still being measured'));
}

/**
 * Ships these clips and no others from the desk, which is open, and gives the files of the archive that the browser kept, by their names.
 *
 * @param downloads where the browser keeps what it is given
 */
export async function shipClips(page: Page, downloads: string, names: readonly string[]): Promise<Record<string, Uint8Array>> {
  // Tall enough for all rows: what is out of sight is not drawn.
  await page.setViewport({ width: 1280, height: 1700 });
  await allMeasured(page);
  const button = `Ship ${names.length} ${names.length === 1 ? 'clip' : 'clips'}`;
  // The list may still be put in order anew, and rows come and go with it: until the button says what is asked.
  await until(async () => {
    await page.evaluate((wanted: readonly string[]) => {
      for (const box of document.querySelectorAll<HTMLInputElement>('input[type=checkbox][aria-label^="Ship "]')) {
        const name = box.getAttribute('aria-label')?.slice(5) ?? '';
        if (name !== 'all clips' && box.checked !== wanted.includes(name)) box.click();
      }
    }, names);
    return (await page.$(`::-p-aria([role="button"][name="${button}"])`)) !== null;
  }, `the button “${button}”`);
  await click(page, 'button', button);
  const archive = await until(() => readdirSync(downloads).find((name) => name.endsWith('.zip')), 'the archive');
  const path = join(downloads, archive);
  await fileArrives(path);
  const files = unzipSync(new Uint8Array(readFileSync(path)));
  rmSync(path);
  return files;
}

/** One of the files, kept where other programs can read it. */
export function keptFile(files: Record<string, Uint8Array>, name: string, folder: string): string {
  const path = join(folder, name.replace(/^.*\//, ''));
  if (!files[name]) throw new Error(`${name} is not among ${Object.keys(files).join(', ')}`);
  writeFileSync(path, files[name]);
  return path;
}
