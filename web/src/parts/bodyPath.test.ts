import { expect, it } from '@jest/globals';
import { library, two } from '../../../core/src/testing/arranging';
import { compile } from '@warper/core';
import { bodyPath } from './BodyPicture';

it('a body fills its square, and nothing lies outside', () => {
  const { skeleton } = compile(two, library).characters[0]!;
  const path = bodyPath(skeleton, 44);
  const numbers = [...path.matchAll(/-?\d+(\.\d+)?/g)].map((m) => Number(m[0]));
  expect(numbers.length).toBe((skeleton.names.length - 1) * 4);
  expect(Math.min(...numbers)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...numbers)).toBeLessThanOrEqual(44);
  expect(Math.max(...numbers) - Math.min(...numbers)).toBeGreaterThan(38);
});
