import { expect, it } from '@jest/globals';
import { freeName } from './freeName';

it('a taken name gets the next number', () => {
  expect(freeName('Keeper', [])).toBe('Keeper');
  expect(freeName('Keeper', ['Keeper', 'Keeper 2', 'Visitor'])).toBe('Keeper 3');
  expect(freeName('Keeper', ['Keeper 2'])).toBe('Keeper');
});
