import type { Page } from 'puppeteer-core';
import { inBrowser } from './timeline';

const ROUNDS = 5;

/** Cold start: nothing kept of the application; warm: everything is. Milliseconds and bytes over the wire. */
interface Start {
  readonly milliseconds: number;
  readonly scripts: number;
  readonly bytes: number;
}

/** Opens the workbench and waits until its first segment can be pressed and the view has a picture. */
async function start(page: Page, url: string): Promise<Start> {
  const session = await page.createCDPSession();
  await session.send('Network.enable');
  const scripts = new Set<string>();
  const sizes = { scripts: 0, bytes: 0 };
  session.on('Network.responseReceived', (e) => e.type === 'Script' && scripts.add(e.requestId));
  session.on('Network.loadingFinished', (e) => {
    sizes.bytes += e.encodedDataLength;
    if (scripts.has(e.requestId)) sizes.scripts += e.encodedDataLength;
  });
  const since = performance.now();
  await page.goto(url, { waitUntil: 'commit' as 'load' }).catch(() => page.goto(url));
  await page.waitForSelector('[data-segment]', { timeout: 60_000 });
  await page.waitForFunction(() => document.querySelector('[data-view] canvas, canvas[data-engine]'), {
    timeout: 60_000,
  });
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve))));
  const milliseconds = performance.now() - since;
  await session.detach();
  return { milliseconds, ...sizes };
}
