import type { Page } from 'puppeteer-core';

/** Kills a tab, as a browser that runs out of memory does: nothing of it gets to say anything. */
export async function killTab(page: Page): Promise<void> {
  const session = await page.createCDPSession();
  const gone = new Promise((resolve) => page.once('error', resolve));
  session.send('Page.crash').catch(() => undefined);
  await gone;
  await page.close().catch(() => undefined);
}
