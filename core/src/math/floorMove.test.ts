import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { FloorMove } from './floorMove';
import { STILL, composeMoves, invertMove, multiplyMoves, powerMove, shortestTurn } from './floorMove';
import { evenly } from '../testing/evenly';

const number = evenly(-5, 5);
const move = fc.record({ x: number, z: number, turn: number });
const distance = (a: FloorMove, b: FloorMove): number =>
  Math.hypot(a.x - b.x, a.z - b.z, shortestTurn(a.turn - b.turn));

describe('floor moves form a group', () => {
  it('a move and its inverse cancel, and products associate', () => {
    fc.assert(
      fc.property(move, move, move, (a, b, c) => {
        expect(distance(composeMoves(a, invertMove(a)), STILL)).toBeLessThan(1e-12);
        const left = composeMoves(composeMoves(a, b), c);
        const right = composeMoves(a, composeMoves(b, c));
        expect(distance(left, right)).toBeLessThan(1e-12);
      }),
    );
  });

  it('packed and plain products agree', () => {
    fc.assert(
      fc.property(move, move, (a, b) => {
        const out = multiplyMoves(
          Float64Array.of(a.x, a.z, a.turn),
          0,
          Float64Array.of(b.x, b.z, b.turn),
          0,
          new Float64Array(3),
          0,
        );
        expect(distance({ x: out[0]!, z: out[1]!, turn: out[2]! }, composeMoves(a, b))).toBeLessThan(1e-12);
      }),
    );
  });

  it('a power is the repeated product', () => {
    fc.assert(
      fc.property(move, fc.integer({ min: 0, max: 40 }), (m, n) => {
        let product: FloorMove = STILL;
        for (let i = 0; i < n; i++) product = composeMoves(product, m);
        const out = powerMove(m, n, new Float64Array(3), 0);
        fc.pre(Math.abs(Math.sin(m.turn / 2)) > 1e-4);
        expect(distance({ x: out[0]!, z: out[1]!, turn: out[2]! }, product)).toBeLessThan(1e-7);
      }),
    );
  });

  it('a hundred straight cycles travel a hundred times as far', () => {
    const out = powerMove({ x: 0.1, z: 1.3, turn: 0 }, 100, new Float64Array(3), 0);
    expect(out[0]).toBeCloseTo(10, 12);
    expect(out[1]).toBeCloseTo(130, 12);
  });

  it('heading 90 degrees turns forward +Z towards +X', () => {
    const forward = composeMoves({ x: 0, z: 0, turn: Math.PI / 2 }, { x: 0, z: 1, turn: 0 });
    expect(forward.x).toBeCloseTo(1, 12);
    expect(forward.z).toBeCloseTo(0, 12);
  });
});
