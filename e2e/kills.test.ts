import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { Application } from './application';
import { killTab } from './killTab';

/** Kills in this run; `KILLS=200 npm run e2e -- kills` for the long one. */
const KILLS = Number(process.env.KILLS ?? 8);
/** Edits that are made, as fast as keys can be pressed, before the tab is killed. */
const MOST_EDITS = 9;

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

/** First frame of the last segment of the first lane, which nothing is behind: it can always be moved on. */
const startOfLast = (page: Application['page']): Promise<number> =>
  page.$eval('[data-lane]', (lane) => {
    const label = [...lane.querySelectorAll('[data-segment]')].at(-1)!.getAttribute('aria-label')!;
    return Number(/frames (\d+)/.exec(label)![1]);
  });

it('a tab that is killed at any moment loses at most the edit in hand', async () => {
  await app.open('/');
  await app.find('link', 'The Lamp Round');
  let seed = 20;
  const random = (n: number): number => (seed = (seed * 48271) % 2147483647) % n;
  const lost: number[] = [];
  let start: number | null = null;
  let edits = 0;
  for (let kill = 0; kill < KILLS; kill++) {
    const page = await app.browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await page.goto(`${app.origin}/scene/lamp-round`);
    await page.waitForSelector('[data-lane] [data-segment]');
    const opened = await startOfLast(page);
    if (start !== null) lost.push(start + edits - opened);
    start = opened;
    await page.$eval('[data-lane]', (lane) =>
      ([...lane.querySelectorAll('[data-segment]')].at(-1) as HTMLElement).focus(),
    );
    edits = 1 + random(MOST_EDITS);
    for (let i = 0; i < edits; i++) await page.keyboard.press('ArrowRight');
    await new Promise((resolve) => setTimeout(resolve, random(4) * 10));
    console.log(
      edits,
      (await startOfLast(page)) - opened,
      await page.evaluate(() => document.body.innerText.match(/saved|saving|another tab/)?.[0]),
    );
    await killTab(page);
  }
  expect(lost).toHaveLength(KILLS - 1);
  expect(Math.max(...lost)).toBeLessThanOrEqual(1);
  expect(Math.min(...lost)).toBeGreaterThanOrEqual(0);
  console.log(`${KILLS} kills: ${lost.filter((n) => n === 1).length} lost the edit in hand, none more.`);
}, 1_200_000);
