import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { expect, it } from '@jest/globals';
import { makePose } from '../clip/pose';
import { compile } from '../compile/compile';
import { library, two } from '../testing/arranging';
import { evaluate } from './evaluate';

/** Bytes a frame that boxed numbers may take; the smallest array of a pose takes several times as much. */
const MOST_BYTES = 250;
const FRAMES = 1000;

it.each([false, true])(
  'a pose is evaluated without an object or array made for it, feet held: %p',
  (footLock) => {
    setFlagsFromString('--expose-gc');
    const collect = runInNewContext('gc') as () => void;
    const characters = Object.fromEntries(
      Object.entries(two.characters).map(([id, c]) => [id, { ...c, footLock }]),
    );
    for (const plan of compile({ ...two, characters }, library).characters) {
      const pose = makePose(plan.skeleton);
      const run = (): void => {
        for (let i = 0; i < FRAMES; i++) evaluate(plan, (i * 0.37) % plan.end, pose);
      };
      for (let i = 0; i < 4; i++) run();
      // The least of a few: what else happens to be allocated meanwhile is not evaluation's.
      const bytes = Array.from({ length: 5 }, () => {
        collect();
        const before = process.memoryUsage().heapUsed;
        run();
        return (process.memoryUsage().heapUsed - before) / FRAMES;
      });
      expect(Math.min(...bytes)).toBeLessThan(MOST_BYTES);
    }
  },
);
