import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { measureSeam } from '../continuity/measureSeam';
import { evaluate } from '../footlock/evaluate';
import { composeMoves, shortestTurn } from '../math/floorMove';
import type { CharacterPlan } from '../plan/plan';
import { sampleAt } from '../plan/segmentPose';
import type { Seam, SeamPlacing } from '../scene/seam';
import { PLAIN_STEP } from '../scene/seam';
import { legsOf } from '../skeleton/legs';
import { evenly } from '../testing/evenly';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf, seamOf } from '../testing/scenes';
import { compile, createCompiler } from './compile';

const OVERLAP = 20;
const START = 40;
/** Stands with its legs as in a stride, bent a little. */
const standing = (stride: number, id: string, rate = 30) =>
  figureClip(
    Math.round(2 * rate) + 1,
    () => ({ x: 1, y: 0.9, z: 2, turn: 0.4, joints: strideJoints(stride) }),
    {
      id,
      rate,
    },
  );
const SPEED = 1.2 / 30;
const walk = figureClip(
  61,
  (f) => ({ x: 0, y: 0.93, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const left = standing(0, 'left');
const right = standing(0.9, 'right');
/** Its knees are bent as well: a straight one bends suddenly. */
const near = standing(0.6, 'near');
const library = libraryOf(left, right, near, walk);
const stepping = (values: Partial<SeamPlacing> = {}): Seam => seamOf(values, PLAIN_STEP);
const planOf = (seam: Seam, clips = [left, right], start: number | null = null): CharacterPlan =>
  compile(
    sceneOf(
      [
        segmentOf(clips[0]!, { id: 'a', out: START + OVERLAP }),
        segmentOf(clips[1]!, { id: 'b', start: START, seam }),
      ],
      30,
      start === null ? null : { x: start, z: 1, heading: 30 * start },
    ),
    library,
  ).characters[0]!;
const placesAt = (plan: CharacterPlan, frame: number): Float64Array =>
  poseToWorld(
    plan.skeleton,
    evaluate(plan, frame, makePoseBuffer(plan.skeleton)),
    makeWorldPose(plan.skeleton),
  ).positions.slice();
const jointAt = (places: Float64Array, joint: number): number[] =>
  [0, 1, 2].map((k) => places[joint * 3 + k]!);
const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((v, k) => v - b[k]!));

describe('a made step', () => {
  const plan = planOf(stepping());
  const after = plan.segments[1]!;
  const made = after.madeStep!;

  it('begins as the outgoing side and ends as the incoming one', () => {
    const alone = (clip: typeof left, frame: number): Float64Array =>
      placesAt(compile(sceneOf([segmentOf(clip)]), library).characters[0]!, frame);
    const first = placesAt(plan, START);
    alone(left, START).forEach((v, i) => expect(first[i]).toBeCloseTo(v, 9));
    const end = placesAt(plan, START + OVERLAP);
    const own = alone(right, OVERLAP);
    // The same pose, wherever it has come to stand.
    for (let j = 1; j < plan.skeleton.names.length; j++)
      expect(apart(jointAt(end, j), jointAt(end, 0))).toBeCloseTo(apart(jointAt(own, j), jointAt(own, 0)), 9);
  });

  it('keeps every foot where it stands until it leaves, and from when it lands', () => {
    const [begin, end] = [placesAt(plan, START), placesAt(plan, START + OVERLAP)];
    legsOf(plan.skeleton).forEach(({ ankle }, i) => {
      const { leaves, lands, swings } = made.feet[i]!;
      expect(swings).toBe(true);
      for (let f = 0; f <= OVERLAP; f += 0.5) {
        const place = jointAt(placesAt(plan, START + f), ankle);
        if (f <= leaves) expect(apart(place, jointAt(begin, ankle))).toBeLessThan(1e-6);
        if (f >= lands) expect(apart(place, jointAt(end, ankle))).toBeLessThan(1e-6);
        if (f > leaves + 1 && f < lands - 1) expect(place[1]).toBeGreaterThan(jointAt(begin, ankle)[1]!);
      }
    });
  });

  it('stays on its spot where neither side goes anywhere, and goes on where they do', () => {
    const root = (p: CharacterPlan, f: number) => evaluate(p, f, makePoseBuffer(p.skeleton)).root;
    for (let f = 0; f <= OVERLAP; f++) {
      expect(root(plan, START + f)[0]).toBeCloseTo(1, 6);
      expect(root(plan, START + f)[1]).toBeCloseTo(2, 6);
    }
    const going = planOf(stepping(), [walk, walk]);
    for (let f = START - 3; f < START + OVERLAP + 3; f++)
      expect(root(going, f + 1)[1]! - root(going, f)[1]!).toBeCloseTo(SPEED, 5);
  });

  it('leads over to wherever the incoming side is nudged or pinned, without a jump', () => {
    fc.assert(
      fc.property(evenly(-0.3, 0.3), evenly(-0.3, 0.3), evenly(-60, 60), (x, z, turn) => {
        const plain = plan.segments[1]!.move;
        const nudged = planOf(stepping({ nudge: { x, z, turn } }));
        const to = nudged.segments[1]!.move;
        expect(shortestTurn(to[2]! - plain[2]! - (turn * Math.PI) / 180)).toBeCloseTo(0, 9);
        const pose = evaluate(nudged, START + OVERLAP, makePoseBuffer(nudged.skeleton)).root;
        const own = evaluate(plan, START + OVERLAP, makePoseBuffer(plan.skeleton)).root;
        const wanted = composeMoves(
          { x: own[0]!, z: own[1]!, turn: own[2]! },
          { x, z, turn: (turn * Math.PI) / 180 },
        );
        expect(Math.hypot(pose[0]! - wanted.x, pose[1]! - wanted.z)).toBeLessThan(1e-6);
        const measures = measureSeam(nudged, 0, 30);
        expect(measures.popCm).toBeLessThan(2);
        expect(measures.slideCm).toBeLessThan(0.01);
      }),
      { numRuns: 30 },
    );
    const pinned = planOf(stepping({ fit: { pin: { x: 1.2, z: 2.1, heading: 40 } } }));
    const root = evaluate(pinned, START + OVERLAP, makePoseBuffer(pinned.skeleton)).root;
    expect([root[0], root[1], (root[2]! * 180) / Math.PI].map((v) => v!.toFixed(4))).toEqual([
      '1.2000',
      '2.1000',
      '40.0000',
    ]);
    expect(measureSeam(pinned, 0, 30).popCm).toBeLessThan(2);
  });

  it('is the same wherever the scene has it, and after an edit as when compiled afresh', () => {
    const scene = (x: number) =>
      sceneOf(
        [
          segmentOf(left, { id: 'a', out: START + OVERLAP }),
          segmentOf(right, { id: 'b', start: START, seam: stepping(), out: 60 }),
          segmentOf(left, { id: 'c', start: 85, seam: stepping({ nudge: { x: 0.1, z: 0, turn: 9 } }) }),
        ],
        30,
        { x, z: -x, heading: 20 * x },
      );
    const compiler = createCompiler(library);
    compiler.compile(scene(0));
    const [moved] = compiler.compile(scene(3)).characters;
    const [fresh] = compile(scene(3), libraryOf(left, right, walk)).characters;
    for (const f of [40.5, 51, 59, 86, 97.25, 104])
      expect(evaluate(moved!, f, makePoseBuffer(left.skeleton))).toEqual(
        evaluate(fresh!, f, makePoseBuffer(left.skeleton)),
      );
    const { move: _, ...here } = measureSeam(moved!, 1, 30);
    const { move: __, ...there } = measureSeam(compiler.compile(scene(0)).characters[0]!, 1, 30);
    expect(here.popCm).toBeCloseTo(there.popCm, 6);
    expect(here.footfalls).toEqual(there.footfalls);
  });

  it('lowers the hips by a hand at most, and not at its ends', () => {
    const wide = planOf(stepping({ nudge: { x: 0, z: 0.5, turn: 0 } })).segments[1]!.madeStep!.lowering;
    expect(Math.max(...wide)).toBeGreaterThan(0.001);
    expect(Math.max(...wide)).toBeLessThanOrEqual(0.05);
    expect([wide[0], wide.at(-1)]).toEqual([0, 0]);
  });

  it('tells its footfalls in frames of the scene, and takes the user’s', () => {
    const given = { ...PLAIN_STEP, footfalls: { leftFoot: [2, 10] as const } };
    const own = planOf(seamOf({}, given));
    const { footfalls, kind } = measureSeam(own, 0, 30);
    expect(kind).toBe('step');
    expect(footfalls.leftFoot).toEqual([[START + 2, START + 10]]);
    expect(footfalls.rightFoot).toHaveLength(1);
  });

  it('is a crossfade no longer once nothing is shared', () => {
    const cut = compile(
      sceneOf([
        segmentOf(left, { id: 'a', out: START }),
        segmentOf(right, { id: 'b', start: START, seam: stepping() }),
      ]),
      library,
    ).characters[0]!;
    expect(cut.segments[1]!.madeStep).toBeNull();
    expect(measureSeam(cut, 0, 30).kind).toBe('cut');
    expect(sampleAt(cut.segments[1]!, START)).toBe(0);
  });

  it('judges swings by ordinary ones, and the rest of the body as ever', () => {
    // Half a metre in a moment is no ordinary step.
    const haste = { ...PLAIN_STEP, footfalls: { leftFoot: [8, 10] as const, rightFoot: [9, 11] as const } };
    const far = measureSeam(planOf(seamOf({ nudge: { x: 0, z: 0.5, turn: 0 } }, haste)), 0, 30);
    expect(far.grade).toBe('bad');
    expect(measureSeam(planOf(stepping(), [near, right]), 0, 30).grade).toBe('good');
  });
});
