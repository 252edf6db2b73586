import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { CubicBezierCurve, Vector2 } from 'three';
import type { KeyCurve, ValueKey } from '../scene/keys';
import { KEY_CURVES } from '../scene/keys';
import { evenly } from '../testing/evenly';
import { valueCurve, valueOn } from './valueCurve';

const key = (
  frame: number,
  value: number,
  curve: KeyCurve = 'smooth',
  values: Partial<ValueKey> = {},
): ValueKey => ({
  frame,
  value,
  curve,
  tangent: null,
  into: null,
  ...values,
});
const at = (keys: readonly ValueKey[], frame: number): number => valueOn(valueCurve(keys), frame, 0);
const slope = (keys: readonly ValueKey[], frame: number, side: 1 | -1): number =>
  ((at(keys, frame + side * 1e-5) - at(keys, frame)) / 1e-5) * side;

const anyKeys = fc
  .uniqueArray(fc.integer({ min: -200, max: 400 }), { minLength: 1, maxLength: 8 })
  .chain((frames) =>
    fc.tuple(
      ...[...frames]
        .sort((a, b) => a - b)
        .map((frame) =>
          fc.record({
            frame: fc.constant(frame),
            value: evenly(-5, 5),
            curve: fc.constantFrom(...KEY_CURVES),
            tangent: evenly(-0.5, 0.5),
            into: fc.option(evenly(-0.5, 0.5)),
          }),
        ),
    ),
  )
  .map((keys) => keys.map((k): ValueKey => (k.curve === 'free' ? k : { ...k, tangent: null, into: null })));

describe('a curve of numbers', () => {
  it('is halfway between evenly placed smooth keys what cubic convolution gives: -1, 9, 9, -1 sixteenths (Keys 1981)', () => {
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2, 3].map(() => evenly(-9, 9))), (v) => {
        const keys = v.map((value, i) => key(i * 10, value));
        expect(at(keys, 15)).toBeCloseTo((-v[0]! + 9 * v[1]! + 9 * v[2]! - v[3]!) / 16, 9);
      }),
    );
  });

  it('is the Bezier curve whose handles are a third of the way along its slopes, as three evaluates it', () => {
    fc.assert(
      fc.property(
        evenly(-5, 5),
        evenly(-5, 5),
        evenly(-1, 1),
        evenly(-1, 1),
        fc.integer({ min: 1, max: 90 }),
        evenly(0, 1),
        (a, b, m, n, d, t) => {
          const keys = [key(0, a, 'free', { tangent: m }), key(d, b, 'free', { tangent: 0, into: n })];
          const bezier = new CubicBezierCurve(
            new Vector2(0, a),
            new Vector2(d / 3, a + (m * d) / 3),
            new Vector2((2 * d) / 3, b - (n * d) / 3),
            new Vector2(d, b),
          ).getPoint(t);
          expect(bezier.x).toBeCloseTo(t * d, 9);
          expect(at(keys, t * d)).toBeCloseTo(bezier.y, 9);
        },
      ),
    );
  });

  it('passes through its keys, is held outside them, and jumps only where a key is held', () => {
    fc.assert(
      fc.property(anyKeys, (keys) => {
        keys.forEach((k, i) => {
          expect(at(keys, k.frame)).toBe(k.value);
          if (i > 0 && keys[i - 1]!.curve !== 'hold')
            expect(Math.abs(at(keys, k.frame - 1e-7) - k.value)).toBeLessThan(1e-4);
        });
        expect(at(keys, -1e4)).toBe(keys[0]!.value);
        expect(at(keys, 1e4)).toBe(keys.at(-1)!.value);
      }),
    );
  });

  it('goes through each kind of key as it says', () => {
    const around = (curve: KeyCurve, values: Partial<ValueKey> = {}) => [
      key(0, 0),
      key(10, 4, curve, values),
      key(30, 1),
    ];
    const both = (keys: readonly ValueKey[]): number[] => [slope(keys, 10, -1), slope(keys, 10, 1)];
    const close = (a: number[], b: number[]): void => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 3));
    close(both(around('smooth')), [1 / 30, 1 / 30]);
    close(both(around('flat')), [0, 0]);
    close(both(around('free', { tangent: -0.2 })), [-0.2, -0.2]);
    close(both(around('free', { tangent: -0.2, into: 0.5 })), [0.5, -0.2]);
    expect(slope(around('linear'), 10, 1)).toBeCloseTo(-3 / 20, 6);
    expect(at(around('hold'), 29.99)).toBe(4);
  });

  it('is nothing of its own without keys', () => {
    expect(valueOn(valueCurve([]), 7, 0.25)).toBe(0.25);
  });
});
