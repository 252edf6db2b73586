// Prints the bytes that a frame of each character takes, its feet free and held; run as a process of its own with --expose-gc, since what other
// work leaves in a process decides how its sums are compiled.
import { argv, memoryUsage } from 'node:process';
import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { library, two } from './arranging';

const FRAMES = 1000;
const MOST_ROUNDS = 100;

const enough = Number(argv[2]);
const collect = (globalThis as unknown as { gc: () => void }).gc;

/** Bytes of the heap, and of the arrays beside it. */
function used(): number {
  const { heapUsed, arrayBuffers } = memoryUsage();
  return heapUsed + arrayBuffers;
}

/** The least bytes of a pose of each character. */
function leastOf(footLock: boolean): number[] {
  const characters = Object.fromEntries(
    Object.entries(two.characters).map(([id, c]) => [id, { ...c, footLock }]),
  );
  return compile({ ...two, characters }, library).characters.map((plan) => {
    const pose = makePoseBuffer(plan.skeleton);
    // Until it is compiled every sum makes a boxed number, and how soon that is depends on the machine: the least of many
    // rounds counts. What makes an object for every pose never comes below.
    let bytes = Infinity;
    for (let round = 0; round < MOST_ROUNDS && bytes >= enough; round++) {
      collect();
      const before = used();
      for (let i = 0; i < FRAMES; i++) evaluate(plan, (i * 0.37) % plan.end, pose);
      bytes = Math.min(bytes, (used() - before) / FRAMES);
    }
    return bytes;
  });
}

console.log(JSON.stringify({ free: leastOf(false), held: leastOf(true) }));
