import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, it } from '@jest/globals';

/** Bytes a frame that boxed numbers may take; the smallest array of a pose takes several times as much. */
const MOST_BYTES = 250;

const script = fileURLToPath(new URL('../testing/allocated.ts', import.meta.url));

it.each([false, true])(
  'a pose is evaluated without an object or array made for it, feet held: %p',
  (footLock) => {
    const args = [...process.execArgv, '--expose-gc', script, String(footLock), String(MOST_BYTES)];
    const least = JSON.parse(execFileSync(process.execPath, args, { encoding: 'utf8' })) as number[];
    expect(least.length).toBeGreaterThan(1);
    for (const bytes of least) expect(bytes).toBeLessThan(MOST_BYTES);
  },
);
