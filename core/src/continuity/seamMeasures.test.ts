import { describe, expect, it } from '@jest/globals';
import { compile, createCompiler } from '../compile/compile';
import type { Seam } from '../scene/seam';
import { PLAIN_SEAM } from '../scene/seam';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { DEFAULT_THRESHOLDS, SHOT_SIZES } from '../scene/thresholds';
import { gradeOf, gradeSeam } from './grade';
import { measureSeam } from './measureSeam';
import { measureSeams, seamMeasures } from './seamMeasures';
import { seamOf, settling } from '../testing/scenes';
import type { SeamPlacing } from '../scene/seam';

const SPEED = 1.2 / 30;
const walk = figureClip(
  91,
  (f) => ({ x: 0, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const measureOf = (overlap: number, seam: Seam) => {
  // Both sides are the same motion, so that a perfect seam exists; the second starts where the first leaves off.
  const scene = sceneOf([
    segmentOf(walk, { id: 'a', out: 40 }),
    segmentOf(walk, { id: 'b', in: 40 - overlap, start: 40 - overlap, seam }),
  ]);
  return measureSeam(compile(scene, libraryOf(walk)).characters[0]!, 0, 30);
};
const measure = (overlap: number, values: Partial<SeamPlacing>) => measureOf(overlap, seamOf(values));

describe('measures of a seam', () => {
  it('are zero where nothing was joined but the motion itself', () => {
    for (const overlap of [0, 8]) {
      const m = measure(overlap, {});
      expect(m.popCm).toBeLessThan(1e-3);
      expect(m.surgeCm).toBeLessThan(1e-3);
      expect(m.turnDegrees).toBeLessThan(1e-3);
      expect(m.hitch).toBeCloseTo(1, 2);
      expect(m.kind).toBe(overlap > 0 ? 'crossfade' : 'cut');
      expect(m.speedBefore).toBeCloseTo(1.2, 3);
      expect(m.speedAfter).toBeCloseTo(1.2, 3);
    }
  });

  it('say by how much a cut jumps', () => {
    const m = measure(0, { fit: 'hips', nudge: { x: 0.1, z: 0, turn: 0 } });
    // A jump of 10 cm across a walk of 4 cm a frame: the pop is the jump less what the walk itself does, the surge
    // what the joint moves beyond the walk's own step.
    expect(m.popCm).toBeGreaterThan(9);
    expect(m.popCm).toBeLessThan(10.01);
    expect(m.surgeCm).toBeGreaterThan(5);
    expect(m.grade).toBe('bad');
  });

  it('say by how much it turns', () => {
    const m = measure(0, { fit: 'hips', nudge: { x: 0, z: 0, turn: 20 } });
    expect(m.turnDegrees).toBeCloseTo(20, 1);
    expect(measure(10, { fit: 'hips', nudge: { x: 0, z: 0, turn: 20 } }).turnDegrees).toBeCloseTo(3, 0);
  });

  it('a crossfade hides the jump but not the glide', () => {
    const m = measure(8, { fit: 'hips', nudge: { x: 0, z: 0.3, turn: 0 } });
    expect(m.popCm).toBeLessThan(3);
    // 30 cm in 8 frames, at most 1.5 times the mean in the middle of the smooth curve.
    expect(m.surgeCm).toBeGreaterThan(3.7);
    expect(m.surgeCm).toBeLessThan(5.7);
  });

  it('of a settling seam are taken over all its frames, and are far smaller than the cut’s', () => {
    const ahead = { fit: 'hips' as const, nudge: { x: 0.06, z: 0.02, turn: 0 } };
    const [cut, settled] = [measure(0, ahead), measureOf(0, settling(9, ahead))];
    expect(cut).toMatchObject({ kind: 'cut', settle: 0 });
    expect(settled).toMatchObject({ kind: 'settle', settle: 9, overlap: 0 });
    expect(settled.popCm).toBeLessThan(cut.popCm / 3);
  });

  it('report where the incoming clip was put', () => {
    const m = measure(0, { fit: 'free', nudge: { x: 0, z: 0, turn: 0 } });
    expect(m.move).toEqual({ x: 0, z: 0, turn: 0 });
    expect(m.fit).toBe('free');
  });
});

describe('slide and hitch of a seam', () => {
  it('say how far a foot that stands is carried', () => {
    const stand = figureClip(60, () => ({ x: 0, z: 0, turn: 0 }), { id: 'stand' });
    const scene = sceneOf([
      segmentOf(stand, { id: 'a', out: 40 }),
      segmentOf(stand, { id: 'b', start: 32, seam: { ...PLAIN_SEAM, nudge: { x: 0.1, z: 0, turn: 0 } } }),
    ]);
    const m = measureSeam(compile(scene, libraryOf(stand)).characters[0]!, 0, 30);
    const still = measureSeam(
      compile(
        sceneOf([segmentOf(stand, { id: 'a' }), segmentOf(stand, { id: 'b', start: 52 })]),
        libraryOf(stand),
      ).characters[0]!,
      0,
      30,
    );
    expect(still).toMatchObject({ slideCm: 0, hitch: 0, grade: 'good' });
    // The whole ten centimetres, though one side's steps rule before the middle and the other's behind it.
    expect(m.slideCm).toBeCloseTo(10, 1);
    expect(m.pathCm).toBeCloseTo(10, 1);
    expect(m.hitch).toBeGreaterThan(1);
  });

  it('count no more of a slide than what the feet of the clips do not slide themselves', () => {
    // Both sides creep by 2 mm a frame, as raw capture does.
    const creep = figureClip(60, (f) => ({ x: 0.002 * f, z: 0, turn: 0 }), { id: 'creep' });
    const scene = (nudge: number) =>
      sceneOf([
        segmentOf(creep, { id: 'a', out: 40 }),
        segmentOf(creep, {
          id: 'b',
          start: 28,
          seam: seamOf({ fit: 'hips', nudge: { x: nudge, z: 0, turn: 0 } }),
        }),
      ]);
    const [own, moved] = [0, 0.03].map((n) =>
      measureSeam(compile(scene(n), libraryOf(creep)).characters[0]!, 0, 30),
    );
    expect(own!.pathCm).toBeGreaterThan(2);
    expect(own!.slideCm).toBeLessThan(0.01);
    expect(moved!.slideCm).toBeCloseTo(3, 1);
  });

  it('say how much harder a jump is than the motion itself', () => {
    expect(measure(0, { fit: 'hips', nudge: { x: 0.1, z: 0, turn: 0 } }).hitch).toBeGreaterThan(3);
  });
});

describe('grades', () => {
  const none = { popCm: 0, surgeCm: 0, turnDegrees: 0, slideCm: 0, hitch: 1 };
  it('go by the thresholds, and a seam by its worst measure', () => {
    const t = DEFAULT_THRESHOLDS;
    expect(gradeOf(0.99, t.popCm)).toBe('good');
    expect(gradeOf(1, t.popCm)).toBe('watch');
    expect(gradeOf(3, t.popCm)).toBe('bad');
    expect(gradeSeam({ ...none, popCm: 0.5, surgeCm: 0.9, turnDegrees: 4 }, t)).toEqual({
      grade: 'watch',
      worst: 'turnDegrees',
    });
    expect(gradeSeam({ ...none, hitch: 2.5 }, t)).toEqual({ grade: 'bad', worst: 'hitch' });
    expect(gradeSeam(none, t).grade).toBe('good');
    // A close-up forgives half as much, a hitch as much less of what is above its sources.
    expect(SHOT_SIZES['close-up'].surgeCm).toEqual({ watch: 0.75, bad: 2 });
    expect(SHOT_SIZES.wide.hitch.watch).toBeCloseTo(1.6, 9);
    expect(gradeSeam({ ...none, surgeCm: 1 }, SHOT_SIZES['close-up']).grade).toBe('watch');
  });
});

describe('measures after an edit', () => {
  const compiler = createCompiler(libraryOf(walk));
  const lane = (nudged: number, x: number) =>
    sceneOf(
      Array.from({ length: 12 }, (_, i) =>
        segmentOf(walk, {
          id: `s${i}`,
          out: 60,
          start: i * 52,
          seam: { ...PLAIN_SEAM, nudge: { x: i === nudged ? x : 0, z: 0, turn: 0 } },
        }),
      ),
    );

  it('are those of a scene that was never measured before, and kept where nothing changed', () => {
    const before = compiler.compile(lane(0, 0));
    const first = measureSeams(before.characters[0]!, 30);
    for (const i of [3, 8, 11]) {
      const edited = compiler.compile(lane(i, 0.2));
      const kept = measureSeams(edited.characters[0]!, 30);
      const fresh = compile(lane(i, 0.2), libraryOf(walk));
      expect(kept).toEqual(measureSeams(fresh.characters[0]!, 30));
      // Where the seam stands in the scene changes no more than the rounding.
      kept.forEach((m, k) => {
        const there = measureSeam(edited.characters[0]!, k, 30);
        expect(m.popCm).toBeCloseTo(there.popCm, 5);
        expect(m.slideCm).toBeCloseTo(there.slideCm, 5);
        expect(m.speedAfter).toBeCloseTo(there.speedAfter, 6);
        expect({ ...m, ...there }).toEqual(there);
      });
      // A seam far before the edit is the very object that was measured first.
      expect(kept[0] === first[0]).toBe(i > 1);
    }
  });

  it('are made once', () => {
    const c = compiler.compile(lane(2, 0.1)).characters[0]!;
    expect(seamMeasures(c, 4, 30)).toBe(seamMeasures(c, 4, 30));
  });
});

describe('seams at any time rate', () => {
  /** One walk of three seconds, sampled at a rate. */
  const walkAt = (rate: number, id: string) =>
    figureClip(
      Math.round(3 * rate) + 1,
      (f) => ({
        x: 0,
        z: (1.2 * f) / rate,
        turn: 0.2 * (f / rate),
        joints: strideJoints((2 * Math.PI * f) / rate),
      }),
      { id, rate },
    );

  it.each([
    [30, 60, 1],
    [120, 24, 1],
    [24, 120, 0.5],
    [60, 25, 2],
  ])('clips of %d and %d samples a second at speed %d join as if they were one', (a, b, speed) => {
    const [left, right] = [walkAt(a, 'left'), walkAt(b, 'right')];
    // The first half of the motion from one clip, the second from the other, both as fast.
    const frames = Math.round((1.5 / speed) * 30);
    for (const kind of ['cut', 'settle', 'crossfade'] as const) {
      const overlap = kind === 'crossfade' ? 8 : 0;
      const begins = ((frames - overlap) / 30) * speed;
      const scene = sceneOf([
        segmentOf(left, { id: 'a', out: 1.5 * a, speed }),
        segmentOf(right, {
          id: 'b',
          in: begins * b,
          out: 3 * b,
          start: frames - overlap,
          speed,
          seam: kind === 'settle' ? settling(9) : PLAIN_SEAM,
        }),
      ]);
      const m = measureSeam(compile(scene, libraryOf(left, right)).characters[0]!, 0, 30);
      expect(m.kind).toBe(kind);
      // What is left are the chords between the samples of the coarser clip.
      expect(m.popCm).toBeLessThan(0.4);
      expect(m.surgeCm).toBeLessThan(0.4);
      expect(m.turnDegrees).toBeLessThan(0.3);
    }
  });
});
