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
