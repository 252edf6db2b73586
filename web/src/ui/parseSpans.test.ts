import { describe, expect, it } from '@jest/globals';
import { parseSpans } from './parseSpans';

describe('spans as text', () => {
  it.each([
    [
      '3-19, 33-49',
      [
        [3, 19],
        [33, 49],
      ],
    ],
    [
      '33 to 49; 3–19',
      [
        [3, 19],
        [33, 49],
      ],
    ],
    ['', []],
    [' , ', []],
  ])('reads %j', (text, spans) => {
    expect(parseSpans(text, 60)).toEqual(spans);
  });

  it.each(['3', '19-3', '3-3', 'a-b', '3-61', '1-2 3-4'])('refuses %j', (text) => {
    expect(parseSpans(text, 60)).toBeNull();
  });
});
