// `npm test`: installs what is missing (Chromium and Redis from Debian's packages included), then lint, types, unit tests, build
// and the end-to-end tests.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { CHROMIUM } from './chromium.mjs';
import { REDIS_SERVER } from './farm.mjs';
import { installPackages, run } from './steps.mjs';

installPackages();
installFromDebian('chromium', CHROMIUM, 'CHROMIUM=/path/to/chromium');
installFromDebian('redis-server', REDIS_SERVER, 'REDIS_SERVER=/path/to/redis-server');
step('Lint', () => {
  run('node_modules/.bin/eslint', ['.']);
  run('node_modules/.bin/prettier', ['--check', '--log-level', 'warn', '.']);
  run('node_modules/.bin/knip', []);
});
step('Types', () => {
  run('node_modules/.bin/tsc', ['-p', 'tsconfig.json']);
  run('node_modules/.bin/tsc', ['-p', 'core/tsconfig.json']);
});
step('Unit tests', () => run('npm', ['run', '--silent', 'unit']));
step('Build', () => run('npm', ['run', '--silent', 'build']));
step('End to end', () => run('npm', ['run', '--silent', 'e2e']));

function step(name, work) {
  const since = Date.now();
  console.log(`\n== ${name}`);
  work();
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
