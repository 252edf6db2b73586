import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, it } from '@jest/globals';

/** Bytes a frame that boxed numbers may take; the smallest array of a pose takes several times as much. */
const MOST_BYTES = 250;

const script = fileURLToPath(new URL('../testing/allocated.ts', import.meta.url));

const args = [...process.execArgv, '--expose-gc', script, String(MOST_BYTES)];
const least = JSON.parse(execFileSync(process.execPath, args, { encoding: 'utf8' })) as Record<
  'free' | 'held',
  number[]
>;

it.each(['free', 'held'] as const)(
  'a pose is evaluated without an object or array made for it, feet %s',
  (feet) => {
    expect(least[feet].length).toBeGreaterThan(1);
    for (const bytes of least[feet]) expect(bytes).toBeLessThan(MOST_BYTES);
  },
);
