import { describe, expect, it } from '@jest/globals';
import { sheetsOf } from './sheets';

const scope = { from: 40, to: 90, characters: ['keeper'] };

describe('the second sheets of paper of a lane', () => {
  it('lie where an alternate may differ, and where it does', () => {
    const spans = [
      { character: 'keeper', from: 120, to: 140 },
      { character: 'visitor', from: 10, to: 20 },
    ];
    expect(sheetsOf('keeper', scope, spans, 300)).toEqual([
      { from: 40, to: 90 },
      { from: 120, to: 140 },
    ]);
    expect(sheetsOf('visitor', scope, spans, 300)).toEqual([{ from: 10, to: 20 }]);
    expect(sheetsOf('visitor', { ...scope, characters: null }, [], 300)).toEqual([{ from: 40, to: 90 }]);
    expect(sheetsOf('dog', null, spans, 300)).toEqual([]);
  });

  it('are one where they touch, and end with the scene', () => {
    const spans = [{ character: 'keeper', from: 80, to: Infinity }];
    expect(sheetsOf('keeper', scope, spans, 300)).toEqual([{ from: 40, to: 300 }]);
    expect(sheetsOf('keeper', null, [{ character: 'keeper', from: -Infinity, to: 5 }], 300)).toEqual([
      { from: 0, to: 5 },
    ]);
    expect(sheetsOf('keeper', null, [{ character: 'keeper', from: 400, to: 500 }], 300)).toEqual([]);
    expect(sheetsOf('keeper', { ...scope, to: 320 }, [], 300)).toEqual([{ from: 40, to: 320 }]);
  });
});
