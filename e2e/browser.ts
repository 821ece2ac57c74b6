import puppeteer, { type Browser, type KeyInput, type Page } from 'puppeteer-core';
import { PATIENCE, until } from './waits';

export const launch = (): Promise<Browser> =>
  puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--ignore-gpu-blocklist',
      // Where the graphics card is played by a program, that draws the stage only: text and boxes cost a third of it drawn plainly.
      '--disable-gpu-rasterization',
      '--disable-gpu-compositing',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
    // What people see has scroll bars.
    ignoreDefaultArgs: ['--hide-scrollbars'],
    defaultViewport: { width: 1280, height: 800 },
  });

/** The pages that a test has open. When it fails, what they show is told beside the failure: see environment.ts. */
const opened = new Set<Page>();
Object.assign(globalThis, { openedPages: opened });

/** A page whose errors are collected; the test says at its end that there were none. */
export async function openPage(browser: Browser): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error instanceof Error ? error.message : String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error' && !/status of 4(22|09)/.test(message.text())) errors.push(message.text());
  });
  page.setDefaultTimeout(PATIENCE);
  opened.add(page);
  page.once('close', () => opened.delete(page));
  return { page, errors };
}

/** What is said of a question to a page that went to another before it answered. */
const WENT_ON = /Execution context was destroyed|Cannot find context|context with specified id|Inspected target navigated/;

/** Waits until the page shows some text, whichever pages it goes through on the way. */
export async function shows(page: Page, text: string | RegExp): Promise<void> {
  const pattern = typeof text === 'string' ? text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&') : text.source;
  // Looked for within the page, so that what is shown for a moment only is seen too.
  const looksForASecond = async (own: string) => {
    for (const end = performance.now() + 1000; performance.now() < end; await new Promise((resolve) => setTimeout(resolve, 30))) {
      if (new RegExp(own).test(document.body?.innerText ?? '')) return true;
    }
    return false;
  };
  await until(
    () =>
      page.evaluate(looksForASecond, pattern).catch((error: unknown) => {
        if (error instanceof Error && WENT_ON.test(error.message)) return false;
        throw error;
      }),
    `the text ${text}`,
  );
}

/** Clicks what has a role and name. */
export const click = (page: Page, role: string, name: string) => page.locator(`::-p-aria([role="${role}"][name="${name}"])`).click();

/** Clicks the button of a part of the page that has a text, as soon as it is there. */
export const clickIn = (page: Page, part: string, text: string) =>
  page.waitForFunction(
    (within: string, wanted: string) => {
      const found = [...document.querySelectorAll<HTMLElement>(`${within} button`)].find((button) => button.textContent === wanted);
      found?.click();
      return found !== undefined;
    },
    {},
    part,
    text,
  );

/** Presses a key with Ctrl. */
export async function withCtrl(page: Page, key: KeyInput, shift = false): Promise<void> {
  await page.keyboard.down('Control');
  if (shift) await page.keyboard.down('Shift');
  await page.keyboard.press(key);
  if (shift) await page.keyboard.up('Shift');
  await page.keyboard.up('Control');
}

/** Types another text into a field and leaves it with Enter. */
export async function retype(page: Page, name: string, text: string): Promise<void> {
  await page.locator(`::-p-aria([role="textbox"][name="${name}"])`).click();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

/** Reads one figure of a group by its label, as shown. */
export const figure = (page: Page, group: string, label: string) =>
  page.evaluate(
    (g: string, l: string) => {
      const rows = [...document.querySelectorAll(`[data-figures="${g}"] > div`)];
      return rows.find((row) => row.firstElementChild?.textContent === l)?.lastElementChild?.textContent ?? null;
    },
    group,
    label,
  );

/** Puts the focus on a part of the page, as Tab would, as soon as it is there. */
export async function focusOn(page: Page, selector: string): Promise<void> {
  const part = await page.waitForSelector(selector);
  await part?.evaluate((element) => {
    if (element instanceof HTMLElement || element instanceof SVGElement) element.focus();
  });
}
