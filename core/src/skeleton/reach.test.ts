import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Object3D, Quaternion, Vector3 } from 'three';
import { figureSkeleton } from '../testing/figure';
import { legsOf } from './legs';
import { FULL_REACH, reach } from './reach';
import { worldTransforms } from './skeleton';
import { evenly } from '../testing/evenly';

const skeleton = figureSkeleton();
const leg = legsOf(skeleton)[0]!;
const limb = { upper: leg.upper, lower: leg.lower, end: leg.ankle };
const angle = evenly(-1, 1);

function posed(hip: number, knee: number, twist: number) {
  const rotations = skeleton.restRotations.slice();
  const set = (joint: number, q: Quaternion): void => void q.toArray(rotations, joint * 4);
  set(
    leg.upper,
    new Quaternion()
      .setFromAxisAngle(new Vector3(1, 0, 0), hip)
      .multiply(new Quaternion().setFromAxisAngle(new Vector3(0, 1, 0), twist)),
  );
  set(leg.lower, new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), Math.abs(knee) + 0.05));
  const world = new Float64Array(rotations.length);
  const places = skeleton.restTranslations.slice();
  const translations = skeleton.restTranslations.slice();
  worldTransforms(skeleton.parents, rotations, translations, world, places);
  return { rotations, translations, world, places };
}

const ACROSS = Float64Array.of(-1, 0, 0);

describe('a limb that reaches', () => {
  it('puts its end on the target, keeps its lengths, and leaves the end’s world rotation', () => {
    fc.assert(
      fc.property(angle, angle, angle, fc.tuple(angle, angle, angle), (hip, knee, twist, [dx, dy, dz]) => {
        const p = posed(hip, knee, twist);
        const before = p.world.slice(leg.ankle * 4, leg.ankle * 4 + 4);
        const target = Float64Array.from([dx, dy, dz], (d, k) => p.places[leg.ankle * 3 + k]! + 0.15 * d);
        const left = reach(skeleton.parents, limb, target, 0, ACROSS, p.rotations, p.world, p.places);
        // Peer: three's own world matrices of the local rotations that came out.
        const objects = skeleton.names.map((_, j) => {
          const o = new Object3D();
          o.position.fromArray(p.translations, j * 3);
          o.quaternion.fromArray(p.rotations, j * 4);
          return o;
        });
        objects.forEach((o, j) => skeleton.parents[j]! >= 0 && objects[skeleton.parents[j]!]!.add(o));
        objects[0]!.updateMatrixWorld(true);
        const end = objects[leg.ankle]!.getWorldPosition(new Vector3());
        const hipPlace = objects[leg.upper]!.getWorldPosition(new Vector3());
        const goal = new Vector3().fromArray(target);
        const length = 0.42 + 0.41;
        if (goal.distanceTo(hipPlace) < length * FULL_REACH) {
          expect(end.distanceTo(goal)).toBeLessThan(1e-6);
          expect(left).toBeLessThan(1e-6);
        } else expect(left).toBeCloseTo(goal.distanceTo(hipPlace) - length * FULL_REACH, 5);
        const q = objects[leg.ankle]!.getWorldQuaternion(new Quaternion());
        expect(Math.abs(q.dot(new Quaternion().fromArray(before)))).toBeCloseTo(1, 9);
      }),
      { numRuns: 100 },
    );
  });

  it('bends the knee in the plane in which it was bent', () => {
    const p = posed(-0.4, 0.7, 0);
    const target = Float64Array.from([0, 1, 2], (k) => p.places[leg.ankle * 3 + k]! + (k === 1 ? 0.1 : 0));
    reach(skeleton.parents, limb, target, 0, ACROSS, p.rotations, p.world, p.places);
    // Hip, knee and ankle had one x, and still do.
    for (const joint of [leg.lower, leg.ankle])
      expect(p.places[joint * 3]!).toBeCloseTo(p.places[leg.upper * 3]!, 9);
    expect(p.places[leg.lower * 3 + 2]!).toBeGreaterThan(p.places[leg.upper * 3 + 2]!);
  });

  it('stretches no further than the limb is long', () => {
    const p = posed(0, 0.4, 0);
    const far = Float64Array.of(0.09, -3, 0);
    const left = reach(skeleton.parents, limb, far, 0, ACROSS, p.rotations, p.world, p.places);
    expect(left).toBeGreaterThan(2);
    expect(p.places.every(Number.isFinite)).toBe(true);
  });
});
