import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { defined } from '../math/defined';
import { shortestTurn } from '../math/floorMove';
import type { Scene } from '../scene/scene';
import { library, two } from '../testing/arranging';
import { evenly } from '../testing/evenly';
import { applyEdit } from './edit';
import { meetEdit } from './meetEdit';

const rootOf = (scene: Scene, character: string, frame: number): number[] => {
  const plan = defined(compile(scene, library).characters.find((c) => c.character.id === character));
  return [...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root];
};

describe('meeting', () => {
  it('stands somebody at a distance from another, facing them, at a frame', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(['a', 40] as const, ['b', 100] as const, ['c', 130] as const),
        evenly(0.3, 3),
        evenly(-180, 180),
        ([segment, frame], distance, angle) => {
          const plan = compile(two, library);
          const edit = meetEdit(two, plan, segment, 'd', frame, { distance, angle });
          const scene = applyEdit(two, edit, library);
          const [own, other] = [rootOf(scene, 'c', frame), rootOf(scene, 'd', frame)] as [number[], number[]];
          const [dx, dz] = [other[0]! - own[0]!, other[1]! - own[1]!];
          expect(Math.hypot(dx, dz)).toBeCloseTo(distance, 6);
          expect(shortestTurn(Math.atan2(dx, dz) - own[2]!)).toBeCloseTo(0, 6);
          expect(shortestTurn(Math.atan2(-dx, -dz) - other[2]! - (angle * Math.PI) / 180)).toBeCloseTo(0, 6);
          // What comes before stays.
          if (segment !== 'a') expect(rootOf(scene, 'c', 20)).toEqual(rootOf(two, 'c', 20));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is refused in a seam, outside the segment, and with oneself', () => {
    const plan = compile(two, library);
    const meet = { distance: 0.8, angle: 0 };
    expect(() => meetEdit(two, plan, 'b', 'd', 85, meet)).toThrow(/from 90 to/);
    expect(() => meetEdit(two, plan, 'b', 'd', 10, meet)).toThrow(/not alone at frame 10/);
    expect(() => meetEdit(two, plan, 'b', 'c', 100, meet)).toThrow(/cannot meet themselves/);
  });
});
