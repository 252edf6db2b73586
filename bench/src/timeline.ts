import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Page } from 'puppeteer-core';
import { launch } from 'puppeteer-core';

/** What scripting costs in a picture, milliseconds. */
export interface Scripting {
  readonly median: number;
  readonly p95: number;
  readonly pictures: number;
}

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly ts: number;
  readonly dur?: number;
  /** Of that, what the thread really had of a processor. */
  readonly tdur?: number;
  readonly pid: number;
  readonly tid: number;
}

/** The event that ends the main thread's part of a picture. */
const PICTURE = 'Layerize';

/** Events of Chromium's trace in which scripts run. */
const SCRIPTING = new Set([
  'FunctionCall',
  'v8.callFunction',
  'EvaluateScript',
  'FireAnimationFrame',
  'TimerFire',
  'EventDispatch',
  'RunMicrotasks',
  'V8.GCScavenger',
  'MajorGC',
  'MinorGC',
]);

/**
 * Scripting between one picture and the next, from a trace: the outermost events of the page's main thread in which scripts
 * run, summed from one picture to the next; of the pictures in which anything ran. Counted is what the thread had of a
 * processor: a machine that does something else in between makes no script longer.
 */
function scriptingOf(events: readonly TraceEvent[]): Scripting {
  const frames = events.filter((e) => e.name === PICTURE && e.ph === 'X');
  const main = mostCommon(frames.map((e) => `${e.pid}:${e.tid}`));
  const own = events
    .filter(
      (e) => e.ph === 'X' && SCRIPTING.has(e.name) && `${e.pid}:${e.tid}` === main && e.dur !== undefined,
    )
    .sort((a, b) => a.ts - b.ts);
  const outer: TraceEvent[] = [];
  let end = -Infinity;
  for (const e of own) {
    if (e.ts < end) continue;
    outer.push(e);
    end = e.ts + e.dur!;
  }
  const starts = events
    .filter((e) => e.name === PICTURE && `${e.pid}:${e.tid}` === main)
    .map((e) => e.ts)
    .sort((a, b) => a - b);
  const sums = starts.map((start, i) => {
    const next = starts[i + 1] ?? Infinity;
    return outer
      .filter((e) => e.ts >= start && e.ts < next)
      .reduce((sum, e) => sum + (e.tdur ?? e.dur!) / 1000, 0);
  });
  const busy = sums.filter((s) => s > 0.05).sort((a, b) => a - b);
  const at = (share: number): number => busy[Math.min(busy.length - 1, Math.floor(share * busy.length))] ?? 0;
  return { median: at(0.5), p95: at(0.95), pictures: busy.length };
}

function mostCommon(list: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const e of list) counts.set(e, (counts.get(e) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** Traces what a page does meanwhile. */
export async function traced(page: Page, what: () => Promise<void>): Promise<Scripting> {
  const folder = mkdtempSync(join(tmpdir(), 'trace-'));
  const path = join(folder, 'trace.json');
  try {
    await page.tracing.start({
      path,
      categories: ['devtools.timeline', 'blink.user_timing', 'v8', 'disabled-by-default-devtools.timeline'],
    });
    await what();
    await page.tracing.stop();
    return scriptingOf((JSON.parse(readFileSync(path, 'utf8')) as { traceEvents: TraceEvent[] }).traceEvents);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Starts the built application and a browser, and ends both. */
export async function inBrowser(what: (page: Page, origin: string) => Promise<void>): Promise<void> {
  const { CHROMIUM, CHROMIUM_FLAGS } = (await import(
    pathToFileURL(join(process.cwd(), 'scripts/chromium.mjs')).href
  )) as { CHROMIUM: string; CHROMIUM_FLAGS: string[] };
  const server = spawn('node', ['server/dist/server.mjs'], { env: { ...process.env, PORT: '0' } });
  try {
    const origin = await new Promise<string>((resolve, reject) => {
      server.stdout.on('data', (data) => {
        const match = /http:\/\/localhost:\d+/.exec(String(data));
        if (match) resolve(match[0]);
      });
      server.on('exit', () => reject(new Error('The server stopped.')));
    });
    const browser = await launch({
      executablePath: CHROMIUM,
      args: CHROMIUM_FLAGS,
      defaultViewport: { width: 1280, height: 800 },
    });
    try {
      const page = await browser.newPage();
      page.on('pageerror', (e) => console.error(String(e)));
      await what(page, origin);
    } finally {
      await browser.close();
    }
  } finally {
    server.kill();
  }
}
