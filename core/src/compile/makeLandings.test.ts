import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { measureSeam } from '../continuity/measureSeam';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import type { LandingPlace, SeamPlacing } from '../scene/seam';
import { PLAIN_STEP } from '../scene/seam';
import { jointOfRole } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip } from '../testing/figure';
import { libraryOf, sceneOf, seamOf, segmentOf } from '../testing/scenes';
import { compile } from './compile';

const OVERLAP = 20;
const START = 40;
/** Knees bent, one leg before the other. */
const crouch = (stride: number) => ({
  leftUpperLeg: [-0.5 - stride, 0, 0] as const,
  rightUpperLeg: [-0.5 + stride, 0, 0] as const,
  leftLowerLeg: [1, 0, 0] as const,
  rightLowerLeg: [1, 0, 0] as const,
});
/** Stands with its knees bent enough for its feet to go some way. */
const standing = (stride: number, id: string) =>
  figureClip(61, () => ({ x: 1, y: 0.85, z: 2, turn: 0.4, joints: crouch(stride) }), { id });
/** Stands for 30 samples, hops a metre on in 12, and stands there. */
const hop = figureClip(
  80,
  (f) => {
    const u = Math.min(1, Math.max(0, (f - 29) / 13));
    return {
      x: 0,
      y: 0.85 + 0.3 * Math.sin(Math.PI * u),
      z: u * u * (3 - 2 * u),
      turn: 0,
      joints: crouch(0.1),
    };
  },
  { id: 'hop' },
);
const [left, right] = [standing(0.15, 'left'), standing(-0.1, 'right')];
const library = libraryOf(left, right, hop);
type Places = Readonly<Record<string, LandingPlace>>;
const planOf = (
  landings: Places,
  clips = [left, right],
  seam: Partial<SeamPlacing> = {},
  heading = 0,
): CharacterPlan =>
  compile(
    sceneOf(
      [
        segmentOf(clips[0]!, { id: 'a', out: START + OVERLAP }),
        segmentOf(clips[1]!, { id: 'b', start: START, seam: seamOf(seam, { ...PLAIN_STEP, landings }) }),
      ],
      30,
      { x: 0, z: 0, heading },
    ),
    library,
  ).characters[0]!;
const footAt = (plan: CharacterPlan, role: 'leftFoot' | 'rightFoot', frame: number): number[] => {
  const { skeleton } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  return [0, 1, 2].map((k) => positions[jointOfRole(skeleton, role) * 3 + k]!);
};
const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((v, k) => v - b[k]!));

describe('a foot that lands elsewhere', () => {
  it('stands there from its landing on, told in the directions of the root, and the other one where it did', () => {
    fc.assert(
      fc.property(
        evenly(-0.12, 0.12),
        evenly(-0.12, 0.12),
        evenly(-180, 180),
        evenly(-60, 60),
        (x, z, at, turn) => {
          const nudged = { nudge: { x: 0, z: 0, turn } };
          const plain = planOf({}, [left, right], nudged, at);
          const moved = planOf({ leftFoot: { x, z } }, [left, right], nudged, at);
          const end = START + OVERLAP;
          const root = evaluate(moved, end, makePoseBuffer(moved.skeleton)).root[2]!;
          const [s, c] = [Math.sin(root), Math.cos(root)];
          for (const frame of [end, end + 13.5, START + 60]) {
            const [px, py, pz] = footAt(plain, 'leftFoot', frame);
            const wanted = [px! + x * c + z * s, py!, pz! + z * c - x * s];
            expect(apart(footAt(moved, 'leftFoot', frame), wanted)).toBeLessThan(1e-4);
            expect(apart(footAt(moved, 'rightFoot', frame), footAt(plain, 'rightFoot', frame))).toBeLessThan(
              1e-4,
            );
          }
          expect(measureSeam(moved, 0, 30).slideCm).toBeLessThan(0.01);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is where it was until it leaves, and swings over without a jump', () => {
    const moved = planOf({ leftFoot: { x: 0.15, z: 0.1 } });
    const { leaves, lands } = moved.segments[1]!.madeStep!.feet[0]!;
    expect(apart(footAt(moved, 'leftFoot', START + leaves), footAt(moved, 'leftFoot', START))).toBeLessThan(
      1e-6,
    );
    const at = (f: number): number[] => footAt(moved, 'leftFoot', START + f);
    for (let f = -2; f < lands + 3; f++) {
      const [a, b, c, d] = [at(f), at(f + 1), at(f + 2), at(f + 3)];
      const pop = Math.hypot(...a.map((v, k) => 0.5 * (v - 3 * b[k]! + 3 * c[k]! - d[k]!)));
      expect(pop).toBeLessThan(0.01);
    }
  });

  it('stands there until the clip lifts it, and comes back with the next strike', () => {
    const role = 'leftFoot';
    const [plain, moved] = [planOf({}, [left, hop]), planOf({ [role]: { x: 0.06, z: 0 } }, [left, hop])];
    const { feet } = moved.segments[1]!.landings!;
    const { leaves, returns } = feet[0]!;
    expect(leaves).toBeGreaterThanOrEqual(OVERLAP);
    expect(returns).toBeGreaterThan(leaves + 5);
    const away = (f: number): number => apart(footAt(moved, role, START + f), footAt(plain, role, START + f));
    for (let f = OVERLAP; f <= leaves; f++) expect(away(f)).toBeCloseTo(0.06, 3);
    expect(away((leaves + returns) / 2)).toBeCloseTo(0.03, 2);
    for (let f = returns; f < 60; f++) expect(away(f)).toBeLessThan(1e-6);
  });

  it('takes the hips down where the leg would not reach, by a hand at most', () => {
    const wide = planOf({ leftFoot: { x: 0.9, z: 0 } });
    expect(Math.max(...wide.segments[1]!.landings!.lowering)).toBeCloseTo(0.05, 3);
    const [stays, there] = [wide, planOf({})].map((p) => footAt(p, 'rightFoot', START + 40));
    expect(apart(stays!, there!)).toBeLessThan(1e-6);
    expect(planOf({ leftFoot: { x: 0, z: 0 } }).segments[1]!.landings).toBeNull();
  });
});
