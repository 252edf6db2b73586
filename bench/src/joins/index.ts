import { readFileSync } from 'node:fs';
import type { Clip, JoinChoice, Library, Scene, Segment, Skeleton } from '@warper/core';
import {
  PLAIN_CHARACTER, PLAIN_LANE, PLAIN_LIMITS, PLAIN_SEAM, PLAIN_SEGMENT, applyEdit, chooseJoin, defined, emptyScene, fixedLibrary,
} from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { KEEPER, keeperClips, skeletonOf } from '@warper/demo';

/** Numbers from 0 to 1, the same each time (mulberry32). */
function seeded(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

interface JoinSet { name: string; clips: Clip[]; body: Skeleton; pick: (random: () => number) => Segment; }

let counter = 0;
const segment = (clip: Clip, values: Partial<Segment>): Segment => ({
  ...PLAIN_SEGMENT, id: `s${counter++}`, name: clip.name, clip: clip.id, out: clip.frames,
  seam: { ...PLAIN_SEAM, fit: 'planted foot' }, ...values,
});

async function capture(file: string): Promise<JoinSet> {
  const read = await readMotionFile(new Uint8Array(readFileSync(file)), 'capture.bvh');
  const clip = defined(read.clips[0]);
  return {
    name: file.split('/').at(-1)!, clips: [clip], body: clip.skeleton,
    pick: (random) => {
      const seconds = 1.5 + 2.5 * random();
      const samples = Math.round(seconds * clip.rate);
      const first = 1 + Math.floor(random() * (clip.frames - 1 - samples));
      return segment(clip, { in: first, out: first + samples });
    },
  };
}

function demonstration(): JoinSet {
  const clips = keeperClips().map((c) => c.clip);
  return {
    name: 'demonstration', clips, body: skeletonOf(KEEPER),
    pick: (random) => segment(clips[Math.floor(random() * clips.length)]!, {}),
  };
}

const sceneOf = (segments: readonly Segment[]): Scene => ({
  ...emptyScene('joins'),
  characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'One', body: 'body' } },
  characterOrder: ['c'],
  lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body', character: 'c', segments: segments.map((s) => s.id) } },
  laneOrder: ['l'],
  segments: Object.fromEntries(segments.map((s) => [s.id, s])),
});

const [which, count, seed, mode] = [process.argv[2] ?? 'demo', Number(process.argv[3] ?? 40), Number(process.argv[4] ?? 1), process.argv[5] ?? 'steps'];
const set = which === 'demo' ? demonstration() : await capture(which);
const library: Library = fixedLibrary({ clip: (id) => set.clips.find((c) => c.id === id), body: () => set.body });
const random = seeded(seed);
const tally = { good: 0, watch: 0, bad: 0 };
const before = { good: 0, watch: 0, bad: 0 };
const kinds: Record<string, number> = {};
const times: number[] = [];
let worst = 0;
for (let n = 0; n < count; n++) {
  const a = set.pick(random);
  const b = set.pick(random);
  const empty = sceneOf([]);
  let scene: Scene = empty;
  for (const s of [a, b]) scene = applyEdit(scene, { type: 'place', lane: 'l', segment: s, at: 'end', overlap: 'auto' }, library);
  const t = performance.now();
  const choice: JoinChoice | null = chooseJoin(scene, b.id, library, { ...PLAIN_LIMITS, steps: mode === 'steps' });
  times.push(performance.now() - t);
  if (!choice) continue;
  tally[choice.measures.grade]++;
  before[choice.before.grade]++;
  const m = choice.measures;
  worst = Math.max(worst, m.popCm);
  kinds[`${m.kind} ${m.grade}`] = (kinds[`${m.kind} ${m.grade}`] ?? 0) + 1;
  if (m.grade !== 'good' || process.env.ALL)
    console.log(`${a.name} > ${b.name}: ${m.grade} ${m.worst} pop ${m.popCm.toFixed(2)} surge ${m.surgeCm.toFixed(2)} turn ${m.turnDegrees.toFixed(1)} slide ${m.slideCm.toFixed(2)} hitch ${m.hitch.toFixed(2)} ${m.kind} ${m.overlap} ${String(m.fit)} at ${m.worstJoint}; was ${choice.before.grade}`);
}
times.sort((x, y) => x - y);
console.log(set.name, 'before', before, 'after', tally, kinds, 'worst pop', worst.toFixed(1), 'ms', times[times.length >> 1]!.toFixed(0), times[Math.floor(times.length * 0.9)]!.toFixed(0));
