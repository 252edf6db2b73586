import { readFileSync } from 'node:fs';
import type { Clip, JoinChoice, Library, Scene, Segment, Skeleton } from '@warper/core';
import {
  findBridges,
  compile,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  legsOf,
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_LIMITS,
  PLAIN_SEAM,
  PLAIN_SEGMENT,
  applyEdit,
  chooseJoin,
  defined,
  emptyScene,
  fixedLibrary,
} from '@warper/core';
import { sampleAt, segmentPose, soleHeights } from '@warper/core/kernels';
import { toParentSpace as parentSpace } from '../../../core/src/clip/pose';
import type { Pose, SegmentPlan } from '@warper/core';
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

interface JoinSet {
  name: string;
  clips: Clip[];
  body: Skeleton;
  pick: (random: () => number) => Segment;
}

let counter = 0;
const segment = (clip: Clip, values: Partial<Segment>): Segment => ({
  ...PLAIN_SEGMENT,
  id: `s${counter++}`,
  name: clip.name,
  clip: clip.id,
  out: clip.frames,
  seam: { ...PLAIN_SEAM, fit: 'planted foot' },
  ...values,
});

async function capture(file: string): Promise<JoinSet> {
  const read = await readMotionFile(new Uint8Array(readFileSync(file)), 'capture.bvh');
  const clip = defined(read.clips[0]);
  return {
    name: file.split('/').at(-1)!,
    clips: [clip],
    body: clip.skeleton,
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
    name: 'demonstration',
    clips,
    body: skeletonOf(KEEPER),
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

const audits: Record<string, number[]> = {
  'pop cm': [],
  'knee deg a frame beyond': [],
  'sink cm': [],
  'joint turn beyond': [],
  'feet apart from target cm': [],
};
function audit(scene: Scene, length: number): void {
  const plan = compile(scene, library).characters[0]!;
  const [a, b] = plan.segments as [SegmentPlan, SegmentPlan];
  const sk = plan.skeleton;
  const n = length + 8;
  const from = b.start - 4;
  const read = (pose: (f: number) => Pose | null) =>
    Array.from({ length: n }, (_, i) => {
      const p = pose(from + i);
      if (!p) return null;
      const world = makeWorldPose(sk);
      poseToWorld(sk, p, world);
      return { world, local: p.rotations.slice() };
    });
  const buffer = makePoseBuffer(sk);
  const rows = [
    read((f) => evaluate(plan, f, buffer)),
    ...[a, b].map((s) =>
      read((f) => (sampleAt(s, f) >= 0 ? toParent(sk, segmentPose(s, f, true, buffer)) : null)),
    ),
  ];
  const soles = soleHeights(sk);
  const legs = legsOf(sk);
  let worstJ = '';
  let worstF = 0;
  let [pop, knee, sink, turn] = [0, 0, 0, 0];
  const angle = (x: Float64Array, y: Float64Array, j: number) =>
    (2 *
      Math.acos(
        Math.min(
          1,
          Math.abs(
            x[j * 4]! * y[j * 4]! +
              x[j * 4 + 1]! * y[j * 4 + 1]! +
              x[j * 4 + 2]! * y[j * 4 + 2]! +
              x[j * 4 + 3]! * y[j * 4 + 3]!,
          ),
        ),
      ) *
      180) /
    Math.PI;
  for (let i = 2; i < n - 1; i++)
    for (let j = 0; j < sk.names.length; j++) {
      const at = (r: number, f: number) => rows[r]![f]?.world.positions.subarray(j * 3, j * 3 + 3);
      const popOf = (r: number) => {
        const [p, q, u, v] = [at(r, i - 2), at(r, i - 1), at(r, i), at(r, i + 1)];
        if (!p || !q || !u || !v) return 0;
        return Math.hypot(...[0, 1, 2].map((k) => u[k]! - q[k]! - (q[k]! - p[k]! + v[k]! - u[k]!) / 2));
      };
      const pp = popOf(0) - Math.max(popOf(1), popOf(2));
      if (pp > pop) {
        pop = pp;
        worstJ = sk.names[j]!;
        worstF = i - 4;
      }
      const turnOf = (r: number) => {
        const [x, y] = [rows[r]![i - 1], rows[r]![i]];
        return x && y ? angle(x.local, y.local, j) : 0;
      };
      const beyond = turnOf(0) - Math.max(turnOf(1), turnOf(2));
      turn = Math.max(turn, beyond);
      if (legs.some((l) => l.lower === j || l.upper === j)) knee = Math.max(knee, beyond);
      if (legs.some((l) => l.ankle === j || l.tip === j)) {
        const low = (r: number) => {
          const p = at(r, i);
          return p ? p[1]! - soles(j) : 9;
        };
        sink = Math.max(sink, Math.min(low(1), low(2)) - low(0));
      }
    }
  if (pop > 0.03)
    console.log(
      'POP',
      a.name,
      b.name,
      (pop * 100).toFixed(1),
      b.overlap,
      JSON.stringify(b.madeStep?.feet),
      'joint',
      worstJ,
      worstF,
    );
  audits['pop cm']!.push(pop * 100);
  audits['knee deg a frame beyond']!.push(knee);
  audits['sink cm']!.push(sink * 100);
  audits['joint turn beyond']!.push(turn);
}
const toParent = (sk: Skeleton, p: any): Pose => {
  const q = p;
  return parentSpace(sk, q);
};
const [which, count, seed, mode] = [
  process.argv[2] ?? 'demo',
  Number(process.argv[3] ?? 40),
  Number(process.argv[4] ?? 1),
  process.argv[5] ?? 'steps',
];
const set = which === 'demo' ? demonstration() : await capture(which);
const library: Library = fixedLibrary({
  clip: (id) => set.clips.find((c) => c.id === id),
  body: () => set.body,
});
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
  for (const s of [a, b])
    scene = applyEdit(scene, { type: 'place', lane: 'l', segment: s, at: 'end', overlap: 'auto' }, library);
  const t = performance.now();
  const choice: JoinChoice | null = chooseJoin(scene, b.id, library, {
    ...PLAIN_LIMITS,
    steps: mode !== 'plain',
  });
  times.push(performance.now() - t);
  if (!choice) continue;
  if (choice.measures.grade !== 'good' && mode === 'bridges') {
    const t2 = performance.now();
    let nid = 0;
    const [bridge] = findBridges(applyEdit(scene, choice.edit, library), b.id, set.clips, library, () => `bridge${nid++}`);
    const t3 = performance.now() - t2;
    console.log('BRIDGE', a.name, b.name, choice.measures.grade, bridge ? `${bridge.clip.name} ${bridge.seconds.toFixed(1)} s ${bridge.measures.map((x) => x.grade)} cost ${bridge.cost.toFixed(2)}` : 'none', t3.toFixed(0));
    if (bridge) { const g = bridge.measures.map((x) => x.grade); tally[g.includes('bad') ? 'bad' : g.includes('watch') ? 'watch' : 'good']++; continue; }
  }
  tally[choice.measures.grade]++;
  before[choice.before.grade]++;
  const m = choice.measures;
  worst = Math.max(worst, m.popCm);
  kinds[`${m.kind} ${m.grade}`] = (kinds[`${m.kind} ${m.grade}`] ?? 0) + 1;
  audit(choice.edit ? applyEdit(scene, choice.edit, library) : scene, choice.measures.overlap || 9);
  if (m.grade !== 'good' || process.env.ALL)
    console.log(
      `${a.name} > ${b.name}: ${m.grade} ${m.worst} pop ${m.popCm.toFixed(2)} surge ${m.surgeCm.toFixed(2)} turn ${m.turnDegrees.toFixed(1)} slide ${m.slideCm.toFixed(2)} hitch ${m.hitch.toFixed(2)} ${m.kind} ${m.overlap} ${String(m.fit)} at ${m.worstJoint}; was ${choice.before.grade}`,
    );
}
const pct = (list: number[], p: number) =>
  list.sort((x, y) => x - y)[Math.floor(p * (list.length - 1))]?.toFixed(2);
for (const [k, v] of Object.entries(audits))
  console.log(k, 'p50', pct(v, 0.5), 'p90', pct(v, 0.9), 'p99', pct(v, 0.99), 'max', pct(v, 1));
times.sort((x, y) => x - y);
console.log(
  set.name,
  'before',
  before,
  'after',
  tally,
  kinds,
  'worst pop',
  worst.toFixed(1),
  'ms',
  times[times.length >> 1]!.toFixed(0),
  times[Math.floor(times.length * 0.9)]!.toFixed(0),
);
