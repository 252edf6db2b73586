import { describe, expect, it } from '@jest/globals';
import { applyEdit, emptyScene } from '@warper/core';
import { library, two } from '../../../core/src/testing/arranging';
import { selectedSegments, selectionOf, toggled } from './selection';

const grouped = applyEdit(two, { type: 'group', id: 'G', name: 'pair', segments: ['b', 'e'] }, library);

describe('what is in hand', () => {
  it('is one segment, several, or those of a group; what is gone is not', () => {
    expect(selectedSegments({ kind: 'segment', id: 'a', with: ['b', 'gone'] }, two)).toEqual(['a', 'b']);
    expect(selectedSegments({ kind: 'group', id: 'G' }, grouped)).toEqual(['b', 'e']);
    expect(selectedSegments({ kind: 'seam', id: 'a' }, two)).toEqual([]);
    expect(selectedSegments({ kind: 'segment', id: 'a' }, emptyScene(''))).toEqual([]);
    expect(selectedSegments({ kind: 'segment', id: 'a' }, null)).toEqual([]);
  });

  it('takes a segment in and gives it up again', () => {
    const both = toggled({ kind: 'segment', id: 'a' }, 'b', two);
    expect(selectedSegments(both, two)).toEqual(['b', 'a']);
    expect(toggled(both, 'a', two)).toEqual({ kind: 'segment', id: 'b' });
    expect(toggled({ kind: 'segment', id: 'b' }, 'b', two)).toEqual({ kind: 'scene' });
    expect(selectionOf([])).toEqual({ kind: 'scene' });
  });
});
