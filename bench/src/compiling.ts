import type { Clip, Scene, Segment, Skeleton } from '@warper/core';
import { edit, parseScene, fixedLibrary, createCompiler } from '@warper/core';
import { makeMotion } from './rig';
import { sceneOf, segmentOf } from './scenes';

const SEGMENTS = 2000;
const CLIPS = 12;
const FRAMES = 60;
const OVERLAP = 8;
const ROUNDS = 7;
/** Edits of each kind in a round, as one who tries numbers makes them. */
const EDITS = 10;

/** Opening and compiling a long scene, and compiling it again after one edit, in and behind which it moves or not. */
export function benchCompile(skeleton: Skeleton): void {
  const times = { open: [] as number[], seam: [] as number[], moved: [] as number[] };
  for (let round = 0; round < ROUNDS; round++) {
    // New clips each time: nothing is known of them yet, as when a scene is opened.
    const clips = Array.from({ length: CLIPS }, (_, i) => makeMotion(skeleton, FRAMES, i * 0.4, `clip${i}`));
    const library = fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => skeleton });
    const compiler = createCompiler(library);
    const text = JSON.stringify(longScene(clips));
    let scene!: Scene;
    times.open.push(
      timed(() => {
        scene = parseScene(JSON.parse(text));
        compiler.compile(scene);
      }),
    );
    const middle = `s${SEGMENTS / 2}`;
    for (let i = 1; i <= EDITS; i++) {
      const values = { nudge: { x: 0.01 * i, z: 0, turn: 0 } };
      scene = edit(scene, { type: 'seam', segment: middle, values }, library).scene;
      times.seam.push(timed(() => void compiler.compile(scene)));
    }
    for (let i = 1; i <= EDITS; i++) {
      scene = edit(scene, { type: 'change', segment: middle, values: { length: 60 + i } }, library).scene;
      times.moved.push(timed(() => void compiler.compile(scene)));
    }
  }
  const median = (list: number[]): number => [...list].sort((p, q) => p - q)[list.length >> 1]!;
  const full = median(times.open);
  console.log(`A scene of ${SEGMENTS} segments`);
  console.log(`  opened and compiled   ${full.toFixed(1)} ms`);
  for (const [what, list] of [
    ['after a nudge', times.seam],
    ['after a change of length', times.moved],
  ] as const)
    console.log(
      `  ${what.padEnd(22)}${median(list).toFixed(2)} ms, ${(full / median(list)).toFixed(0)} times as fast`,
    );
  console.log('');
}

function timed(work: () => void): number {
  const since = performance.now();
  work();
  return performance.now() - since;
}

function longScene(clips: readonly Clip[]): Scene {
  const segments: Segment[] = [];
  for (let i = 0; i < SEGMENTS; i++)
    segments.push(segmentOf(clips[(i * 7) % CLIPS]!, `s${i}`, i * (FRAMES - OVERLAP)));
  return sceneOf(segments);
}
