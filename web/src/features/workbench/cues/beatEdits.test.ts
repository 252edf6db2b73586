import { describe, expect, it } from '@jest/globals';
import { parseRate } from '@warper/core';
import { one } from '../../../../../core/src/testing/arranging';
import { movedBeat, steppedBeat, typedLength, typedRepeat, typedSeam } from './beatEdits';

const rate = parseRate(30);
const a = one.segments.a!;
const held = { ...a, hold: { start: 5, end: 5 } };

describe('what is typed into a cell', () => {
  it.each<[string, unknown, unknown]>([
    ['3', typedRepeat(a, '3', rate), { repeat: 3, loop: true, length: null }],
    ['×1.5', typedRepeat({ ...a, loop: false }, '×1.5', rate), { repeat: 1.5, loop: true, length: null }],
    ['once', typedRepeat({ ...a, loop: false }, '1', rate), { repeat: 1, loop: false, length: null }],
    ['2s', typedLength(a, '2s', rate), { length: 60 }],
    ['a length with held ends', typedLength(held, '90', rate), { length: 80 }],
  ])('%s is the change of a segment', (_, typed, values) => {
    expect(typed).toEqual({ edit: { type: 'change', segment: 'a', values } });
  });

  it('is a seam', () => {
    expect(typedSeam(a, 'settle 5', rate)).toMatchObject({
      edit: { edits: [{ frames: 0, type: 'overlap' }, { join: { kind: 'settle', frames: 5 } }] },
    });
  });

  it.each([
    typedRepeat(a, '0', rate),
    typedRepeat(a, 'often', rate),
    typedLength(held, '10', rate),
    typedSeam(a, 'melt', rate),
  ])('that cannot be says how it is written', (typed) => {
    expect(typed).toEqual({ hint: expect.stringMatching(/.{20}/) });
  });
});

describe('a beat that is moved', () => {
  const beats = ['a', 'b', 'c'].map((id) => ({ id, lane: 'l' })).concat([{ id: 'e', lane: 'm' }]);
  const reorder = (segment: string, lane: string, before: string | null) => ({
    type: 'reorder',
    segment,
    lane,
    before,
  });

  it.each<[string, string, Parameters<typeof movedBeat>[2], unknown]>([
    ['downwards goes behind', 'a', { id: 'b', lane: 'l' }, reorder('a', 'l', 'c')],
    ['onto the last goes to the end', 'a', { id: 'c', lane: 'l' }, reorder('a', 'l', null)],
    ['upwards goes before', 'c', { id: 'a', lane: 'l' }, reorder('c', 'l', 'a')],
    ['to another lane goes before', 'a', { id: 'e', lane: 'm' }, reorder('a', 'm', 'e')],
    ['to the end of a lane', 'a', { id: null, lane: 'm' }, reorder('a', 'm', null)],
    ['onto itself stays', 'a', { id: 'a', lane: 'l' }, null],
  ])('%s', (_, moved, over, expected) => {
    expect(movedBeat(beats, moved, over)).toEqual(expected);
  });

  it('by one place stays on its lane', () => {
    expect(steppedBeat(beats, beats[1]!, -1)).toEqual(reorder('b', 'l', 'a'));
    expect(steppedBeat(beats, beats[1]!, 1)).toEqual(reorder('b', 'l', null));
    expect(steppedBeat(beats, beats[0]!, -1)).toBeNull();
    expect(steppedBeat(beats, beats[2]!, 1)).toBeNull();
  });
});
