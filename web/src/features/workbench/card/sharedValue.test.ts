import { expect, it } from '@jest/globals';
import { sharedValue } from './sharedValue';

it('a value is shared where all have it', () => {
  expect(sharedValue([2, 2, 2])).toBe(2);
  expect(sharedValue([false, false])).toBe(false);
  expect(sharedValue([2, 3])).toBeNull();
  expect(sharedValue([])).toBeNull();
});
