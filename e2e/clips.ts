import { randomUUID } from 'node:crypto';
import type { RecipeStepInput } from '@lantern/motion';
import type { Page } from 'puppeteer-core';
import { until } from './waits';

export interface SavedClip {
  readonly id: string;
  readonly name: string;
  readonly source: { readonly take: string; readonly from: number; readonly to: number };
  readonly steps: readonly ({ readonly id: string; readonly kind: string } & Readonly<Record<string, unknown>>)[];
  readonly gait: string;
  readonly direction: string;
}

export interface SavedProject {
  readonly takes: readonly { readonly id: string; readonly name: string; readonly markers: readonly { readonly name: string }[] }[];
  readonly clips: readonly SavedClip[];
}

/** What the server has of the demo project. */
export const projectOf = async (url: string) => (await (await fetch(`${url}/api/projects/gullmouth`)).json()) as SavedProject;

/** Waits until what the server has answers to a question. */
export const settles = <T>(url: string, ask: (data: SavedProject) => T | undefined | false): Promise<T> =>
  until(async () => ask(await projectOf(url)), 'what the server was to have');

/** Waits until what the server has of a clip answers to a question. */
export const settlesIn = <T>(url: string, name: string, ask: (clip: SavedClip) => T | undefined | false): Promise<T> =>
  settles(url, ({ clips }) => {
    const clip = clips.find((c) => c.name === name);
    return clip && ask(clip);
  });

export const savedStep = (clip: SavedClip, kind: string) => clip.steps.find((step) => step.kind === kind);

/** A clip that is there before a test begins, cut where the demo's own one of its name is unless it says otherwise. */
export async function makeClip(
  url: string,
  name: string,
  { like = 'stroll-forward', take, ...cut }: { like?: string; take?: string; from?: number; to?: number },
  steps: readonly RecipeStepInput[],
): Promise<string> {
  const { takes, clips } = await projectOf(url);
  const model = clips.find((clip) => clip.name === like)?.source;
  const source = { ...model, ...cut, ...(take && { take: takes.find((t) => t.name === take)?.id }) };
  const id = randomUUID();
  const response = await fetch(`${url}/api/projects/gullmouth/clips/${id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', origin: url },
    body: JSON.stringify({ name, source, steps, revision: 0 }),
  });
  if (!response.ok) throw new Error(`${name} was not made: ${await response.text()}`);
  return id;
}

/** Opens a clip on the Bench, and waits until it is measured. */
export async function openClip(page: Page, url: string, id: string): Promise<void> {
  await page.goto(`${url}/gullmouth/bench/${id}`);
  await page.waitForSelector('[role="slider"][aria-label="Out post"]');
  await page.waitForFunction(() => {
    const rows = [...document.querySelectorAll('[data-figures="finished"] > div')];
    const said = rows.find((row) => row.firstElementChild?.textContent === 'speed')?.lastElementChild?.textContent ?? '–';
    return said !== '–';
  });
}

/** Unfolds the card of a step unless it is open. */
export async function unfold(page: Page, title: string): Promise<void> {
  const card = `section[aria-label="${title} step"]`;
  await page.waitForSelector(card);
  const fold = await page.$(`${card} button[aria-label="Unfold ${title} step"]`);
  await fold?.click();
  await page.waitForSelector(`${card} button[aria-label="Fold ${title} step"]`);
}

/** Adds a step from the menu; its card opens. */
export async function addStep(page: Page, title: string): Promise<void> {
  await page.locator('::-p-aria([role="button"][name="Add a step"])').click();
  await page.locator(`::-p-xpath(//li[@role="menuitem"][.//span[text()="${title}"]])`).click();
  await page.waitForFunction(() => !document.querySelector('[role=menu], .MuiBackdrop-root'));
  await page.waitForSelector(`section[aria-label="${title} step"] button[aria-label="Fold ${title} step"]`);
}
