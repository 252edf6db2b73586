import { expect } from '@jest/globals';
import fc from 'fast-check';
import { compile } from '../compile/compile';
import { quatRotate } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { PerAxis, Tether } from '../scene/tether';
import { holdOf, jointAt, stagedLibrary, stagedScene } from './staged';

/** The performances of a scene with tethers, by id. */
export function performed(...tethers: Tether[]): Record<string, CharacterPlan> {
  const { characters } = compile(stagedScene(...tethers), stagedLibrary);
  return Object.fromEntries(characters.map((c) => [c.character.id, c]));
}
/** The same without any. */
export const alone = performed();

/** Where all joints of a performance are at a frame, one after the other. */
export const places = (plan: CharacterPlan | undefined, frame: number): number[] =>
  plan ? plan.skeleton.names.flatMap((name) => jointAt(plan, name, frame)) : [];
/** Clips keep 32-bit rotations, whose length is off by as much. */
const CLOSE = 1e-6;
/** Numbers that are the same but for rounding. */
export const expectClose = (a: readonly number[], b: readonly number[], within = CLOSE): void => {
  expect(a).toHaveLength(b.length);
  a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThan(within));
};
/** A place of the one joint in the axes of the other, and the angle between them. */
export function relative(
  plan: CharacterPlan,
  name: string,
  to: CharacterPlan,
  of: string,
  frame: number,
): number[] {
  const [a, b] = [jointAt(plan, name, frame), jointAt(to, of, frame)];
  const d = Float64Array.from([0, 1, 2].map((k) => a[k]! - b[k]!));
  const back = Float64Array.of(-b[3]!, -b[4]!, -b[5]!, b[6]!);
  quatRotate(back, 0, d, 0, d, 0);
  return [...d];
}

const flags = fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()) as fc.Arbitrary<PerAxis<boolean>>;
/** Any hold of 20 frames. */
export const anyHold = fc
  .record({
    child: fc.constantFrom('p', 'v'),
    joint: fc.constantFrom(null, 'leftHand', 'head'),
    held: fc.constantFrom(null, 'lid', 'spine', 'hips'),
    jointOnly: fc.boolean(),
    places: flags,
    turns: flags,
    directions: fc.constantFrom('world' as const, 'floor' as const, 'parent' as const, 'own' as const),
    start: fc.integer({ min: 1, max: 60 }),
  })
  .map((values) => holdOf({ ...values, end: values.start + 20 }));
