import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { expect, it } from '@jest/globals';
import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import { library, two } from '../testing/arranging';
import { evaluate } from './evaluate';

/** Bytes a frame that boxed numbers may take; the smallest array of a pose takes several times as much. */
const MOST_BYTES = 250;
const FRAMES = 1000;
const MOST_ROUNDS = 100;

/** Bytes of the heap, and of the arrays beside it. */
function used(): number {
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
}

it.each([false, true])(
  'a pose is evaluated without an object or array made for it, feet held: %p',
  (footLock) => {
    setFlagsFromString('--expose-gc');
    const collect = runInNewContext('gc') as () => void;
    const characters = Object.fromEntries(
      Object.entries(two.characters).map(([id, c]) => [id, { ...c, footLock }]),
    );
    for (const plan of compile({ ...two, characters }, library).characters) {
      const pose = makePoseBuffer(plan.skeleton);
      const run = (): void => {
        for (let i = 0; i < FRAMES; i++) evaluate(plan, (i * 0.37) % plan.end, pose);
      };
      // Until it is compiled every sum makes a boxed number, and how soon that is depends on the machine: the least of many
      // rounds counts. What makes an object for every pose never comes below.
      let least = Infinity;
      for (let round = 0; round < MOST_ROUNDS && least >= MOST_BYTES; round++) {
        collect();
        const before = used();
        run();
        least = Math.min(least, (used() - before) / FRAMES);
      }
      expect(least).toBeLessThan(MOST_BYTES);
    }
  },
);
