import { expect, it } from '@jest/globals';
import { MOST_LISTED, framesNear } from './nearKeys';

it('few frames are all told, of many those around the playhead', () => {
  expect(framesNear([3, 9], 5)).toEqual([3, 9]);
  const many = Array.from({ length: 1000 }, (_, i) => i * 2);
  for (const frame of [0, 7, 1000, 5000]) {
    const near = framesNear(many, frame);
    expect(near).toHaveLength(MOST_LISTED);
    const nearest = Math.min(...many.map((f) => Math.abs(f - frame)));
    expect(Math.min(...near.map((f) => Math.abs(f - frame)))).toBe(nearest);
  }
});
