import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Clip, LayerLane, Plan, Scene, Segment, Skeleton } from '@warper/core';
import { PLAIN_LAYER, bakePieces, compile, fixedLibrary } from '@warper/core';
import { sceneOf, segmentOf } from './scenes';

const SECONDS = 600;
const OVERLAP = 12;
/** Bakes after which the memory is looked at again. */
const BAKES = 50;

/** Ten minutes of one character with crossfades, two layers and held feet: how many times as fast as it plays, and what stays of it in memory. */
export function benchBaking(skeleton: Skeleton, a: Clip, b: Clip): void {
  const compiled = (): Plan =>
    compile(tenMinutes(a, b), fixedLibrary({ clip: (id) => (id === a.id ? a : b), body: () => skeleton }));
  let plan = compiled();
  let character = plan.characters[0]!;
  const bakeAll = (to: number): void => {
    for (const piece of bakePieces(character, plan.rate, { from: 0, to }).pieces())
      _sink += piece.rotations[0]!;
  };
  // Once, so that what is measured is compiled by the engine; then a plan that knows nothing of it.
  bakeAll(SECONDS * 30);
  plan = compiled();
  character = plan.characters[0]!;
  const since = performance.now();
  bakeAll(SECONDS * 30);
  const took = (performance.now() - since) / 1000;
  bakeAll(1800);
  const before = used();
  for (let i = 0; i < BAKES; i++) bakeAll(1800);
  const grown = (used() - before) / 1e6;
  console.log(
    `Baking ${SECONDS} s with ${character.segments.length} crossfaded segments, two layers and held feet, ${skeleton.names.length} joints`,
  );
  console.log(`  ${(SECONDS / took).toFixed(0)} times as fast as it plays, on one core`);
  console.log(`  ${grown.toFixed(1)} MB more after ${BAKES} bakes of a minute\n`);
}

/** What bakes the ten minutes, each time from a plan that knows nothing of them. */
export function bakeTenMinutes(skeleton: Skeleton, a: Clip, b: Clip): () => void {
  const scene = tenMinutes(a, b);
  return () => {
    const plan = compile(scene, fixedLibrary({ clip: (id) => (id === a.id ? a : b), body: () => skeleton }));
    for (const piece of bakePieces(plan.characters[0]!, plan.rate, { from: 0, to: SECONDS * 30 }).pieces())
      _sink += piece.rotations[0]!;
  };
}

/** Rounds in which one thread and two are measured in turn. */
const ROUNDS = 9;

/**
 * The same by one thread and by two at once: how much more two do, which is what several scenes or a farm have of two cores. The peer is
 * arithmetic that shares nothing: what the machine's second core is worth in the same minute.
 */
export async function benchTwoCores(): Promise<void> {
  const threads = [0, 1].map(() => new Worker(fileURLToPath(import.meta.url)));
  const run = (thread: Worker, what: ThreadWork): Promise<unknown> => {
    const done = once(thread, 'message');
    thread.postMessage(what);
    return done;
  };
  const timed = async (some: readonly Worker[], what: ThreadWork): Promise<number> => {
    const since = performance.now();
    await Promise.all(some.map((thread) => run(thread, what)));
    return performance.now() - since;
  };
  const ratios: Record<ThreadWork, number[]> = { bake: [], count: [] };
  for (let i = 0; i <= ROUNDS; i++)
    for (const what of ['bake', 'count'] as const) {
      const alone = await timed(threads.slice(0, 1), what);
      const ratio = (2 * alone) / (await timed(threads, what));
      // The first round is there for the engine to compile what it runs.
      if (i > 0) ratios[what].push(ratio);
    }
  const told = (list: number[]): string => {
    list.sort((x, y) => x - y);
    return `${list[ROUNDS >> 1]!.toFixed(2)} times one thread (${list[0]!.toFixed(2)} to ${list.at(-1)!.toFixed(2)})`;
  };
  console.log('The same in two threads, on two cores');
  console.log(`  Warper            ${told(ratios.bake)}`);
  console.log(`  arithmetic alone  ${told(ratios.count)}\n`);
  await Promise.all(threads.map((t) => t.terminate()));
}

/** What a thread of the benchmark is told to do. */
export type ThreadWork = 'bake' | 'count';

let _sink = 0;

function used(): number {
  (globalThis as { gc?: () => void }).gc?.();
  return process.memoryUsage().heapUsed;
}

function tenMinutes(a: Clip, b: Clip): Scene {
  const segments: Segment[] = [];
  for (let start = 0; start < SECONDS * 30; start += a.frames - OVERLAP)
    segments.push(segmentOf(segments.length % 2 === 0 ? a : b, `s${segments.length}`, start));
  const body = sceneOf(segments);
  const layer = (id: string, blend: 'override' | 'additive', bone: string, clip: Clip): LayerLane => ({
    ...PLAIN_LAYER,
    id,
    character: 'c',
    name: id,
    blend,
    mask: [{ bone, weight: 1 }],
    segments: [`x${id}`],
    weight: [[0, clip.id === a.id ? 0.8 : 1]],
  });
  const over = (id: string, clip: Clip): Segment =>
    segmentOf(clip, `x${id}`, 0, { loop: true, repeat: Math.ceil((SECONDS * 30) / clip.frames) });
  const standing = {
    leftToes: Array.from({ length: 10 }, (_, i) => [i * 40, i * 40 + 24] as const),
    rightToes: Array.from({ length: 10 }, (_, i) => [i * 40 + 20, Math.min(i * 40 + 44, a.frames)] as const),
  };
  return {
    ...body,
    characters: { c: { ...body.characters.c!, footLock: true } },
    lanes: {
      ...body.lanes,
      one: layer('one', 'override', 'joint4*', a),
      two: layer('two', 'additive', 'joint6*', b),
    },
    laneOrder: ['l', 'one', 'two'],
    segments: { ...body.segments, xone: over('one', a), xtwo: over('two', b) },
    steps: { [a.id]: standing, [b.id]: standing },
  };
}
