import { describe, expect, it } from '@jest/globals';
import { PLAIN_LEAD, compile, evaluate, makePoseBuffer } from '@warper/core';
import fc from 'fast-check';
import { library, two } from '../../../../../core/src/testing/arranging';
import {
  directionOf,
  distanceFor,
  extentOf,
  frameOf,
  frameOfJoints,
  headingOf,
  jointPlace,
  shiftToKeep,
} from './framing';

const plan = compile(two, library);
const rootAt = (character: number, frame: number): ArrayLike<number> => {
  const c = plan.characters[character]!;
  return evaluate(c, frame, makePoseBuffer(c.skeleton)).root;
};

describe('what is brought into view', () => {
  it('is a character where it stands', () => {
    const framed = frameOf(plan, { kind: 'character', id: 'c' }, 40)!;
    const root = rootAt(0, 40);
    expect(framed.x).toBeCloseTo(root[0]!, 9);
    expect(framed.z).toBeCloseTo(root[1]!, 9);
  });

  it('is the whole way of a segment', () => {
    const framed = frameOf(plan, { kind: 'segment', id: 'a' }, 0)!;
    for (const f of [0, 45, 89]) {
      const root = rootAt(0, f);
      expect(Math.hypot(root[0]! - framed.x, root[1]! - framed.z)).toBeLessThan(framed.radius);
    }
  });

  it('is both whom a lead joins', () => {
    const [child, parent] = plan.characters.map((c) => c.character.id) as [string, string];
    const lead = { ...PLAIN_LEAD, id: 'l', name: 'Lead', child, parent, start: 0 };
    const framed = frameOf(plan, { kind: 'tether', id: 'l' }, 40, { l: lead })!;
    for (const root of [rootAt(0, 40), rootAt(1, 40)])
      expect(Math.hypot(root[0]! - framed.x, root[1]! - framed.z)).toBeLessThan(framed.radius);
    expect(frameOf(plan, { kind: 'tether', id: 'gone' }, 40, { l: lead })).toBeNull();
  });

  it('is two joints with a little around them, and nothing where one is gone', () => {
    const joint = (name: string) => ({ character: 'c', joint: name });
    const { names } = plan.characters[0]!.skeleton;
    const ends = [joint(names[1]!), joint(names.at(-1)!)] as const;
    const framed = frameOfJoints(plan, ends, 12)!;
    for (const end of ends) {
      const [x = 0, y = 0, z = 0] = jointPlace(plan, end, 12)!;
      const away = Math.hypot(x - framed.x, y - framed.y, z - framed.z);
      expect(away).toBeCloseTo(framed.radius - 0.25, 9);
    }
    expect(frameOfJoints(plan, [ends[0], joint('Gone')], 12)).toBeNull();
  });

  it('is nothing for the scene, which has an extent of its own', () => {
    expect(frameOf(plan, { kind: 'scene' }, 0)).toBeNull();
    const { across, deep } = extentOf(plan);
    expect(Math.max(across, deep)).toBeGreaterThan(3);
  });

  it('is as far away as it has to be, further in a narrow view', () => {
    expect(distanceFor(2, 1.5)).toBeCloseTo(distanceFor(1, 1.5) * 2, 9);
    expect(distanceFor(1, 0.5)).toBeCloseTo(distanceFor(1, 1) * 2, 9);
  });
});

describe('front and side', () => {
  it('are those of a character, whichever way it faces', () => {
    fc.assert(
      fc.property(fc.double({ min: -7, max: 7, noNaN: true }), (heading) => {
        const [x, , z] = directionOf('front', heading);
        // Heading: atan2(x, z) of what is in front.
        expect(Math.atan2(x, z)).toBeCloseTo(Math.atan2(Math.sin(heading), Math.cos(heading)), 9);
        const [sx, , sz] = directionOf('side', heading);
        expect(x * sx + z * sz).toBeCloseTo(0, 9);
      }),
    );
  });

  it('leave the view around and from the top as they are', () => {
    expect(directionOf('top', 1)).toEqual(directionOf('top', 0));
    expect(directionOf('free', 1)).toEqual(directionOf('free', 0));
  });

  it('are told by who is in hand', () => {
    expect(headingOf(plan, { kind: 'segment', id: 'b' }, 110)).toBeCloseTo(rootAt(0, 110)[2]!, 9);
    expect(headingOf(plan, { kind: 'scene' }, 110)).toBe(0);
  });
});

describe('following who leaves the view', () => {
  it('does nothing inside, and no more than needed outside', () => {
    expect(shiftToKeep(0.5, -1, 2, 6)).toEqual([0, 0]);
    fc.assert(
      fc.property(
        fc.double({ min: -20, max: 20, noNaN: true }),
        fc.double({ min: -20, max: 20, noNaN: true }),
        (r, d) => {
          const [right, deep] = shiftToKeep(r, d, 2, 6);
          expect(shiftToKeep(r - right, d - deep, 2 + 1e-9, 6 + 1e-9)).toEqual([0, 0]);
        },
      ),
    );
  });
});
