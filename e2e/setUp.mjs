import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch } from 'puppeteer-core';
import { CHROMIUM, CHROMIUM_FLAGS } from '../scripts/chromium.mjs';

/** A port that nothing listens on now. What a browser keeps belongs to a port, so that one suite after the other has it. */
const freePort = () =>
  new Promise((done) => {
    const probe = createServer().listen(0, 'localhost', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

/**
 * Visits the application once for each of those that run suites, and keeps what the browser then knows, for suites that
 * begin as a second visit does.
 */
export default async function setUp({ maxWorkers }) {
  await Promise.all(Array.from({ length: maxWorkers }, (_, i) => visit(i + 1)));
}

async function visit(worker) {
  const port = await freePort();
  const profile = mkdtempSync(join(tmpdir(), 'warper-profile-'));
  // The server has no clips of its own to measure meanwhile.
  const library = mkdtempSync(join(tmpdir(), 'warper-library-'));
  const server = spawn(process.execPath, ['server/dist/server.mjs'], {
    cwd: new URL('../', import.meta.url).pathname,
    env: { ...process.env, PORT: String(port), WARPER_LIBRARY: library },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((ready) => server.stdout.once('data', ready));
  const browser = await launch({
    executablePath: CHROMIUM,
    headless: true,
    args: CHROMIUM_FLAGS,
    userDataDir: profile,
  });
  const page = await browser.newPage();
  await page.goto(`http://localhost:${port}/`);
  await page.waitForFunction(() => localStorage.getItem('warper-demonstration') !== null, {
    timeout: 120_000,
  });
  await page.evaluate(async () => {
    localStorage.setItem('warper-preferences', JSON.stringify({ toured: true }));
    await navigator.serviceWorker.ready;
  });
  await browser.close();
  await new Promise((ended) => {
    server.once('exit', ended);
    server.kill('SIGTERM');
  });
  rmSync(library, { recursive: true });
  process.env[`WARPER_E2E_PORT_${worker}`] = String(port);
  process.env[`WARPER_E2E_PROFILE_${worker}`] = profile;
}
