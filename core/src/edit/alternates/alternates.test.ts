import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Patch } from 'immer';
import { applyPatches } from 'immer';
import type { Scene } from '../../scene/scene';
import { differences } from '../../scene/differences';
import { alternateInHand, alternatesOf, versionOf, withoutAlternates } from '../../scene/versions';
import { anyAlternateEdit } from '../../testing/alternateExamples';
import { anyEdit, carryOut, library, two } from '../../testing/arranging';
import { holdsThroughEdits } from '../../testing/manyEdits';
import type { Edit } from '../edit';
import { applyDifferences, applyEdit } from '../edit';
import { scene, after, version, tried } from '../../testing/alternated';

describe('what leads from one scene to another', () => {
  it('leads there, and is nothing between equal ones', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 6 }), (edits) => {
        for (const { scene: next } of carryOut(edits).done) {
          const there = differences(two, next);
          expect(applyPatches(two, there as unknown as Patch[])).toEqual(next);
          expect(applyDifferences(next, differences(next, two) as unknown as Patch[])).toEqual(two);
          expect(differences(next, JSON.parse(JSON.stringify(next)))).toEqual([]);
        }
      }),
      { numRuns: 100 },
    );
  });
});

describe('alternates', () => {
  it('stay scenes that can be in hand through any edits, all of which can be taken back', () => {
    holdsThroughEdits(scene, fc.oneof(anyEdit, anyEdit, anyAlternateEdit), (now) => {
      const all = alternatesOf(now);
      expect(all.length === 0 || alternateInHand(now)).toBeTruthy();
      for (const one of all) expect(versionOf(now, one).alternateOrder).toEqual([]);
    });
  });

  it('are each what they were after a swap, whichever is taken in hand, and after one back', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(anyEdit, anyAlternateEdit), { maxLength: 6 }), (edits) => {
        let now = scene;
        for (const change of edits) now = tried(now, change);
        for (const { id, differences: own } of alternatesOf(now)) {
          if (!own) continue;
          const swapped = after([{ type: 'swap alternate', alternate: id }], now);
          expect(withoutAlternates(swapped)).toEqual(version(now, id));
          for (const other of now.alternateOrder)
            expect(version(swapped, other)).toEqual(version(now, other));
          const inHand = alternateInHand(now)!;
          const back = after([{ type: 'swap alternate', alternate: inHand.id }], swapped);
          expect(withoutAlternates(back)).toEqual(withoutAlternates(now));
          expect(alternateInHand(back)).toEqual(inHand);
          const only = after([{ type: 'keep alternate', alternate: id }], now);
          expect(only).toEqual(version(now, id));
        }
      }),
      { numRuns: 100 },
    );
  });

  it('are each changed as if they were alone, or not at all', () => {
    fc.assert(
      fc.property(anyEdit, fc.constantFrom('by place', 'all'), (change, alternates) => {
        const before = version(scene, 'slow');
        let now: Scene;
        try {
          now = applyEdit(scene, change, library, { alternates });
        } catch {
          return;
        }
        expect(withoutAlternates(now)).toEqual(tried(two, change));
        expect(withoutAlternates(applyEdit(scene, change, library, { alternates: 'left' }))).toEqual(
          withoutAlternates(now),
        );
        const other = version(now, 'slow');
        const alone = tried(before, change);
        if (alternates === 'all' && now !== scene) expect(other).toEqual(alone);
        else expect([before, alone]).toContainEqual(other);
      }),
      { numRuns: 500 },
    );
  });
});

describe('a new alternate', () => {
  it('keeps the scene in hand under a name, and is the one in hand from then on', () => {
    const first: Edit = {
      type: 'alternate',
      alternate: 'n',
      name: 'Hand over the eyes',
      scope: null,
      kept: { id: 'k', name: 'Over the rail' },
    };
    const now = after([first], two);
    expect(now.alternateOrder).toEqual(['k', 'n']);
    expect(alternateInHand(now)?.id).toBe('n');
    expect(version(now, 'k')).toEqual(two);
    expect(() => after([{ ...first, kept: null }], two)).toThrow(/no name to be kept under/);
    expect(() => after([{ ...first, alternate: 'k' }], two)).toThrow(/no name/);
  });

  it('is one of twelve at most', () => {
    const more = (i: number): Edit => ({
      type: 'alternate',
      alternate: `x${i}`,
      name: `${i}`,
      scope: null,
      kept: null,
    });
    const full = after(Array.from({ length: 10 }, (_, i) => more(i)));
    expect(full.alternateOrder).toHaveLength(12);
    expect(() => after([more(11)], full)).toThrow(/12 alternates at most/);
  });
});
