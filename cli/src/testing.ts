import { copyFileSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run } from './main';

/** The folder of the repository. */
export const repository = new URL('../../', import.meta.url).pathname;

/** A folder with the demonstration's files and an excerpt of capture, for tests to work in. */
export const folder = mkdtempSync(join(tmpdir(), 'warper-'));

/** Path of a file in the folder. */
export const at = (name: string): string => join(folder, name);

for (const name of readdirSync(join(repository, 'demo/made'))) {
  copyFileSync(join(repository, 'demo/made', name), at(name));
}
// CMU Graphics Lab Motion Capture Database, see formats/fixtures/README.md.
copyFileSync(join(repository, 'formats/fixtures/cmu-01-01-excerpt.bvh'), at('capture.bvh'));

/** Writes a file into the folder and gives its path. */
export function write(name: string, value: unknown): string {
  writeFileSync(at(name), typeof value === 'string' ? value : JSON.stringify(value));
  return at(name);
}

/** A cue sheet of one character. */
export const sheet = (cues: object[], more: object = {}): object => ({
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters: [{ name: 'Keeper', cues, ...more }],
});

/** What a run of the command line gave. */
export interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
  /** The document on stdout, where `--json` asked for one. */
  readonly json: never;
}

/** Runs the command line in this process. */
export async function warper(...args: string[]): Promise<Ran> {
  let [out, err] = ['', ''];
  const code = await run(args, {
    out: (t) => void (out += t),
    err: (t) => void (err += t),
    isTerminal: false,
  });
  return { code, out, err, json: (args.includes('--json') && out ? JSON.parse(out) : null) as never };
}
