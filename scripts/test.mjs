// `npm test`: installs what is missing (Chromium and Redis from Debian's packages included), then lint, types and build, unit
// tests, and the end-to-end tests.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { CHROMIUM } from './chromium.mjs';
import { REDIS_SERVER } from './farm.mjs';
import { bin, installPackages, run, runQuietly } from './steps.mjs';

installPackages();
installFromDebian('chromium', CHROMIUM, 'CHROMIUM=/path/to/chromium');
installFromDebian('redis-server', REDIS_SERVER, 'REDIS_SERVER=/path/to/redis-server');
await step('Lint, types and build', () =>
  // Each keeps one core busy: the longest beside all others.
  Promise.all([
    runQuietly([bin('eslint'), '.']),
    runQuietly(
      [bin('prettier'), '--check', '--log-level', 'warn', '.'],
      [bin('knip')],
      [bin('tsc'), '-p', 'tsconfig.json'],
      [bin('tsc'), '-p', 'core/tsconfig.json'],
      ['npm', 'run', '--silent', 'build'],
    ),
  ]),
);
await step('Unit tests', () => run('npm', ['run', '--silent', 'unit']));
await step('End to end', () => run('npm', ['run', '--silent', 'e2e']));

async function step(name, work) {
  const since = Date.now();
  console.log(`\n== ${name}`);
  await work();
  console.log(`== ${name}: ${((Date.now() - since) / 1000).toFixed(0)} s`);
}

/** Installs a package of Debian's as root; anybody else is told the command. */
function installFromDebian(name, path, other) {
  if (existsSync(path)) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${name}`;
  if (process.getuid?.() !== 0 || spawnSync('which', ['apt-get']).status !== 0) {
    console.error(
      `The end-to-end tests need ${name}. Install it with:\n\n  sudo sh -c '${command}'\n\nor name one: ${other} npm test`,
    );
    process.exit(1);
  }
  console.log(`Installing ${name}`);
  run('sh', ['-c', command], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
}
