import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'puppeteer-core';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe finds serious or critical on a page as it is; by all of its rules, or by some. */
export async function barriersOn(page: Page, rules: readonly string[]): Promise<string[]> {
  await page.evaluate(axe);
  return page.evaluate(async (runOnly) => {
    const run = (
      window as unknown as {
        axe: {
          run(options: {
            runOnly?: readonly string[];
          }): Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>;
        };
      }
    ).axe.run;
    const { violations } = await run(runOnly.length > 0 ? { runOnly } : {});
    return violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes[0]!.html.slice(0, 160)}`);
  }, rules);
}
