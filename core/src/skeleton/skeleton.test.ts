import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Object3D, Quaternion, Vector3 } from 'three';
import { InputError } from '../math/errors';
import { quatNormalize } from '../math/quaternion';
import { figureSkeleton } from '../testing/figure';
import { legLength } from './legs';
import { makeSkeleton, restHeight, worldTransforms } from './skeleton';
import { evenly } from '../testing/evenly';

describe('skeleton', () => {
  it('has the measures of its rest pose', () => {
    const s = figureSkeleton();
    expect(restHeight(s)).toBeCloseTo(1.6 - 0.02, 9);
    // Thigh, shank, and the ankle over the lowest joint (the toes).
    expect(legLength(s)).toBeCloseTo(0.42 + 0.41 + 0.05, 9);
    expect(s.names[s.rootBone]).toBe('hips');
  });

  it('refuses joints before their parents, and none at all', () => {
    const make = (parents: number[]) => () =>
      makeSkeleton({
        names: parents.map((_, i) => `j${i}`),
        parents,
        restTranslations: new Float64Array(parents.length * 3),
      });
    expect(make([-1, 2, 0])).toThrow(InputError);
    expect(make([-1, -1])).toThrow(InputError);
    expect(make([])).toThrow(InputError);
  });

  // Peer: three's scene graph (MIT).
  it('gives the world transforms that three gives', () => {
    const s = figureSkeleton();
    const joints = s.names.length;
    fc.assert(
      fc.property(
        fc.array(evenly(-1, 1), {
          minLength: joints * 7,
          maxLength: joints * 7,
        }),
        (v) => {
          const q = Float64Array.from(v.slice(0, joints * 4));
          const p = Float64Array.from(v.slice(joints * 4));
          for (let j = 0; j < joints; j++) quatNormalize(q, j * 4);
          const wq = new Float64Array(joints * 4);
          const wp = new Float64Array(joints * 3);
          worldTransforms(s.parents, q, p, wq, wp);
          const objects = s.names.map((_, j) => {
            const o = new Object3D();
            o.quaternion.fromArray(q, j * 4);
            o.position.fromArray(p, j * 3);
            return o;
          });
          objects.forEach((o, j) => s.parents[j]! >= 0 && objects[s.parents[j]!]!.add(o));
          objects[0]!.updateMatrixWorld(true);
          objects.forEach((o, j) => {
            expect(
              o.getWorldPosition(new Vector3()).distanceTo(new Vector3().fromArray(wp, j * 3)),
            ).toBeLessThan(1e-9);
            expect(
              o.getWorldQuaternion(new Quaternion()).angleTo(new Quaternion().fromArray(wq, j * 4)),
            ).toBeLessThan(1e-6);
          });
        },
      ),
      { numRuns: 30 },
    );
  });
});
