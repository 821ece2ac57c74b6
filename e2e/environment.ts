import { TestEnvironment } from 'jest-environment-node';
import type { Page } from 'puppeteer-core';

/** How much of a page's text is told, characters: of its beginning and, because dialogs are there, of its end. */
const TOLD = 1000;

const bothEnds = (text: string): string => (text.length <= 2 * TOLD ? text : `${text.slice(0, TOLD)} […] ${text.slice(-TOLD)}`);

/** What the runner says of a test as it goes. */
interface Said {
  readonly name: string;
  readonly test?: { readonly name: string };
}

/** Runs tests of the interface; where one fails it says what its pages showed then, which its own error cannot know. */
export default class InterfaceEnvironment extends TestEnvironment {
  async handleTestEvent({ name, test }: Said): Promise<void> {
    if (name !== 'test_fn_failure') return;
    const { openedPages = new Set<Page>() } = this.global as { openedPages?: ReadonlySet<Page> };
    for (const page of openedPages) {
      const text = await page.evaluate(() => document.body.innerText).catch((error: unknown) => String(error));
      process.stderr.write(`"${test?.name}" failed at ${page.url()}, which showed:\n${bothEnds(text.replace(/\n+/g, ' | '))}\n`);
    }
  }
}
