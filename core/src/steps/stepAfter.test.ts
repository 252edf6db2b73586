import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import { jointOfRole } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';

/** Stands with bent knees, and sways a little. */
const stand = figureClip(
  121,
  (f) => ({
    x: 0,
    y: 0.83,
    z: 0,
    turn: 0,
    joints: {
      leftUpperLeg: [-0.5, 0, 0],
      rightUpperLeg: [-0.5, 0, 0],
      leftLowerLeg: [1, 0, 0],
      rightLowerLeg: [1, 0, 0],
      spine: [0.02 * Math.sin(f / 9), 0, 0],
    },
  }),
  { id: 'stand' },
);
const library = libraryOf(stand);

/** Stands, and is moved by hand between two moments. */
const movedPlan = (x: number, z: number, heading: number, from = 40, to = 80): CharacterPlan =>
  compile(
    sceneOf(
      [
        segmentOf(stand, {
          id: 'a',
          marks: [
            { frame: from, x: 0, z: 0, heading: 0 },
            { frame: to, x, z, heading },
          ],
        }),
      ],
      30,
      { x: 0, z: 0, heading: 0 },
    ),
    library,
  ).characters[0]!;

type Foot = 'left' | 'right';
const placeOf = (plan: CharacterPlan, foot: Foot, frame: number): number[] => {
  const { skeleton } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  return [0, 1, 2].map((k) => positions[jointOfRole(skeleton, `${foot}Foot`) * 3 + k]!);
};
const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((v, k) => v - b[k]!));
/** The spans of frames in which a foot moves by more than half a millimetre. */
function swingsOf(plan: CharacterPlan, foot: Foot): [number, number][] {
  const spans: [number, number][] = [];
  for (let f = 0; f < 120; f++) {
    if (apart(placeOf(plan, foot, f), placeOf(plan, foot, f + 1)) < 5e-4) continue;
    const last = spans.at(-1);
    if (last && last[1] >= f - 1) last[1] = f + 1;
    else spans.push([f, f + 1]);
  }
  return spans;
}

describe('a standing body that is moved by hand', () => {
  it('steps after, one foot at a time, and stands as before at the end', () => {
    fc.assert(
      fc.property(evenly(0.1, 0.6), evenly(-180, 180), fc.constantFrom(50, 60, 80), (way, angle, to) => {
        const radians = (angle * Math.PI) / 180;
        const [x, z] = [way * Math.sin(radians), way * Math.cos(radians)];
        const plan = movedPlan(x, z, 0, 40, to);
        const feet = (['left', 'right'] as const).map((foot) => ({ foot, swings: swingsOf(plan, foot) }));
        for (const { foot, swings } of feet) {
          // In haste they go further.
          if (to === 80) expect(swings).toHaveLength(Math.ceil(way / 0.35 - 1e-6));
          else expect(swings.length).toBeGreaterThanOrEqual(Math.ceil(way / 0.56));
          for (const [leaves, lands] of swings) {
            expect(lands - leaves).toBeLessThanOrEqual(13);
            const high = Math.max(
              ...[0.4, 0.5, 0.6].map((u) => placeOf(plan, foot, leaves + u * (lands - leaves))[1]!),
            );
            expect(high - placeOf(plan, foot, leaves)[1]!).toBeGreaterThan(0.02);
          }
          const [begin, end] = [placeOf(plan, foot, 0), placeOf(plan, foot, 120)];
          expect(end[0]! - begin[0]!).toBeCloseTo(x, 4);
          expect(end[2]! - begin[2]!).toBeCloseTo(z, 4);
        }
        const all = feet.flatMap((f) => f.swings).sort((a, b) => a[0] - b[0]);
        all.slice(1).forEach(([leaves], i) => expect(leaves).toBeGreaterThanOrEqual(all[i]![1] - 1));
      }),
      { numRuns: 12 },
    );
  });

  it('begins with the foot on the side that it is moved to', () => {
    for (const [x, first] of [
      [0.3, 'left'],
      [-0.3, 'right'],
    ] as const) {
      const plan = movedPlan(x, 0, 0);
      const other = first === 'left' ? 'right' : 'left';
      expect(swingsOf(plan, first)[0]![0]).toBeLessThan(swingsOf(plan, other)[0]![0]);
    }
  });

  it('turns on its feet, which keep their direction while they stand', () => {
    const plan = movedPlan(0, 0, 90, 30, 90);
    for (const foot of ['left', 'right'] as const) {
      expect(swingsOf(plan, foot)).toHaveLength(2);
      const direction = (f: number): number => {
        const { skeleton } = plan;
        const pose = evaluate(plan, f, makePoseBuffer(skeleton));
        const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
        const [ankle, toes] = [`${foot}Foot`, `${foot}Toes`].map((r) =>
          jointOfRole(skeleton, r as 'leftFoot'),
        );
        return Math.atan2(
          positions[toes! * 3]! - positions[ankle! * 3]!,
          positions[toes! * 3 + 2]! - positions[ankle! * 3 + 2]!,
        );
      };
      const [first, last] = [direction(0), direction(119)];
      expect(((last - first) * 180) / Math.PI).toBeCloseTo(90, 1);
      const swings = swingsOf(plan, foot);
      expect(direction(swings[0]![0])).toBeCloseTo(first, 3);
      expect(direction(swings[1]![1])).toBeCloseTo(last, 3);
    }
  });

  it('is held as it was where it is moved by no more than a lock bears, or too fast to step after', () => {
    for (const plan of [movedPlan(0.03, 0, 0), movedPlan(0.6, 0, 0, 110, 119)]) {
      const before = placeOf(plan, 'left', 20);
      for (let f = 0; f < 100; f++) expect(placeOf(plan, 'left', f)[1]).toBeCloseTo(before[1]!, 2);
    }
  });

  it('goes over without a jump', () => {
    const plan = movedPlan(0.3, 0.2, 40);
    for (const foot of ['left', 'right'] as const)
      for (let f = 0; f < 117; f++) {
        const [a, b, c, d] = [0, 1, 2, 3].map((n) => placeOf(plan, foot, f + n));
        const pop = Math.hypot(...a!.map((v, k) => 0.5 * (v - 3 * b![k]! + 3 * c![k]! - d![k]!)));
        expect(pop).toBeLessThan(0.02);
      }
  });
});
