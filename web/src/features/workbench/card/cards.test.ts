import { describe, expect, it } from '@jest/globals';
import type { Join } from '@warper/core';
import { applyEdit, compile, parseRate } from '@warper/core';
import { library, two } from '../../../../../core/src/testing/arranging';
import { gradeOfDistance } from './distanceGrade';
import { joinEdit, settling, stepping } from './joinEdit';
import { pivotOf } from './pivotOf';
import { nextPoint, risingPoints } from './TimeGroup';
import { unfitted } from './unfitted';

const b = two.segments.b!;
const overlapOf = (scene: typeof two): number =>
  compile(scene, library).characters[0]!.segments.find((s) => s.id === 'b')!.overlap;
const joined = (join: Join, scene = two): typeof two =>
  applyEdit(scene, joinEdit(b, join, overlapOf(scene), parseRate(30)), library);

describe('the kind of a seam', () => {
  it('is one edit: a cut shares no frames, and a crossfade as many as the motions ask for', () => {
    const cut = joined({ kind: 'cut' });
    expect(cut.segments.b!.seam.kind).toBe('cut');
    expect(overlapOf(cut)).toBe(0);
    const crossfade = joined({ kind: 'crossfade', curve: 'smooth', inStep: false }, cut);
    expect(overlapOf(crossfade)).toBeGreaterThan(1);
  });

  it('leaves the length of a crossfade that stays one', () => {
    const linear = joined({ kind: 'crossfade', curve: 'linear', inStep: false });
    expect(overlapOf(linear)).toBe(overlapOf(two));
    expect(linear.segments.b!.seam).toMatchObject({ kind: 'crossfade', curve: 'linear' });
  });

  it('is a step of the usual length, or as long as what was shared before', () => {
    const made = joined(stepping(b.seam));
    expect(made.segments.b!.seam).toMatchObject({ kind: 'step', footfalls: {} });
    expect(overlapOf(made)).toBe(20);
    const cut = joined({ kind: 'cut' }, made);
    expect(overlapOf(cut)).toBe(0);
    const own = {
      ...made.segments.b!.seam,
      kind: 'step' as const,
      footfalls: { leftFoot: [2, 9] as const },
      landings: {},
    };
    expect(stepping(own)).toMatchObject({ footfalls: { leftFoot: [2, 9] } });
  });

  it('settles in the usual time, or goes on as it does', () => {
    expect(settling(b.seam, parseRate(30))).toEqual({ kind: 'settle', frames: 9 });
    const own = { ...joined({ kind: 'settle', frames: 5 }).segments.b!.seam };
    expect(settling(own, parseRate(30))).toMatchObject({ kind: 'settle', frames: 5 });
  });
});

describe('what the cards reckon', () => {
  const plan = compile(two, library);

  it('a seam without its fit stands where its clip was authored, and is worse', () => {
    const [c] = plan.characters;
    const plain = unfitted(c!, 1, 30);
    expect(plain.surgeCm + plain.popCm).toBeGreaterThan(20);
  });

  it('several segments are turned about where the first of them begins', () => {
    const start = pivotOf(plan, ['a']);
    expect(pivotOf(plan, ['b', 'a'])).toEqual(start);
    expect(pivotOf(plan, ['b'])).not.toEqual(start);
    expect(pivotOf(plan, ['gone'])).toEqual({ x: 0, z: 0 });
  });

  it('points of a speed curve rise', () => {
    expect(
      risingPoints([
        [0.6, 0.2],
        [0.3, 0.5],
        [0.301, 0.9],
      ]),
    ).toEqual([
      [0.3, 0.5],
      [0.6, 0.5],
    ]);
    expect(risingPoints([])).toBeNull();
    const [x, y] = nextPoint([[0.5, 0.5]]);
    expect(x).toBeGreaterThan(0.5);
    expect(y).toBeGreaterThan(0.5);
  });

  it('moments are graded by how far apart their poses are', () => {
    expect([5.9, 6, 12, 40].map(gradeOfDistance)).toEqual(['good', 'watch', 'bad', 'bad']);
  });
});
