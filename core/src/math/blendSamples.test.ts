import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Quaternion } from 'three';
import { evenly } from '../testing/evenly';
import { blendSamples } from './rotations';

const unit = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1), evenly(-1, 1))
  .filter((q) => Math.hypot(...q) > 0.2)
  .map((q) => new Quaternion(...q).normalize());
/** A rotation and a neighbour some degrees away, of the same sign. */
const neighbours = fc.tuple(unit, unit, evenly(0, 0.12)).map(([q, axis, angle]): [Quaternion, Quaternion] => {
  const length = Math.hypot(axis.x, axis.y, axis.z) || 1;
  const s = Math.sin(angle / 2) / length;
  return [q, q.clone().multiply(new Quaternion(axis.x * s, axis.y * s, axis.z * s, Math.cos(angle / 2)))];
});

describe('samples of two motions blended in one pass', () => {
  it("are three's slerp between three's interpolated rotations, unit, whatever the signs", () => {
    fc.assert(
      fc.property(
        neighbours,
        neighbours,
        evenly(0, 1),
        evenly(0, 1),
        evenly(0, 1),
        fc.boolean(),
        ([a0, a1], [b0, b1], ta, tb, t, flip) => {
          const sign = flip ? -1 : 1;
          const a = Float64Array.of(...a0.toArray(), ...a1.toArray());
          const b = Float64Array.of(...b0.toArray(), ...b1.toArray()).map((v) => sign * v);
          const out = blendSamples(a, 0, 4, ta, b, 0, 4, tb, 1, t, new Float64Array(4));
          const [p, q] = [a0.clone().slerp(a1, ta), b0.clone().slerp(b1, tb)];
          // Opposite rotations have no shorter way.
          fc.pre(Math.abs(p.dot(q)) > 0.05);
          const peer = p.slerp(q, t);
          expect(Math.hypot(...out)).toBeCloseTo(1, 6);
          const dot = Math.abs(out[0]! * peer.x + out[1]! * peer.y + out[2]! * peer.z + out[3]! * peer.w);
          expect(2 * Math.acos(Math.min(1, dot / Math.hypot(...out)))).toBeLessThan(2e-4);
        },
      ),
      { numRuns: 500 },
    );
  });
});
