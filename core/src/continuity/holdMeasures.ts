import { legsToWorld, makeHoldScratch } from '../steps/footHolds';
import { makePoseBuffer } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { lockFeet, segmentLock } from '../footlock/footLock';
import type { CharacterPlan } from '../plan/plan';

/** What holding one planted joint takes. */
export interface HoldMeasure {
  readonly joint: string;
  readonly start: number;
  readonly end: number;
  /** Furthest that the joint is moved on the floor, centimetres. */
  readonly correctionCm: number;
  /** Share of that which is made: 1 up to 4 cm, 0 from 8 cm on, where the foot is let go. */
  readonly held: number;
  /** Furthest that a foot stays from its place in that time, because its leg does not reach, centimetres. */
  readonly leftCm: number;
}

/** Correction (centimetres) above which holding a foot shows elsewhere in the body. */
export const LARGE_CORRECTION_CM = 10;

/** The holds of a character's planted feet, in order of time, with what they cost; none where no feet are held. */
export function measureHolds(plan: CharacterPlan): HoldMeasure[] {
  if (!plan.holdsFeet) return [];
  const { skeleton } = plan;
  const buffer = makePoseBuffer(skeleton);
  const scratch = makeHoldScratch(skeleton);
  const matches = new Map<string, HoldMeasure>();
  plan.segments.forEach((_, i) => {
    for (const { holds } of segmentLock(plan, i).legs) {
      for (const hold of holds) {
        const key = `${hold.joint}:${hold.start}`;
        if (matches.has(key)) continue;
        let [correction, left] = [0, 0];
        for (
          let f = Math.max(plan.start, Math.ceil(hold.start));
          f <= Math.min(hold.end, plan.end - 1);
          f++
        ) {
          const pose = evaluateUnlocked(plan, f, buffer);
          legsToWorld(skeleton, pose, scratch);
          const [x, z] = [0, 2].map((k) => scratch.world.positions[hold.joint * 3 + k]!) as [number, number];
          correction = Math.max(correction, Math.hypot(hold.x - x, hold.z - z));
          left = Math.max(left, lockFeet(plan, f, pose));
        }
        matches.set(key, {
          joint: skeleton.names[hold.joint]!,
          start: hold.start,
          end: hold.end + 1,
          correctionCm: correction * 100,
          held: hold.weight,
          leftCm: left * 100,
        });
      }
    }
  });
  return [...matches.values()].sort((a, b) => a.start - b.start);
}
