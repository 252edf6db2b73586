import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile } from '../compile/compile';
import { measureSeam } from '../continuity/measureSeam';
import { applyEdit } from '../edit/edit';
import { PLAIN_LIMITS } from '../scene/choice';
import { layOut } from '../timeline/lane';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, seamOf, segmentOf } from '../testing/scenes';
import { joinAt, seamMap } from './seamMap';

const SPEED = 1.2 / 30;
/** Walks at 30 frames a stride; `phase` says where in its stride it begins. */
const walkFrom = (phase: number, id: string, frames = 121) =>
  figureClip(
    frames,
    (f) => ({
      x: 0,
      y: 0.93,
      z: SPEED * f,
      turn: 0,
      joints: strideJoints((2 * Math.PI * (f + phase)) / 30),
    }),
    { id },
  );
const [walk, other] = [walkFrom(0, 'walk'), walkFrom(11, 'other')];
const library = libraryOf(walk, other);
const scene = sceneOf([
  segmentOf(walk, { id: 'a', in: 10, out: 100 }),
  segmentOf(other, { id: 'b', in: 20, out: 110, start: 80, seam: seamOf({ fit: 'planted foot' }) }),
  segmentOf(walk, { id: 'c', in: 5, start: 160, seam: seamOf({ fit: 'planted foot' }) }),
]);
const mapOf = (s = scene, id = 'b') => seamMap(s, id, library, PLAIN_LIMITS, 6)!;

describe('the map of a seam', () => {
  it('is darkest where both are in the same stride', () => {
    const map = mapOf();
    const [best] = map.pairs;
    expect(map.distancesCm).toHaveLength(map.rows * map.columns);
    // Ten samples into the one and twenty into the other, which is eleven ahead: 21 more.
    for (const { out, in: into } of map.pairs.filter((p) => p.distanceCm < 0.01))
      expect((((out - into - 21) % 30) + 30) % 30).toBe(0);
    expect(best!.distanceCm).toBeLessThan(1e-3);
    expect(Array.from(map.samples.out)).toEqual(
      Array.from({ length: map.rows }, (_, r) => 10 + map.first.out + r),
    );
    expect(map.samples.in[0]).toBe(20 + map.first.in);
    const at = (best!.out - map.first.out) * map.columns + best!.in - map.first.in;
    expect(map.distancesCm[at]).toBeCloseTo(best!.distanceCm, 6);
    expect(Math.min(...map.distancesCm)).toBeCloseTo(best!.distanceCm, 6);
  });

  it('lists no pair as better than its join is in the scene', () => {
    for (const id of ['b', 'c'])
      for (const pair of mapOf(scene, id).pairs) {
        const after = compile(applyEdit(scene, pair.edit, library), library).characters[0]!;
        const { grade, popCm } = measureSeam(after, id === 'b' ? 0 : 1, 30);
        expect(grade).toBe(pair.measures.grade);
        expect(popCm).toBeCloseTo(pair.measures.popCm, 3);
      }
  });

  it('shows what meets now, and has any pair of it meet', () => {
    const map = mapOf();
    expect(joinAt(scene, 'b', map.now, library)).toMatchObject({ before: 90, own: 90, overlap: 10 });
    fc.assert(
      fc.property(fc.nat(map.rows - 1), fc.nat(map.columns - 1), (row, column) => {
        const moments = { out: map.first.out + row, in: map.first.in + column };
        const after = applyEdit(scene, joinAt(scene, 'b', moments, library)!, library);
        const [a, b] = layOut(after, after.lanes.l!, library);
        expect(b!.overlap).toBe(10);
        expect(b!.segment.seam).toMatchObject({ auto: false, chosen: null });
        const now = mapOf(after).now;
        expect(now.out).toBe(moments.out);
        // It is trimmed at its start by what was before the pair.
        expect(90 - b!.timing.frames + now.in).toBe(moments.in);
        expect(b!.start).toBe(a!.start + moments.out - now.in);
      }),
      { numRuns: 60 },
    );
  });

  it('is there for loops on either side, with any moment of their cycles', () => {
    const loops = sceneOf([
      segmentOf(walk, { id: 'a', in: 0, out: 31, loop: true, repeat: 3 }),
      segmentOf(other, { id: 'b', in: 0, out: 31, loop: true, repeat: 3, start: 80, seam: seamOf() }),
    ]);
    const map = mapOf(loops);
    expect([map.rows, map.columns].every((n) => n > 30)).toBe(true);
    expect(map.pairs[0]!.measures.grade).toBe('good');
    // The same two moments of their cycles are listed once.
    const names = map.pairs.map((p) =>
      [map.samples.out[p.out - map.first.out], map.samples.in[p.in - map.first.in]].join(),
    );
    expect(new Set(names).size).toBe(names.length);
    const after = applyEdit(loops, map.pairs[0]!.edit, library);
    expect(after.segments.b!.loop && after.segments.a!.loop).toBe(true);
  });

  it('is not there where nothing can be moved', () => {
    const whole = sceneOf([
      segmentOf(walk, { id: 'a', out: 60 }),
      segmentOf(walk, { id: 'b', in: 60, start: 60 }),
      segmentOf(walk, { id: 'c', start: 300 }),
    ]);
    for (const id of ['a', 'b', 'c']) expect(seamMap(whole, id, library, PLAIN_LIMITS, 4)).toBeNull();
  });
});
