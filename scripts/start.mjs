// `npm start`: installs what is missing, builds, and serves the application with the demonstration.
// PORT chooses the port; --no-build serves what was built before.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { installPackages, root, run } from './steps.mjs';

const port = Number(process.env.PORT ?? 4173);
if (!(await isFree(port))) {
  console.error(`Port ${port} is taken. Choose another one: PORT=${port + 1} npm start`);
  process.exit(1);
}
installPackages();
const built =
  existsSync(join(root, 'web/dist/index.html')) && existsSync(join(root, 'server/dist/server.mjs'));
if (process.argv.includes('--no-build')) {
  if (!built) {
    console.error('Nothing is built yet: run npm start without --no-build once.');
    process.exit(1);
  }
} else run('npm', ['run', '--silent', 'build']);
if (!existsSync(join(root, 'demo/made/index.json'))) run('npm', ['run', '--silent', 'demo']);

const server = spawn(process.execPath, ['server/dist/server.mjs'], {
  cwd: root,
  stdio: ['inherit', 'pipe', 'inherit'],
});
server.stdout.setEncoding('utf8');
let shown = false;
server.stdout.on('data', (text) => {
  process.stdout.write(text);
  const address = /http:\S+/.exec(text)?.[0];
  if (address && !shown) {
    shown = true;
    openBrowser(address);
  }
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

/** Opens the address in the user's browser where there is a desktop to open it on. */
function openBrowser(address) {
  if (process.env.CI || !process.stdout.isTTY) return;
  const commands = {
    darwin: 'open',
    win32: 'explorer',
    linux: process.env.DISPLAY || process.env.WAYLAND_DISPLAY ? 'xdg-open' : '',
  };
  const command = commands[process.platform];
  if (command)
    spawn(command, [address], { stdio: 'ignore', detached: true })
      .on('error', () => undefined)
      .unref();
}

function isFree(number) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(number, () => probe.close(() => resolve(true)));
  });
}
