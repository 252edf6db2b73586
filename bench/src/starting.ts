import type { Browser, Page } from 'puppeteer-core';
import { inBrowser } from './timeline';

/** Starts of which the median is told. */
const ROUNDS = 5;

/** What is asked of a start: milliseconds, and kilobytes over the wire. */
const ASKED = { cold: 3000, warm: 1200, scripts: 900, all: 1500 };

/** A start: milliseconds until the workbench answers, and kilobytes that came over the wire until then. */
interface Start {
  readonly milliseconds: number;
  readonly scripts: number;
  readonly all: number;
}

/** Opens an address in a page and waits for what shows that it answers. */
async function start(page: Page, url: string, ready: string): Promise<Start> {
  const session = await page.createCDPSession();
  await session.send('Network.enable');
  const scripts = new Set<string>();
  const bytes = { scripts: 0, all: 0 };
  session.on('Network.responseReceived', (e) => {
    if (e.type === 'Script') scripts.add(e.requestId);
  });
  session.on('Network.dataReceived', (e) => {
    bytes.all += e.encodedDataLength;
    if (scripts.has(e.requestId)) bytes.scripts += e.encodedDataLength;
  });
  const since = performance.now();
  await page.goto(url, { waitUntil: 'domcontentloaded' });
  await page.waitForSelector(ready, { timeout: 60_000 });
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve))));
  const milliseconds = performance.now() - since;
  await session.detach();
  return { milliseconds, scripts: bytes.scripts / 1000, all: bytes.all / 1000 };
}

/** A visit of somebody of whom nothing is kept. */
async function cold(browser: Browser, url: string, ready: string): Promise<Start> {
  const context = await browser.createBrowserContext();
  try {
    const page = await context.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    return await start(page, url, ready);
  } finally {
    await context.close();
  }
}

const median = (list: readonly Start[], key: keyof Start): number =>
  list.map((s) => s[key]).sort((a, b) => a - b)[list.length >> 1]!;

/** What the demonstration's workbench shows once it answers. */
const WORKBENCH = '[data-segment]';

/**
 * From an address to a workbench that answers, first with nothing kept, then with everything; beside a plain page of the same
 * server, opened as often.
 */
export async function benchStarting(): Promise<void> {
  await inBrowser(async (page, origin) => {
    const browser = page.browser();
    const url = `${origin}/scene/lamp-round`;
    const rounds = { plain: [] as Start[], cold: [] as Start[], warm: [] as Start[] };
    await start(page, url, WORKBENCH);
    await new Promise((resolve) => setTimeout(resolve, 20_000));
    for (let i = 0; i < ROUNDS; i++) {
      rounds.plain.push(await cold(browser, `${origin}/icon.svg`, 'svg'));
      rounds.cold.push(await cold(browser, url, WORKBENCH));
      rounds.warm.push(await start(page, url, WORKBENCH));
    }
    const time = (kind: keyof typeof rounds): number => median(rounds[kind], 'milliseconds');
    console.log('From an address to a workbench that answers');
    console.log(`  plain page        ${time('plain').toFixed(0)} ms`);
    for (const kind of ['cold', 'warm'] as const)
      console.log(
        `  ${kind.padEnd(18)}${time(kind).toFixed(0)} ms (asked ${ASKED[kind]}), ${(time(kind) / time('plain')).toFixed(1)} of the plain page`,
      );
    console.log(
      `  over the wire     ${median(rounds.cold, 'scripts').toFixed(0)} kB of scripts (asked ${ASKED.scripts}), ${median(rounds.cold, 'all').toFixed(0)} kB in all (asked ${ASKED.all})\n`,
    );
  });
}
