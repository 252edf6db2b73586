import { readFileSync } from 'node:fs';
import type { Clip, Edit, Scene } from '@warper/core';
import {
  Memory,
  applyEdit,
  clipEntry,
  compile,
  continuityReport,
  createCompiler,
  defined,
  fixedLibrary,
  matchClips,
  rankEntries,
} from '@warper/core';
import { assembleCues, parseCueSheet, readMotionFile } from '@warper/formats';

/** What each of three characters performs, over and over, for two minutes. */
const CLIPS = ['idle', 'walk-start', 'walk', 'turn-left-90', 'walk', 'walk-stop', 'wave', 'look-out'];
const CUES = 40;
const EDITS = 12;

/** Everything that is measured in two minutes of three characters: of a scene not seen before, and after an edit of one segment. */
export async function benchContinuity(): Promise<void> {
  const lane = (name: string) => ({
    name,
    body: 'keeper.glb',
    cues: Array.from({ length: CUES }, (_, i) => ({ clip: `keeper-${CLIPS[i % CLIPS.length]}.glb` })),
  });
  const { scene, library } = await assembleCues(
    parseCueSheet({ format: 'warper-cues', version: 1, rate: 30, characters: ['A', 'B', 'C'].map(lane) }),
    (name) => Promise.resolve(new Uint8Array(readFileSync(`demo/made/${name}`))),
  );
  const compiler = createCompiler(library);
  continuityReport(compiler.compile(scene));
  const ids = defined(Object.values(scene.lanes)[1]).segments;
  const after: number[] = [];
  const fresh: number[] = [];
  let current: Scene = scene;
  for (let i = 0; i < EDITS; i++) {
    const segment = defined(ids[10 + i]);
    const edit: Edit =
      i % 2 === 0
        ? { type: 'seam', segment, values: { nudge: { x: 0.02, z: 0, turn: 0 } } }
        : { type: 'change', segment, values: { speed: 1.1 } };
    current = applyEdit(current, edit, library);
    after.push(timed(() => void continuityReport(compiler.compile(current))));
    // The same with nothing known but the clips.
    const empty = fixedLibrary({ clip: (id) => library.clip(id), body: (id) => library.body(id) });
    fresh.push(timed(() => void continuityReport(compile(current, empty))));
  }
  const [a, b] = [median(after), median(fresh)];
  const seconds = Math.round(compiler.compile(current).end / 30);
  console.log(`Continuity of ${seconds} s of three characters`);
  console.log(`  not seen before        ${b.toFixed(0)} ms`);
  console.log(`  after an edit          ${a.toFixed(0)} ms, ${(b / a).toFixed(1)} times as fast`);
  console.log('');
}

/** Clips of a library that are ranked by how well they follow, and those of them that are compared exactly beside it. */
const FOLLOWERS = 5000;
const EXACT = 20;

/** Ranks a large library by how well its clips follow one, beside what comparing the same number of clips exactly would take. */
export async function benchFollowing(): Promise<void> {
  const read = async (name: string): Promise<Clip> => {
    const bytes = new Uint8Array(readFileSync(`demo/made/keeper-${name}.glb`));
    return defined((await readMotionFile(bytes, name)).clips[0]);
  };
  const memory = new Memory();
  const clips = await Promise.all([...new Set(CLIPS)].map(read));
  const before = defined(clips[2]);
  // Alike and yet not the same: each a little off one of the demonstration.
  const entries = Array.from({ length: FOLLOWERS }, (_, i) => {
    const { legs, features } = clipEntry(defined(clips[i % clips.length]), memory);
    return { legs, features: features.map((v, k) => v + 0.02 * Math.sin(i * 7 + k)) };
  });
  rankEntries(before, before.frames - 1, entries, memory);
  const rough = median(
    Array.from({ length: 7 }, () =>
      timed(() => void rankEntries(before, before.frames - 1, entries, memory)),
    ),
  );
  const exact = timed(() => {
    for (let i = 0; i < EXACT; i++)
      matchClips(before, defined(clips[i % clips.length]), { top: 1 }, new Memory());
  });
  const all = (exact / EXACT) * FOLLOWERS;
  console.log(`What follows well, of ${FOLLOWERS} clips`);
  console.log(
    `  ranked by how they begin ${rough.toFixed(0)} ms, ${(all / rough).toFixed(0)} times as fast as by maps of distances`,
  );
  console.log('');
}

const median = (list: readonly number[]): number =>
  defined([...list].sort((p, q) => p - q)[list.length >> 1]);

function timed(work: () => void): number {
  const since = performance.now();
  work();
  return performance.now() - since;
}
