import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { composeMoves } from '../math/floorMove';
import { movesBetween, wayAlongPath, wayThroughSpots } from './route';
import { evenly } from '../testing/evenly';

/** A steady walk ahead with some sway, frames x 3. */
const walk = (frames: number, speed = 1.3, heading = 0): Float64Array =>
  Float64Array.from({ length: frames * 3 }, (_, i) => {
    const f = Math.floor(i / 3);
    const along = (speed * f) / 30;
    const sway = 0.02 * Math.sin(f * 0.4);
    const [s, c] = [Math.sin(heading), Math.cos(heading)];
    return i % 3 === 0 ? along * s + sway * c : i % 3 === 1 ? along * c - sway * s : heading;
  });
/** As far as a walk of a few metres can be bent without turning back. */
const place = evenly(-1.2, 1.2);

describe('a way through spots', () => {
  it('hits each at its frame, starts where it did, and has no jump', () => {
    fc.assert(
      fc.property(place, place, place, place, (x, z, turn, x2) => {
        const way = walk(200);
        const spots = [
          { frame: 80, x, z: 3.2 + z, turn: turn / 2 },
          { frame: 160, x: x2, z: 6 + z, turn: turn / 2 },
        ];
        const bent = wayThroughSpots(way, spots, 30);
        for (const spot of spots) {
          expect(bent[spot.frame * 3]!).toBeCloseTo(spot.x, 9);
          expect(bent[spot.frame * 3 + 1]!).toBeCloseTo(spot.z, 9);
          expect(Math.cos(bent[spot.frame * 3 + 2]! - spot.turn)).toBeCloseTo(1, 9);
        }
        expect([...bent.slice(0, 3)]).toEqual([...way.slice(0, 3)]);
        for (let f = 1; f < 200; f++) {
          expect(
            Math.hypot(bent[f * 3]! - bent[f * 3 - 3]!, bent[f * 3 + 1]! - bent[f * 3 - 2]!),
          ).toBeLessThan(0.35);
          expect(Math.abs(bent[f * 3 + 2]! - bent[f * 3 - 1]!)).toBeLessThan(0.5);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('is the way itself where the spots lie on it', () => {
    const way = walk(120, 1.3, 0.4);
    const on = (f: number) => ({ frame: f, x: way[f * 3]!, z: way[f * 3 + 1]!, turn: way[f * 3 + 2]! });
    wayThroughSpots(way, [on(40), on(90)], 30).forEach((v, i) => expect(v).toBeCloseTo(way[i]!, 9));
  });

  it('turns the body with the direction in which it goes', () => {
    // A quarter circle's worth: a metre and a half ahead and as far to the left, facing left at the end.
    const way = walk(91);
    const bent = wayThroughSpots(way, [{ frame: 90, x: 2.2, z: 2.2, turn: Math.PI / 2 }], 30);
    const f = 45;
    const direction = Math.atan2(
      bent[(f + 5) * 3]! - bent[(f - 5) * 3]!,
      bent[(f + 5) * 3 + 1]! - bent[(f - 5) * 3 + 1]!,
    );
    expect(Math.abs(bent[f * 3 + 2]! - direction)).toBeLessThan(0.2);
  });
});

describe('a way along a path', () => {
  it('passes the points, at the pace of the steps, facing along it', () => {
    const points = [
      [0, 1.5],
      [1.5, 3],
      [3, 3],
    ] as const;
    const way = wayAlongPath(walk(150), points, 30);
    for (const [x, z] of points) {
      const nearest = Math.min(
        ...Array.from({ length: 150 }, (_, f) => Math.hypot(way[f * 3]! - x, way[f * 3 + 1]! - z)),
      );
      expect(nearest).toBeLessThan(0.06);
    }
    let length = 0;
    for (let f = 1; f < 150; f++)
      length += Math.hypot(way[f * 3]! - way[f * 3 - 3]!, way[f * 3 + 1]! - way[f * 3 - 2]!);
    expect(length).toBeGreaterThan(149 * (1.3 / 30) * 0.98);
    expect(length).toBeLessThan(149 * (1.3 / 30) * 1.06);
    expect(way[149 * 3 + 2]!).toBeCloseTo(Math.PI / 2, 1);
  });

  it('goes on straight beyond its end', () => {
    const way = wayAlongPath(walk(150), [[0, 1]], 30);
    expect(Math.abs(way[149 * 3]!)).toBeLessThan(0.05);
    expect(way[149 * 3 + 1]!).toBeCloseTo(149 * (1.3 / 30), 1);
  });
});

describe('the moves between two ways', () => {
  it('take one onto the other', () => {
    const [a, b] = [walk(30), walk(30, 0.9, 1.1)];
    const moves = movesBetween(a, b);
    for (let f = 0; f < 30; f++) {
      const m = { x: moves[f * 3]!, z: moves[f * 3 + 1]!, turn: moves[f * 3 + 2]! };
      const got = composeMoves(m, { x: a[f * 3]!, z: a[f * 3 + 1]!, turn: a[f * 3 + 2]! });
      expect(got.x).toBeCloseTo(b[f * 3]!, 9);
      expect(got.z).toBeCloseTo(b[f * 3 + 1]!, 9);
      expect(got.turn).toBeCloseTo(b[f * 3 + 2]!, 9);
    }
  });
});
