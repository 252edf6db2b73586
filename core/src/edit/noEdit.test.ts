import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { anyEdit, carryOut, library, one, two } from '../testing/arranging';
import type { Edit } from './edit';
import { applyDifferences, edit } from './edit';
import { reconcile } from './reconcile';
import { PLAIN_CROSSFADE } from '../scene/seam';

const b = one.segments.b!;

describe('an edit that changes nothing', () => {
  it.each<[string, Edit]>([
    ['sets what is set', { type: 'change', segment: 'b', values: { repeat: b.repeat, hold: { ...b.hold } } }],
    ['moves to where it stands', { type: 'move', segment: 'b', start: b.start }],
    ['moves several by nothing', { type: 'move several', segments: ['a', 'b'], frames: 0 }],
    [
      'sets a seam as it is',
      { type: 'seam', segment: 'b', values: { nudge: { ...b.seam.nudge } }, join: { ...PLAIN_CROSSFADE } },
    ],
    ['trims to where it ends', { type: 'trim', segment: 'b', edge: 'end', frame: 122 }],
    [
      'puts it before the one that it stands before',
      { type: 'reorder', segment: 'a', lane: 'l', before: 'b' },
    ],
    ['puts the last one at the end', { type: 'reorder', segment: 'c', lane: 'l', before: null }],
    ['switches on what is on', { type: 'switch', segment: 'b', off: false }],
    ['overlaps by as much', { type: 'overlap', segment: 'b', frames: 8 }],
    ['slips by nothing', { type: 'slip', segment: 'b', samples: 0 }],
    ['sets the same rate', { type: 'rate', rate: 30, keep: 'seconds' }],
    ['names it as it is called', { type: 'rename scene', name: one.name }],
    ['mutes nothing', { type: 'change lane', lane: 'l', values: { muted: false } }],
    [
      'is several that change nothing',
      { type: 'several', label: 'nothing', edits: [{ type: 'range', range: null }] },
    ],
  ])('is no edit: %s', (_, change) => {
    const { scene, patches, inverse } = edit(one, change, library);
    expect(scene).toBe(one);
    expect([patches, inverse]).toEqual([[], []]);
  });

  it('is no edit out and back either', () => {
    const away = edit(one, { type: 'move', segment: 'c', start: 200 }, library).scene;
    const back = edit(away, { type: 'move', segment: 'c', start: one.segments.c!.start }, library).scene;
    expect(reconcile(one, back)).toBe(one);
  });

  it('keeps the very objects of what it did not touch, and its differences lead to the very scene, both ways', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 4 }), (edits) => {
        let before = two;
        for (const { scene, patches, inverse } of carryOut(edits).done) {
          if (patches.length === 0) expect(scene).toBe(before);
          expect(applyDifferences(before, patches)).toEqual(scene);
          expect(applyDifferences(scene, inverse)).toEqual(before);
          for (const id of Object.keys(scene.segments))
            if (JSON.stringify(scene.segments[id]) === JSON.stringify(before.segments[id]))
              expect(scene.segments[id]).toBe(before.segments[id]);
          before = scene;
        }
      }),
      { numRuns: 60 },
    );
  });
});
