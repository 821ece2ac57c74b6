import type { Browser } from 'puppeteer-core';
import { launch } from './browser';
import { startApplication, type Running } from './server';

/** An application and a browser for all tests of a file, started before the first of them and stopped after the last. */
export function session(options: Parameters<typeof startApplication>[0] = {}): {
  readonly application: Running;
  readonly browser: Browser;
} {
  let running: { application: Running; browser: Browser } | null = null;
  const open = () => {
    if (!running) throw new Error('asked for before the tests began');
    return running;
  };
  beforeAll(async () => {
    const [application, browser] = await Promise.all([startApplication(options), launch()]);
    running = { application, browser };
  });
  afterAll(async () => {
    await running?.browser.close();
    await running?.application.stop();
  });
  return {
    get application() {
      return open().application;
    },
    get browser() {
      return open().browser;
    },
  };
}
