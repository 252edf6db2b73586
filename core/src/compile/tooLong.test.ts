import { describe, expect, it } from '@jest/globals';
import { library, one, walk } from '../testing/arranging';
import { sceneOf, segmentOf } from '../testing/scenes';
import { compile } from './compile';

describe('a scene that would need gigabytes', () => {
  it.each([
    ['a length', { length: 9_000_000 }],
    ['a repeat', { loop: true, repeat: 99_999 }],
    ['a speed', { speed: 1e-9 }],
    ['a hold', { hold: { start: 0, end: 1_000_000 } }],
  ])('is refused with the number, whatever asks for it: %s', (_, values) => {
    const scene = sceneOf([segmentOf(walk, { id: 'a', ...values })]);
    expect(() => compile(scene, library)).toThrow(/would perform for \d+ frames \([\d.]+ hours\); up to \d+/);
  });

  it('is compiled up to there', () => {
    const hour = sceneOf([segmentOf(walk, { id: 'a', loop: true, repeat: 3600 })]);
    expect(compile(hour, library).end).toBe(108_000);
    expect(compile(one, library).end).toBe(174);
  });
});
