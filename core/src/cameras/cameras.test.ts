import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Matrix4, PerspectiveCamera, Quaternion, Vector3 } from 'three';
import { defined } from '../math/defined';
import { quatAngle } from '../math/quaternion';
import type { Handheld } from '../scene/camera';
import { aimCamera } from './aimCamera';
import { gateOf, halfHeightOf, lensFor, makeCameraPose } from './cameraPose';
import { dollyOf } from './dolly';
import { HAND_MOTIONS, handAt, handWaves } from './handheld';
import { lagging } from './lag';
import { placeInPicture } from './lineCrossings';
import { valueOn } from '../layers/valueCurve';
import { valueAt } from '../math/valueAt';

const coordinate = fc.double({ min: -20, max: 20, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);

describe('aiming', () => {
  it('looks at the point with a level horizon, as a camera of three does', () => {
    fc.assert(
      fc.property(point, point, (place, aim) => {
        fc.pre(Math.hypot(place[0] - aim[0], place[2] - aim[2]) > 1e-3);
        const q = aimCamera(place, aim, 0, new Float64Array(4));
        const other = new Quaternion().setFromRotationMatrix(
          new Matrix4().lookAt(new Vector3(...place), new Vector3(...aim), new Vector3(0, 1, 0)),
        );
        expect(quatAngle(q, 0, Float64Array.from(other.toArray()), 0)).toBeLessThan(1e-6);
      }),
    );
  });

  it('rolls to the left, and is some rotation wherever it looks', () => {
    const rolled = aimCamera([0, 0, 5], [0, 0, 0], 90, new Float64Array(4));
    const up = new Vector3(0, 1, 0).applyQuaternion(new Quaternion(...rolled));
    expect(up.toArray().map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([-1, 0, 0]);
    for (const aim of [
      [0, 9, 0],
      [0, -9, 0],
      [0, 0, 0],
    ] as const) {
      const q = aimCamera([0, 0, 0], aim, 0, new Float64Array(4));
      expect(Math.hypot(...q)).toBeCloseTo(1, 12);
    }
    const down = aimCamera([0, 5, 0], [0, 0, 0], 0, new Float64Array(4));
    expect(new Vector3(0, 0, -1).applyQuaternion(new Quaternion(...down)).y).toBeCloseTo(-1, 12);
  });
});

describe('a lens', () => {
  it('sees what its film back and the aspect of the picture let it', () => {
    // 36 x 24 mm at 50 mm: 39.6 degrees across, 27.0 from bottom to top (tables of lenses, common practice).
    const degrees = (t: number): number => (2 * Math.atan(t) * 180) / Math.PI;
    expect(degrees(halfHeightOf(50, [36, 24], 1.5))).toBeCloseTo(26.99, 2);
    expect(degrees(halfHeightOf(50, [36, 24], 1.5) * 1.5)).toBeCloseTo(39.6, 2);
    expect(gateOf([36, 24], 16 / 9)).toEqual([36, 20.25]);
    expect(gateOf([36, 24], 1)).toEqual([24, 24]);
    expect(lensFor(halfHeightOf(85, [24.89, 18.66], 2.39), [24.89, 18.66], 2.39)).toBeCloseTo(85, 10);
  });

  it('puts a point where a camera of three does', () => {
    fc.assert(
      fc.property(point, point, point, fc.integer({ min: 10, max: 200 }), (place, aim, seen, lens) => {
        fc.pre(Math.hypot(...place.map((v, k) => v - defined(aim[k]))) > 0.1);
        const pose = makeCameraPose();
        pose.place.set(place);
        aimCamera(place, aim, 12, pose.rotation);
        pose.halfHeight = halfHeightOf(lens, [36, 24], 1.6);
        const at = placeInPicture(pose, seen, 1.6);
        const camera = new PerspectiveCamera((2 * Math.atan(pose.halfHeight) * 180) / Math.PI, 1.6);
        camera.position.set(...place);
        camera.quaternion.set(...(pose.rotation as unknown as [number, number, number, number]));
        camera.updateMatrixWorld();
        const view = new Vector3(...seen).applyMatrix4(camera.matrixWorldInverse);
        if (view.z > -0.05) return void (view.z > 1e-6 && expect(at).toBeNull());
        const ndc = new Vector3(...seen).project(camera);
        const [x, y] = defined(at);
        expect(Math.abs(x - ndc.x)).toBeLessThan(1e-6 * (1 + Math.abs(x)));
        expect(Math.abs(y - ndc.y)).toBeLessThan(1e-6 * (1 + Math.abs(y)));
      }),
    );
  });
});

describe('lag', () => {
  it('is behind a steady motion by just its time', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: 0.5, max: 20, noNaN: true }),
        (speed, lag) => {
          const values = Float64Array.from({ length: 400 }, (_, f) => 3 + speed * f);
          const out = lagging(values, 1, lag);
          expect(out[0]).toBe(3);
          expect(Math.abs(out[399]! - (values[399]! - speed * lag))).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('follows the differential equation of a critically damped spring, whatever the values', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 12 }),
        fc.double({ min: 1, max: 12, noNaN: true }),
        (rows, lag) => {
          const out = lagging(Float64Array.from(rows.flat()), 2, lag);
          const w = 2 / lag;
          for (const k of [0, 1] as const) {
            // By small steps (midpoint rule), as a reference that is not exact.
            let [x, v] = [rows[0]![k], 0];
            const steps = 2000;
            for (let f = 1; f < rows.length; f++) {
              const [a, b] = [rows[f - 1]![k], rows[f]![k]];
              for (let s = 0; s < steps; s++) {
                const h = 1 / steps;
                const target = a + ((b - a) * (s + 0.5)) / steps;
                const pull = (at: number, speed: number): number => w * w * (target - at) - 2 * w * speed;
                const half = v + (h / 2) * pull(x, v);
                const middle = x + (h / 2) * v;
                x += h * half;
                v += h * pull(middle, half);
              }
              expect(Math.abs(out[f * 2 + k]! - x)).toBeLessThan(1e-3);
            }
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  it('of nothing copies', () => {
    expect([...lagging(Float64Array.of(1, 5, 2), 1, 0)]).toEqual([1, 5, 2]);
  });
});

describe('a handheld camera', () => {
  const hand: Handheld = { turn: 0.5, sway: 0.02, frequency: 0.8, seed: 7 };
  const motion = (values: Handheld, seconds: number, perSecond = 20): Float64Array[] => {
    const waves = handWaves(values);
    return Array.from({ length: seconds * perSecond }, (_, i) =>
      handAt(waves, i / perSecond, new Float64Array(HAND_MOTIONS)).slice(),
    );
  };

  it('moves by what is asked for, about nothing, and about so often', () => {
    fc.assert(
      fc.property(fc.nat(4_000_000_000), (seed) => {
        const rows = motion({ ...hand, seed }, 600);
        const of = (k: number): number[] => rows.map((r) => r[k]!);
        const mean = (v: number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
        const rms = (v: number[]): number => Math.sqrt(mean(v.map((x) => x * x)));
        for (const [k, size] of [
          [0, (0.5 * Math.PI) / 180],
          [3, 0.02],
        ] as const) {
          expect(Math.abs(rms(of(k)) / size - 1)).toBeLessThan(0.05);
          expect(Math.abs(mean(of(k)))).toBeLessThan(0.05 * size);
          const crossings = of(k).filter((v, i, all) => i > 0 && v * all[i - 1]! < 0).length;
          expect(crossings / 2 / 600).toBeGreaterThan(0.8 / 3);
          expect(crossings / 2 / 600).toBeLessThan(0.8 * 3);
        }
      }),
      { numRuns: 20 },
    );
  });

  it('is the same for the same seed, and another for another', () => {
    expect(motion(hand, 2)).toEqual(motion({ ...hand }, 2));
    expect(motion(hand, 2)).not.toEqual(motion({ ...hand, seed: 8 }, 2));
  });
});

describe('a path of a camera', () => {
  it('goes through its points, ends at its ends, and is gone along at an even speed', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 8 }), (points) => {
        fc.pre(
          points.every(
            (p, i) => i === 0 || Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1]) > 0.1,
          ),
        );
        const dolly = dollyOf(points);
        const at = (share: number): [number, number] => {
          const s = valueAt(dolly.at, share * (dolly.at.length - 1));
          return [valueOn(dolly.x, s, 0), valueOn(dolly.z, s, 0)];
        };
        const off = (a: readonly number[], b: readonly number[]): number =>
          Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!);
        expect(off(at(0), points[0]!)).toBeLessThan(1e-9);
        expect(off(at(1), points.at(-1)!)).toBeLessThan(1e-9);
        const places = Array.from({ length: 4001 }, (_, i) => at(i / 4000));
        for (const p of points)
          expect(Math.min(...places.map((q) => off(p, q)))).toBeLessThan(dolly.length / 4000);
        const steps = places.slice(1).map((q, i) => off(q, places[i]!));
        const even = dolly.length / 4000;
        // Over a hundredth of the way, whatever its bends are.
        for (let i = 0; i + 40 <= steps.length; i += 40)
          expect(Math.abs(steps.slice(i, i + 40).reduce((a, b) => a + b, 0) / (40 * even) - 1)).toBeLessThan(
            0.1,
          );
      }),
      { numRuns: 50 },
    );
  });

  it('of points at one place stays there', () => {
    const { length, at } = dollyOf([
      [1, 2],
      [1, 2],
    ]);
    expect(length).toBe(0);
    expect([...at].every((v) => v === 0)).toBe(true);
  });
});
