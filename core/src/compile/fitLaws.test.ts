import { describe, expect, it } from '@jest/globals';
import { cloudJoints, writeCloud } from '../clip/pointCloud';
import { makePoseBuffer, makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { shortestTurn, unpackMove } from '../math/floorMove';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import type { Seam } from '../scene/seam';
import { PLAIN_SEAM } from '../scene/seam';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { measureHolds } from '../continuity/holdMeasures';
import { measureSeams } from '../continuity/seamMeasures';
import { compile, createCompiler } from './compile';
import type { SeamPlacing } from '../scene/seam';
import { seamOf, settling } from '../testing/scenes';

// Two motions that have nothing in common: whatever is taken at another moment, or of the other side, shows.
const bend = figureClip(
  80,
  (f) => ({
    x: 0.3 * Math.sin(f / 25),
    z: 0.03 * f,
    turn: 0.0004 * f * f,
    joints: strideJoints((2 * Math.PI * f) / 34),
  }),
  { id: 'bend' },
);
const swing = figureClip(
  80,
  (f) => ({
    x: 0.002 * f,
    z: 0.02 * f + 0.0002 * f * f,
    turn: 0.4 * Math.sin(f / 15),
    joints: { ...strideJoints(1 + (2 * Math.PI * f) / 28), chest: [0, 0.5 * Math.sin(f / 6), 0] },
  }),
  { id: 'swing' },
);
const OVERLAP = 12;
const START = 60 - OVERLAP;

const joined = (values: Partial<SeamPlacing>, overlap = OVERLAP, more = {}): CharacterPlan =>
  compile(
    {
      ...sceneOf([
        segmentOf(bend, { id: 'a', out: 60 }),
        segmentOf(swing, { id: 'b', start: 60 - overlap, in: 5, seam: seamOf(values), ...more }),
      ]),
      // The left foot is said to stand on both sides of the seam.
      steps: { bend: { leftFoot: [[40, 80]] }, swing: { leftFoot: [[0, 30]] } },
    },
    libraryOf(bend, swing),
  ).characters[0]!;

const rootOf = (segment: SegmentPlan, frame: number): number[] => [
  ...segmentPose(segment, frame, true, makePoseBuffer(segment.clip.skeleton)).root,
];

/** Places of the compared joints of a segment at a frame, as it was recorded. */
function cloud(segment: SegmentPlan, frame: number): Float64Array {
  const { skeleton } = segment.clip;
  const recorded = { ...segment, move: new Float64Array(3), lift: 0 };
  const pose = toParentSpace(skeleton, segmentPose(recorded, frame, true, makePoseBuffer(skeleton)));
  const joints = cloudJoints(skeleton);
  const out = new Float64Array(joints.length * 3);
  writeCloud(poseToWorld(skeleton, pose, makeWorldPose(skeleton)), joints, out, 0);
  return out;
}

/**
 * Kovar, Gleicher, Pighin, "Motion Graphs", SIGGRAPH 2002, section 3.1, with equal weights, over the given frames; written
 * anew here from the paper.
 */
function paperFit(outgoing: SegmentPlan, incoming: SegmentPlan, frames: readonly number[]) {
  const s = { x: 0, z: 0, X: 0, Z: 0, cross: 0, dot: 0, n: 0 };
  for (const frame of frames) {
    const [p, q] = [cloud(outgoing, frame), cloud(incoming, frame)];
    for (let i = 0; i < p.length; i += 3) {
      const [x, z, u, v] = [p[i]!, p[i + 2]!, q[i]!, q[i + 2]!];
      s.x += x;
      s.z += z;
      s.X += u;
      s.Z += v;
      s.cross += x * v - u * z;
      s.dot += x * u + z * v;
      s.n++;
    }
  }
  const turn = Math.atan2(s.cross - (s.x * s.Z - s.X * s.z) / s.n, s.dot - (s.x * s.X + s.z * s.Z) / s.n);
  const [c, k] = [Math.cos(turn), Math.sin(turn)];
  return { x: (s.x - s.X * c - s.Z * k) / s.n, z: (s.z + s.X * k - s.Z * c) / s.n, turn };
}

describe('a fit of two different motions', () => {
  it('by the hips brings the roots together at the middle of the overlap, and nowhere else', () => {
    const [a, b] = joined({ fit: 'hips' }).segments as [SegmentPlan, SegmentPlan];
    const apart = (frame: number): number =>
      Math.hypot(...rootOf(a, frame).map((v, k) => v - rootOf(b, frame)[k]!));
    expect(apart(START + OVERLAP / 2)).toBeLessThan(1e-9);
    expect(apart(START)).toBeGreaterThan(0.05);
    expect(apart(60)).toBeGreaterThan(0.05);
  });

  it('by the whole body is the closed form of the paper over every frame of the overlap, both ends included', () => {
    const [a, b] = joined({ fit: 'whole body' }).segments as [SegmentPlan, SegmentPlan];
    const frames = Array.from({ length: OVERLAP + 1 }, (_, i) => START + i);
    const move = unpackMove(b.move);
    const paper = paperFit(a, b, frames);
    expect(move.x).toBeCloseTo(paper.x, 9);
    expect(move.z).toBeCloseTo(paper.z, 9);
    expect(shortestTurn(move.turn - paper.turn)).toBeCloseTo(0, 9);
    // A frame less is another fit.
    expect(Math.abs(paperFit(a, b, frames.slice(0, -1)).turn - paper.turn)).toBeGreaterThan(1e-4);
  });

  it('by a planted foot takes its direction from the whole body, not from the hips', () => {
    const moveOf = (fit: Seam['fit']) => unpackMove(joined({ fit }).segments[1]!.move);
    const [foot, body, hips] = (['planted foot', 'whole body', 'hips'] as const).map(moveOf);
    expect(foot!.turn).toBeCloseTo(body!.turn, 12);
    expect(Math.abs(shortestTurn(body!.turn - hips!.turn))).toBeGreaterThan(0.01);
    // It was the foot that placed it.
    expect(Math.hypot(foot!.x - body!.x, foot!.z - body!.z)).toBeGreaterThan(1e-3);
  });

  it('takes a nudge at the match: the roots stand apart by it there, in the directions of the incoming one', () => {
    const [a, b] = joined({ fit: 'hips', nudge: { x: 0.3, z: -0.2, turn: 0 } }).segments as [
      SegmentPlan,
      SegmentPlan,
    ];
    const match = START + OVERLAP / 2;
    const [from, to] = [rootOf(a, match), rootOf(b, match)];
    const heading = from[2]!;
    expect(to[0]! - from[0]!).toBeCloseTo(0.3 * Math.cos(heading) - 0.2 * Math.sin(heading), 9);
    expect(to[1]! - from[1]!).toBeCloseTo(-0.3 * Math.sin(heading) - 0.2 * Math.cos(heading), 9);
  });

  it('of heights goes along with the height of the one before', () => {
    const high = (lift: number): number => {
      const scene = sceneOf([
        segmentOf(bend, { id: 'a', out: 60, lift }),
        segmentOf(swing, { id: 'b', start: START, seam: { ...PLAIN_SEAM, height: true }, lift: 0.05 }),
      ]);
      return compile(scene, libraryOf(bend, swing)).characters[0]!.segments[1]!.lift;
    };
    expect(high(0.4) - high(0)).toBeCloseTo(0.4, 9);
  });
});

describe('heights along a lane', () => {
  // The first segment is raised; two match its height, the last does not.
  const lane = sceneOf(
    [bend, swing, bend, swing].map((clip, i) =>
      segmentOf(clip, { id: `s${i}`, start: i * 70, seam: { ...PLAIN_SEAM, height: i < 3 } }),
    ),
  );
  const raised = {
    ...lane,
    segments: { ...lane.segments, s0: { ...lane.segments.s0!, lift: 0.4 } },
  };
  const compiler = createCompiler(libraryOf(bend, swing));
  const before = compiler.compile(lane).characters[0]!;
  const seams = measureSeams(before, 30);
  const kept = compiler.compile(raised).characters[0]!;
  const fresh = compile(raised, libraryOf(bend, swing)).characters[0]!;

  it('go along with an edit far before, as if compiled afresh', () => {
    const lifts = (of: CharacterPlan): number[] => of.segments.map((s) => s.lift);
    expect(lifts(kept)).toEqual(lifts(fresh));
    expect(lifts(kept)[2]! - lifts(before)[2]!).toBeCloseTo(0.4, 9);
    expect(lifts(kept)[3]!).toBe(0);
  });

  it('are measured where they part, however far before the edit was', () => {
    expect(measureSeams(kept, 30)).toEqual(measureSeams(fresh, 30));
    expect(measureSeams(kept, 30)[2]!.surgeCm).toBeGreaterThan(seams[2]!.surgeCm + 1);
  });
});

describe('held feet at a crossfade', () => {
  it('are those of the side that weighs more: the outgoing up to its middle, the incoming from there', () => {
    const scene = sceneOf([
      segmentOf(bend, { id: 'a', out: 60 }),
      segmentOf(swing, { id: 'b', start: START, in: 5 }),
    ]);
    const plan = compile(
      {
        ...scene,
        characters: { c: { ...scene.characters.c!, footLock: true } },
        // One foot stands all the while on one side, the other on the other; their toes never.
        steps: {
          bend: { leftFoot: [[10, 80]], leftToes: [], rightFoot: [], rightToes: [] },
          swing: { rightFoot: [[0, 60]], leftFoot: [], leftToes: [], rightToes: [] },
        },
      },
      libraryOf(bend, swing),
    ).characters[0]!;
    const holds = measureHolds(plan);
    const middle = START + OVERLAP / 2;
    expect(holds.map((h) => h.joint)).toEqual(['leftFoot', 'rightFoot']);
    expect(holds[0]!.end).toBe(middle);
    expect(holds[1]!.start).toBe(middle);
  });
});

describe('a settling seam of two different motions', () => {
  const settled = joined({}, 0, {
    in: 20,
    seam: settling(12, { fit: 'hips', nudge: { x: 0.1, z: 0.2, turn: 25 } }),
  });
  const [a] = settled.segments as [SegmentPlan, SegmentPlan];
  const played = (frame: number): number[] => [
    ...evaluate(settled, frame, makePoseBuffer(settled.skeleton)).root,
  ];

  it('begins where the outgoing root is: in x, in z and in heading', () => {
    const [from, to] = [rootOf(a, 60), played(60)];
    for (let k = 0; k < 3; k++) expect(to[k]!).toBeCloseTo(from[k]!, 6);
  });

  it('begins as fast as the outgoing root turns, by finite differences', () => {
    const h = 1e-3;
    const speed = (root: (frame: number) => number[]): number => (root(60 + h)[2]! - root(60)[2]!) / h;
    const outgoing = speed((frame) => rootOf(a, frame));
    // A frame's difference stands for the speed at the cut: within the motion's own change over it.
    expect(Math.abs(speed(played) - outgoing)).toBeLessThan(6e-3);
    const incoming = speed((frame) => rootOf(settled.segments[1]!, frame));
    expect(Math.abs(incoming - outgoing)).toBeGreaterThan(0.012);
  });

  it('has nothing left of the difference when it is over', () => {
    const plain = joined({ fit: 'hips', nudge: { x: 0.1, z: 0.2, turn: 25 } }, 0, { in: 20 });
    const pose = evaluate(plain, 72, makePoseBuffer(plain.skeleton));
    played(72).forEach((v, k) => expect(v).toBeCloseTo(pose.root[k]!, 12));
  });
});

describe('a gap', () => {
  it('begins right after the last frame before it', () => {
    const p = compile(
      sceneOf([
        segmentOf(bend, { id: 'a', out: 30 }),
        segmentOf(swing, { id: 'b', start: 50, seam: { ...PLAIN_SEAM, gap: 'ease', fit: 'free' } }),
      ]),
      libraryOf(bend, swing),
    ).characters[0]!;
    const at = (frame: number): number[] => [...evaluate(p, frame, makePoseBuffer(p.skeleton)).rotations];
    const moved = (f: number, g: number): number => Math.max(...at(f).map((v, i) => Math.abs(v - at(g)[i]!)));
    expect(moved(30, 29)).toBeGreaterThan(1e-4);
    expect(moved(29.5, 29)).toBeGreaterThan(1e-5);
  });
});
