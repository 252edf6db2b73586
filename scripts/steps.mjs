// What the root scripts share: running a command, and installing what is missing.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';

export const root = new URL('..', import.meta.url).pathname;
const STAMP = join(root, 'node_modules', '.installed-lock');

/** Runs a command from the root; ends the program where it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (error) console.error(`${command} cannot be run: ${error.message}`);
  if (status !== 0) process.exit(status ?? 1);
}

/** A command of an installed package. */
export const bin = (name) => join('node_modules', '.bin', name);

/**
 * Runs commands from the root, one after the other, so that others can run beside them: what one says is shown when it has
 * ended. Ends the program where one fails.
 */
export async function runQuietly(...commands) {
  for (const [command, ...args] of commands) {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.setEncoding('utf8').on('data', (text) => (said += text));
    const status = await new Promise((ended) => {
      child.once('error', (error) => {
        said += `${command} cannot be run: ${error.message}`;
        ended(1);
      });
      child.once('close', ended);
    });
    if (said) console.log(said.trimEnd());
    if (status !== 0) {
      console.error(`${command} ${args.join(' ')} has failed.`);
      process.exit(status ?? 1);
    }
  }
}

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');

/** Installs the packages of the lock file unless they are installed already. */
export function installPackages() {
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lockHash()) return;
  if (existsSync(join(root, 'node_modules', '.package-lock.json')) && sameLock()) {
    writeFileSync(STAMP, lockHash());
    return;
  }
  console.log('Installing packages');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(STAMP, lockHash());
}

/** Whether the installed packages are those of the lock file, as npm itself notes them. */
function sameLock() {
  const installed =
    JSON.parse(readFileSync(join(root, 'node_modules', '.package-lock.json'), 'utf8')).packages ?? {};
  const wanted = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages ?? {};
  return Object.entries(wanted).every(
    ([path, p]) =>
      !path.startsWith('node_modules/') ||
      p.optional ||
      p.link ||
      p.extraneous ||
      installed[path]?.version === p.version,
  );
}
