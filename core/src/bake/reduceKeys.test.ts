import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { InputError } from '../math/errors';
import { quatMultiply, quatNormalize, quatRotate, quatSlerp } from '../math/quaternion';
import { figureClip, strideJoints } from '../testing/figure';
import type { KeyInterpolation, LocalTracks, ReducedKeys } from './reduceKeys';
import { plantedSpans, reduceKeys } from './reduceKeys';
import { keySlope } from './thinnedTrack';

/** A chain of joints that swings as sums of sines, some quicker than keys could follow; its top also moves. */
function chain(
  frames: number,
  joints: number,
  swings: readonly (readonly [number, number, number])[],
): LocalTracks {
  const rotations = Array.from({ length: joints }, (_, j) => {
    const out = new Float32Array(frames * 4);
    for (let f = 0; f < frames; f++) {
      const q = new Float64Array([0, 0, 0, 1]);
      swings.forEach(([size, speed, phase], i) => {
        q[(i + j) % 3]! += size * Math.sin(f * speed + phase + j);
      });
      quatNormalize(q, 0);
      out.set(q, f * 4);
    }
    return out;
  });
  const top = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++)
    top.set([0.02 * f, 1 + 0.05 * Math.sin(f / 5), 0.3 * Math.sin(f / 30)], f * 3);
  return {
    frames,
    parents: Int32Array.from({ length: joints }, (_, j) => j - 1),
    offsets: Float64Array.from({ length: joints * 3 }, (_, i) => [0.1, 0.35, 0.05][i % 3]!),
    rotations,
    translations: rotations.map((_, j) => (j === 0 ? top : null)),
  };
}

const tracks = fc
  .record({
    frames: fc.integer({ min: 2, max: 160 }),
    joints: fc.integer({ min: 1, max: 6 }),
    swings: fc.array(
      fc.tuple(
        fc.double({ min: 0, max: 0.4, noNaN: true }),
        fc.double({ min: 0, max: 0.7, noNaN: true }),
        fc.double({ min: 0, max: 6, noNaN: true }),
      ),
      { maxLength: 3 },
    ),
  })
  .map(({ frames, joints, swings }) => chain(frames, joints, swings));

/** Places of all joints at a real sample, from tracks whose values are asked for: forward kinematics written out once more. */
function placesFrom(
  { parents, offsets }: LocalTracks,
  turn: (joint: number) => Float64Array,
  place: (joint: number) => Float64Array | null,
): Float64Array {
  const joints = parents.length;
  const q = new Float64Array(joints * 4);
  const p = new Float64Array(joints * 3);
  for (let j = 0; j < joints; j++) {
    const up = parents[j]!;
    const local = place(j) ?? offsets.slice(j * 3, j * 3 + 3);
    if (up < 0) {
      q.set(turn(j), j * 4);
      p.set(local, j * 3);
      continue;
    }
    quatMultiply(q, up * 4, turn(j), 0, q, j * 4);
    quatRotate(q, up * 4, local, 0, p, j * 3);
    for (let k = 0; k < 3; k++) p[j * 3 + k]! += p[up * 3 + k]!;
  }
  return p;
}

/** A track at a real sample as a reader plays some of its keys (glTF 2.0.1, appendix C). */
function playedAt(
  values: Float32Array,
  width: 3 | 4,
  keys: Int32Array,
  s: number,
  how: KeyInterpolation,
): Float64Array {
  const out = new Float64Array(width);
  let i = keys.findLastIndex((key) => key <= s);
  i = Math.max(0, Math.min(i, keys.length - 2));
  const a = keys[i]!;
  const b = keys[i + 1] ?? a;
  const t = b > a ? (s - a) / (b - a) : 0;
  if (how === 'linear' && width === 4)
    return quatSlerp(values, a * 4, values, b * 4, t, out, 0) as Float64Array;
  for (let k = 0; k < width; k++) {
    const [va, vb] = [values[a * width + k]!, values[b * width + k]!];
    if (how === 'linear' || b === a) out[k] = va + t * (vb - va);
    else {
      const frames = values.length / width;
      const [ma, mb] = [keySlope(values, width, frames, a, b, k), keySlope(values, width, frames, b, a, k)];
      out[k] =
        (2 * t ** 3 - 3 * t ** 2 + 1) * va +
        (b - a) * (t ** 3 - 2 * t ** 2 + t) * ma +
        (-2 * t ** 3 + 3 * t ** 2) * vb +
        (b - a) * (t ** 3 - t ** 2) * mb;
    }
  }
  if (width === 4) quatNormalize(out, 0);
  return out;
}

/** Furthest that a joint is off, at samples and halfway, metres. */
function measured(
  all: LocalTracks,
  { joints, interpolation }: ReducedKeys,
  joint?: number,
  from = 0,
  to = all.frames,
): number {
  const every = Int32Array.from({ length: all.frames }, (_, f) => f);
  let most = 0;
  for (let s = from; s <= to - 1; s += 0.5) {
    const own = placesFrom(
      all,
      (j) => playedAt(all.rotations[j]!, 4, every, s, 'linear'),
      (j) => (all.translations[j] ? playedAt(all.translations[j], 3, every, s, 'linear') : null),
    );
    const kept = placesFrom(
      all,
      (j) => playedAt(all.rotations[j]!, 4, joints[j]!.rotations, s, interpolation),
      (j) =>
        all.translations[j]
          ? playedAt(all.translations[j], 3, joints[j]!.translations!, s, interpolation)
          : null,
    );
    for (let j = 0; j < all.parents.length; j++) {
      if (joint !== undefined && j !== joint) continue;
      most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => own[j * 3 + k]! - kept[j * 3 + k]!)));
    }
  }
  return most;
}

const countOf = ({ joints }: ReducedKeys): number =>
  joints.reduce((sum, k) => sum + k.rotations.length + (k.translations?.length ?? 0), 0);

/** Float32 holds a metre to a tenth of a micrometre. */
const ROUNDING = 2e-6;

describe('reduced keys', () => {
  it('keep every joint within the error, at samples and halfway, and say how far off they are', () => {
    fc.assert(
      fc.property(tracks, fc.constantFrom('linear' as const, 'cubic' as const), (all, interpolation) => {
        const reduced = reduceKeys(all, { errorMetres: 0.002, interpolation });
        const off = measured(all, reduced);
        // Between samples that are both keys a cubic is no longer to be bettered.
        if (interpolation === 'linear') expect(off).toBeLessThan(0.002 + ROUNDING);
        expect(off).toBeLessThanOrEqual(reduced.errorMetres + ROUNDING);
      }),
      { numRuns: 60 },
    );
  });

  it('are samples of the tracks in order, the first and the last among them', () => {
    fc.assert(
      fc.property(tracks, (all) => {
        for (const { rotations, translations } of reduceKeys(all).joints)
          for (const keys of [rotations, translations]) {
            if (!keys || keys.length === 1) continue;
            expect([keys[0], keys.at(-1)]).toEqual([0, all.frames - 1]);
            keys.forEach((key, i) => i > 0 && expect(key).toBeGreaterThan(keys[i - 1]!));
          }
      }),
      { numRuns: 40 },
    );
  });

  it('are the same each time', () => {
    const all = chain(300, 5, [[0.3, 0.1, 0]]);
    expect(reduceKeys(all)).toEqual(reduceKeys(all));
  });

  it('are one for a track that never changes, and two for one that goes evenly', () => {
    const all = chain(100, 2, []);
    const even = Float32Array.from({ length: 300 }, (_, i) => (i % 3 === 0 ? i / 300 : 1));
    const { joints } = reduceKeys({ ...all, translations: [even, null] });
    expect(joints.map((j) => [...j.rotations])).toEqual([[0], [0]]);
    expect([...joints[0]!.translations!]).toEqual([0, 99]);
  });

  it('are fewer the larger the error is, and far fewer than samples where motion is slow', () => {
    const all = chain(600, 5, [[0.3, 0.03, 0]]);
    const counts = [0.0005, 0.001, 0.004].map((errorMetres) => countOf(reduceKeys(all, { errorMetres })));
    expect(counts[0]).toBeGreaterThan(counts[1]!);
    expect(counts[1]).toBeGreaterThan(counts[2]!);
    // 1,312 with those that are put back but turn out not to be needed.
    expect(counts[1]).toBeLessThan(1200);
  });

  it('are fewer as cubics where motion is smooth', () => {
    const all = chain(600, 5, [[0.3, 0.03, 0]]);
    expect(countOf(reduceKeys(all, { interpolation: 'cubic' }))).toBeLessThan(countOf(reduceKeys(all)) * 0.6);
  });

  it('keep a joint more exactly over its spans', () => {
    const all = chain(120, 4, [[0.3, 0.2, 1]]);
    const reduced = reduceKeys(all, { exact: [{ joint: 3, start: 40, end: 80 }] });
    expect(measured(all, reduced, 3, 40, 80)).toBeLessThan(0.0002 + ROUNDING);
    expect(measured(all, reduced)).toBeGreaterThan(0.0004);
  });

  it('hold over long motion, which is looked at in blocks', () => {
    const all = chain(4200, 2, [[0.2, 0.05, 0]]);
    expect(measured(all, reduceKeys(all), undefined, 1700, 1900)).toBeLessThan(0.001 + ROUNDING);
    expect(measured(all, reduceKeys(all), undefined, 3500, 3700)).toBeLessThan(0.001 + ROUNDING);
  });

  it('know when feet are planted in a clip', () => {
    const stand = figureClip(60, () => ({ x: 0, z: 0, turn: 0, joints: strideJoints(0) }));
    const spans = plantedSpans(stand);
    const feet = new Set(spans.map((s) => stand.skeleton.roles[s.joint]));
    expect([...feet].sort()).toEqual(['leftFoot', 'leftToes', 'rightFoot', 'rightToes']);
    for (const { start, end } of spans) expect([start, end]).toEqual([0, 60]);
  });

  it('refuse an error that is no length', () => {
    for (const errorMetres of [0, -1, NaN]) {
      expect(() => reduceKeys(chain(10, 2, []), { errorMetres })).toThrow(InputError);
    }
  });
});
