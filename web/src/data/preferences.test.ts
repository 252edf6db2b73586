import { afterAll, beforeEach, expect, it } from '@jest/globals';
import { keepPreferences, keptPreferences } from './preferences';

const items = new Map<string, string>();
const before = globalThis.localStorage;
beforeEach(() => {
  items.clear();
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    value: {
      getItem: (key: string) => items.get(key) ?? null,
      setItem: (key: string, value: string) => void items.set(key, value),
    },
  });
});
afterAll(() => void Object.defineProperty(globalThis, 'localStorage', { configurable: true, value: before }));

it('preferences come back at the next visit', () => {
  expect(keptPreferences()).toEqual({});
  const preferences = { theme: 'night', ownKeys: { play: ['P'] }, autoFollow: false } as const;
  keepPreferences(preferences);
  expect(keptPreferences()).toEqual(preferences);
});

it.each(['{', '"night"', '{"theme":"dusk"}', '{"ownKeys":{"play":"P"}}'])(
  'damaged ones are as none: %s',
  (text) => {
    items.set('warper-preferences', text);
    expect(keptPreferences()).toEqual({});
  },
);
