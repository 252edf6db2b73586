import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import { quatAngle } from '../math/quaternion';
import { shortestTurn } from '../math/floorMove';
import { figureClip } from '../testing/figure';
import { libraryOf, sceneOf, seamOf, segmentOf } from '../testing/scenes';
import type { CharacterPlan } from '../plan/plan';
import { branchOf } from './blendBranch';
import { evaluate } from '../footlock/evaluate';

const DEGREE = Math.PI / 180;
const FRAMES = 40;
const OVERLAP = 12;
const START = FRAMES - OVERLAP;

/** A crossfade from somebody who stands to somebody whose heading and arm go from one angle past the first to another one. */
function faded(heading: readonly [number, number], arm: readonly [number, number]): CharacterPlan {
  const still = figureClip(FRAMES, () => ({ x: 0, z: 0, turn: 0 }), { id: 'still' });
  const turning = figureClip(
    FRAMES,
    (f) => {
      const u = Math.min(1, f / OVERLAP);
      const along = ([a, b]: readonly [number, number]): number => (a + (b - a) * u) * DEGREE;
      return { x: 0, z: 0, turn: along(heading), joints: { leftLowerArm: [0, along(arm), 0] } };
    },
    { id: 'turning', skeleton: still.skeleton },
  );
  const seam = seamOf({ fit: 'free', facing: false });
  const scene = sceneOf([segmentOf(still), segmentOf(turning, { start: START, seam })]);
  return compile(scene, libraryOf(still, turning)).characters[0]!;
}

/** The furthest that the heading and a joint turn from a frame to the next within the overlap, degrees; in steps of a part of one. */
function largestTurns(plan: CharacterPlan, step = 1): { heading: number; arm: number } {
  const joint = plan.skeleton.names.indexOf('leftLowerArm');
  const [a, b] = [makePoseBuffer(plan.skeleton), makePoseBuffer(plan.skeleton)];
  let [heading, arm] = [0, 0];
  for (let f = START - 1; f < START + OVERLAP + 1; f += step) {
    const before = evaluate(plan, f, a);
    const after = evaluate(plan, f + step, b);
    heading = Math.max(heading, Math.abs(shortestTurn(after.root[2]! - before.root[2]!)));
    arm = Math.max(arm, quatAngle(before.rotations, joint * 4, after.rotations, joint * 4));
  }
  return { heading: heading / DEGREE, arm: arm / DEGREE };
}

describe('a crossfade of sides that come to stand opposite each other', () => {
  it('does not jump round: heading and joint go one way throughout', () => {
    const plan = faded([165, 195], [160, 200]);
    expect(branchOf(plan, 1)).not.toBeNull();
    const { heading, arm } = largestTurns(plan);
    // A smooth curve over 12 frames turns 180 degrees by 1.5 * 180 / 12 at most, and the clip's own turn comes on top.
    expect(heading).toBeLessThan(27);
    expect(arm).toBeLessThan(28);
    expect(largestTurns(plan, 0.25).heading).toBeLessThan(8);
    expect(largestTurns(plan, 0.25).arm).toBeLessThan(8);
  });

  it('goes the way that is the shorter one in its middle', () => {
    for (const past of [1, -1]) {
      const plan = faded([180 + past * 5, 180 + past * 35], [180 - past * 10, 180 + past * 40]);
      const joint = plan.skeleton.names.indexOf('leftLowerArm');
      const { root, rotations } = evaluate(plan, START + OVERLAP / 2, makePoseBuffer(plan.skeleton));
      const arm = 2 * Math.atan2(rotations[joint * 4 + 1]!, rotations[joint * 4 + 3]!);
      // A little over half a turn one way is a little under it the other way: half of that.
      expect(shortestTurn(root[2]!) / DEGREE).toBeCloseTo(past * -80, 0);
      expect(shortestTurn(arm) / DEGREE).toBeCloseTo(past * (-165 / 2), 0);
    }
  });

  it('has no branch where the shorter way is the same throughout', () => {
    expect(branchOf(faded([20, 60], [-40, 90]), 1)).toBeNull();
  });

  it('never turns further in a frame than weights and sources do, whatever the angles', () => {
    const angle = fc.integer({ min: -340, max: 340 });
    const drift = fc.integer({ min: -60, max: 60 });
    fc.assert(
      fc.property(angle, drift, angle, drift, (h, dh, a, da) => {
        const { heading, arm } = largestTurns(faded([h, h + dh], [a, a + da]));
        // Half a turn in the middle, and what the source turns on either side of it.
        const most = (d: number): number => (1.6 * (180 + Math.abs(d))) / OVERLAP + Math.abs(d) / OVERLAP;
        expect(heading).toBeLessThan(most(dh));
        expect(arm).toBeLessThan(most(da));
      }),
      { numRuns: 60 },
    );
  });
});
