import { describe, expect, it } from '@jest/globals';
import { compile } from '@warper/core';
import { library, two } from '../../../../core/src/testing/arranging';
import { spanOf } from './spanOf';

const plan = compile(two, library);
const span = (selection: Parameters<typeof spanOf>[1]) => {
  const found = spanOf(plan, selection);
  return found && [found.character.character.id, found.from, found.to];
};

describe('the frames of a selection', () => {
  it('are those of its segments, on body lanes and on layers', () => {
    expect(span({ kind: 'segment', id: 'b' })).toEqual(['c', 82, 122]);
    expect(span({ kind: 'segment', id: 'a', with: ['b'] })).toEqual(['c', 0, 122]);
    expect(span({ kind: 'segment', id: 'g' })).toEqual(['d', 5, 43]);
  });

  it('are the overlap of a seam', () => {
    expect(span({ kind: 'seam', id: 'b' })).toEqual(['c', 82, 90]);
  });

  it('are all that a character does, and none for the scene', () => {
    expect(span({ kind: 'character', id: 'd' })).toEqual(['d', 20, 120]);
    expect(span({ kind: 'scene' })).toBeNull();
    expect(span({ kind: 'segment', id: 'gone' })).toBeNull();
  });
});
