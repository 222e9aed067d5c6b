import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { build, preview } from 'vite';
import { ROOT } from '../support.js';
import { launch } from './chromium.js';

export interface Opened {
  readonly page: Page;
  /** Whatever went wrong in the page. */
  readonly faults: readonly string[];
  /** Waits until the element that shows this has a text like that, for so many milliseconds at most. */
  shows(key: string, text: string | RegExp, most?: number): Promise<unknown>;
  /** Waits for so many more ticks of the page. */
  ticks(count: number): Promise<unknown>;
  close(): Promise<void>;
}

/**
 * Builds an example, serves it and opens it in a real browser: in slow motion, so that what is short is seen where a machine draws few frames, and
 * small, since pixels are drawn without a graphics card.
 */
export async function openExample(name: string, speed: number, width = 640): Promise<Opened> {
  const configFile = join(ROOT, `examples/${name}/vite.config.ts`);
  const browser = await launch();
  await build({ configFile, logLevel: 'error' });
  const server = await preview({ configFile, logLevel: 'error', preview: { port: 0 } });
  const page = await browser.newPage({ viewport: { width, height: width * 0.625 } });
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(error.message));
  await page.goto(`${server.resolvedUrls?.local[0]}?speed=${speed}`);
  await page.waitForSelector('canvas');
  return {
    page,
    faults,
    shows: (key, text, most = 20_000) =>
      page
        .waitForFunction(
          ([key, source]) => new RegExp(source).test(document.querySelector(`[data-show="${key}"]`)?.textContent ?? ''),
          [key, typeof text === 'string' ? text : text.source] as const,
          { timeout: most },
        )
        .catch(async () => {
          const seen = await page.evaluate(() => document.body.textContent);
          throw new Error(`${key} never showed ${text}; the page reads: ${seen} ${faults.join()}`);
        }),
    async ticks(count) {
      const now = await page.evaluate(() => Number(document.body.dataset.ticks));
      await page.waitForFunction((end) => Number(document.body.dataset.ticks) >= end, now + count);
    },
    async close() {
      await browser.close();
      await server.close();
    },
  };
}
