import { describe, expect, it } from '@jest/globals';
import * as fc from 'fast-check';
import { Matrix4, Vector3 } from 'three';
import { writeBar } from './boneFigure';
import { evenly } from '../../../../core/src/testing/evenly';

const coordinate = evenly(-2, 2);
const point = fc.tuple(coordinate, coordinate, coordinate);

describe('a bar', () => {
  it('stands between its two points, as long as they are apart and as thick as asked, and is not turned inside out', () => {
    fc.assert(
      fc.property(point, point, evenly(0.005, 0.05), (a, b, radius) => {
        const [from, to] = [new Vector3(...a), new Vector3(...b)];
        const length = from.distanceTo(to);
        fc.pre(length > 1e-3);
        const out = new Float64Array(16);
        writeBar(out, 0, [...a, ...b], 0, 3, length, radius);
        const matrix = new Matrix4().fromArray(out);
        // Ends of the capsule, one and a half from its middle, lie at the points.
        const end = (y: number): Vector3 => new Vector3(0, y, 0).applyMatrix4(matrix);
        expect(end(-1.5).distanceTo(from)).toBeLessThan(1e-9);
        expect(end(1.5).distanceTo(to)).toBeLessThan(1e-9);
        const [x, y, z] = [new Vector3(), new Vector3(), new Vector3()];
        matrix.extractBasis(x, y, z);
        for (const across of [x, z]) {
          expect(across.length()).toBeCloseTo(radius, 9);
          expect(Math.abs(across.dot(y))).toBeLessThan(1e-9);
        }
        expect(Math.abs(x.dot(z))).toBeLessThan(1e-9);
        expect(matrix.determinant()).toBeGreaterThan(0);
      }),
    );
  });

  it('of no length has no size that is not a number', () => {
    const out = new Float64Array(16);
    writeBar(out, 0, [1, 2, 3, 1, 2, 3], 0, 3, 0, 0.01);
    expect([...out].every(Number.isFinite)).toBe(true);
  });
});
