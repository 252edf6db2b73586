// `npm test`: installs what is missing (Chromium from Debian's packages included), then lint, types, unit tests, build
// and the end-to-end tests.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { CHROMIUM } from './chromium.mjs';
import { installPackages, run } from './steps.mjs';

installPackages();
installChromium();
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

/** Installs Debian's Chromium as root; anybody else is told the command. */
function installChromium() {
  if (existsSync(CHROMIUM)) return;
  const command = 'apt-get update && apt-get install -y --no-install-recommends chromium';
  if (process.getuid?.() !== 0 || spawnSync('which', ['apt-get']).status !== 0) {
    console.error(
      `The end-to-end tests need Chromium. Install it with:\n\n  sudo sh -c '${command}'\n\nor name one: CHROMIUM=/path/to/chromium npm test`,
    );
    process.exit(1);
  }
  console.log('Installing Chromium');
  run('sh', ['-c', command], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
}
