import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { quatAngle } from '../math/quaternion';

import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { compile } from './compile';
import { evaluate } from '../footlock/evaluate';
import { seamOf, settling } from '../testing/scenes';

const walk = figureClip(
  91,
  (f) => ({ x: 0, z: 0.04 * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
/** The same walk a sixth of a cycle on, with the head turned: near, but not the same. */
const other = figureClip(
  91,
  (f) => ({
    x: 0,
    z: 0.045 * f,
    turn: 0,
    joints: { ...strideJoints((2 * Math.PI * (f + 5)) / 30), head: [0, 0.4, 0] },
  }),
  { id: 'other' },
);
const plan = (settle: number | null, cut = 60, out = 60) =>
  compile(
    sceneOf([
      segmentOf(walk, { id: 'a', out }),
      segmentOf(other, {
        id: 'b',
        start: cut,
        seam: settle === null ? seamOf({ fit: 'hips' }) : settling(settle, { fit: 'hips' }),
      }),
    ]),
    libraryOf(walk, other),
  ).characters[0]!;
const world = (p: ReturnType<typeof plan>, frame: number): Float64Array =>
  poseToWorld(
    p.skeleton,
    evaluate(p, frame, makePoseBuffer(p.skeleton)),
    makeWorldPose(p.skeleton),
  ).positions.slice();
const gap = (a: Float64Array, b: Float64Array): number => Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

describe('a settling seam', () => {
  it('goes on from the outgoing pose at the cut', () => {
    const alone = compile(sceneOf([segmentOf(walk, { id: 'a' })]), libraryOf(walk)).characters[0]!;
    const p = plan(9);
    expect(gap(world(p, 60), world(alone, 60))).toBeLessThan(2e-3);
    // A plain cut jumps there.
    expect(gap(world(plan(null), 60), world(alone, 60))).toBeGreaterThan(0.05);
  });

  it('is the incoming clip once it is over', () => {
    const [settling, cut] = [plan(9), plan(null)];
    for (const frame of [69, 75, 120])
      expect(gap(world(settling, frame), world(cut, frame))).toBeLessThan(1e-12);
    expect(gap(world(settling, 64), world(cut, 64))).toBeGreaterThan(0.001);
  });

  it('needs no samples beyond the end of the outgoing clip', () => {
    const p = plan(9, 91, 91);
    const alone = compile(sceneOf([segmentOf(walk, { id: 'a', loop: true, repeat: 5 })]), libraryOf(walk))
      .characters[0]!;
    // Carried on by its last step, the pose errs by its acceleration over one frame.
    expect(gap(world(p, 91), world(alone, 91))).toBeLessThan(0.02);
  });

  it('rises from rest after a gap', () => {
    const p = plan(9, 80);
    expect(gap(world(p, 80), world(p, 79))).toBeLessThan(0.03);
  });

  it('between the same motion changes nothing', () => {
    const p = compile(
      sceneOf([
        segmentOf(walk, { id: 'a', out: 40 }),
        segmentOf(walk, { id: 'b', in: 40, start: 40, seam: settling(9) }),
      ]),
      libraryOf(walk),
    ).characters[0]!;
    const whole = compile(sceneOf([segmentOf(walk, { id: 'a' })]), libraryOf(walk)).characters[0]!;
    for (let f = 38; f < 52; f++) {
      const [a, b] = [
        evaluate(p, f, makePoseBuffer(p.skeleton)),
        evaluate(whole, f, makePoseBuffer(p.skeleton)),
      ];
      for (let j = 0; j < p.skeleton.names.length; j++) {
        expect((quatAngle(a.rotations, j * 4, b.rotations, j * 4) * 180) / Math.PI).toBeLessThan(0.3);
      }
    }
  });
});
