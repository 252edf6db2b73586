import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { Clip, Grade, Library, Scene, SeamMeasures, Segment, Skeleton } from '@warper/core';
import {
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_LIMITS,
  PLAIN_SEAM,
  PLAIN_SEGMENT,
  applyEdit,
  chooseJoin,
  defined,
  emptyScene,
  findBridges,
  fixedLibrary,
} from '@warper/core';
import { KEEPER, keeperClips, skeletonOf } from '@warper/demo';
import { readMotionFile } from '@warper/formats';

/** Joins of one set, the parts that each is made of picked at random. */
interface JoinSet {
  readonly name: string;
  readonly clips: readonly Clip[];
  readonly body: Skeleton;
  readonly pick: (random: () => number, id: string) => Segment;
}

/** How joins are made. */
const MODES = ['plain crossfade', 'chosen, no steps', 'chosen', 'chosen, with bridges'] as const;
type Mode = (typeof MODES)[number];

/** What came of a join. */
interface Outcome {
  readonly grade: Grade;
  readonly measures: readonly SeamMeasures[];
  readonly milliseconds: number;
}

/** Numbers from 0 to 1, the same for a seed (mulberry32, public domain). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const segmentOf = (clip: Clip, id: string, values: Partial<Segment> = {}): Segment => ({
  ...PLAIN_SEGMENT,
  id,
  name: clip.name,
  clip: clip.id,
  out: clip.frames,
  seam: { ...PLAIN_SEAM, fit: 'planted foot' },
  ...values,
});

/** Stretches of 1.5 to 4 seconds of a capture, its first sample, a reference pose, left out. */
async function captureSet(path: string): Promise<JoinSet> {
  const name = basename(path);
  const clip = defined((await readMotionFile(new Uint8Array(readFileSync(path)), name)).clips[0]);
  return {
    name,
    clips: [clip],
    body: clip.skeleton,
    pick: (random, id) => {
      const samples = Math.round((1.5 + 2.5 * random()) * clip.rate);
      const first = 1 + Math.floor(random() * (clip.frames - 1 - samples));
      return segmentOf(clip, id, { in: first, out: first + samples });
    },
  };
}

/** Whole clips of the demonstration's Keeper. */
function demonstrationSet(): JoinSet {
  const clips = keeperClips().map((c) => c.clip);
  return {
    name: 'demonstration',
    clips,
    body: skeletonOf(KEEPER),
    pick: (random, id) => segmentOf(defined(clips[Math.floor(random() * clips.length)]), id),
  };
}

const GRADES: readonly Grade[] = ['good', 'watch', 'bad'];

/** Two segments dropped behind each other, and joined in one way. */
function joined(
  pair: readonly Segment[],
  clips: readonly Clip[],
  library: Library,
  mode: Mode,
): Outcome | null {
  const lane = { ...PLAIN_LANE, id: 'l', kind: 'body' as const, character: 'c', segments: [] };
  const empty: Scene = {
    ...emptyScene('joins'),
    characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'One', body: 'body' } },
    characterOrder: ['c'],
    lanes: { l: lane },
    laneOrder: ['l'],
  };
  const scene = pair.reduce(
    (s, segment) => applyEdit(s, { type: 'place', lane: 'l', segment, at: 'end' }, library),
    empty,
  );
  const id = defined(pair[1]).id;
  const limits = { ...PLAIN_LIMITS, steps: mode !== 'chosen, no steps' };
  const began = performance.now();
  const choice = chooseJoin(scene, id, library, limits);
  if (!choice) return null;
  const outcome = (...measures: SeamMeasures[]): Outcome => ({
    grade: GRADES[Math.max(...measures.map((m) => GRADES.indexOf(m.grade)))] ?? 'bad',
    measures,
    milliseconds: performance.now() - began,
  });
  if (mode === 'plain crossfade') return outcome(choice.before);
  if (mode === 'chosen, with bridges' && choice.measures.grade !== 'good') {
    const [bridge] = findBridges(scene, id, clips, library, () => 'bridge');
    if (bridge) return outcome(...bridge.measures);
  }
  return outcome(choice.measures);
}

const share = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(part * (values.length - 1))] ?? NaN;

function row(set: JoinSet, mode: Mode, count: number, seed: number): string {
  const library = fixedLibrary({ clip: (id) => set.clips.find((c) => c.id === id), body: () => set.body });
  const random = seeded(seed);
  const outcomes: Outcome[] = [];
  while (outcomes.length < count) {
    const outcome = joined([set.pick(random, 'a'), set.pick(random, 'b')], set.clips, library, mode);
    if (outcome) outcomes.push(outcome);
  }
  const percent = (is: (grade: Grade) => boolean): string =>
    `${Math.round((100 * outcomes.filter((o) => is(o.grade)).length) / count)} %`;
  const kinds = outcomes.flatMap((o) => o.measures.map((m) => m.kind));
  const steps = `${Math.round((100 * kinds.filter((k) => k === 'step').length) / kinds.length)} %`;
  const pop = Math.max(...outcomes.flatMap((o) => o.measures.map((m) => m.popCm))).toFixed(1);
  const times = outcomes.map((o) => o.milliseconds);
  const cells = [
    set.name,
    mode,
    percent((g) => g === 'good'),
    percent((g) => g !== 'bad'),
    steps,
    `${pop} cm`,
    mode === 'plain crossfade' ? '' : `${share(times, 0.5).toFixed(0)} / ${share(times, 0.9).toFixed(0)} ms`,
  ];
  return `| ${cells.join(' | ')} |`;
}

const [count = '105', seed = '2026', ...captures] = process.argv.slice(2);
const sets = [demonstrationSet(), ...(await Promise.all(captures.map(captureSet)))];
console.log(`${count} random joins a set, seed ${seed}, ends free by a second, at 30 frames a second.\n`);
console.log('| set | joins | good | not bad | steps made | largest pop | time, median / 90 % |');
console.log('| --- | --- | --- | --- | --- | --- | --- |');
for (const set of sets) for (const mode of MODES) console.log(row(set, mode, Number(count), Number(seed)));
