import { describe, expect, it } from '@jest/globals';
import { figureSkeleton } from '../testing/figure';
import { legsOf } from '../skeleton/legs';
import type { PlaceAt } from './stepHolds';
import { holdWeight, stepHolds } from './stepHolds';

const skeleton = figureSkeleton();
const leg = legsOf(skeleton)[0]!;
const [BEGIN, END, EDGE] = [10, 40, 3];
const planting = { start: BEGIN, end: END, joint: leg.ankle, byHand: null };

/** A foot that goes 5 cm a frame, and between two frames drifts by so much a frame instead. */
const foot =
  (drift: number, from = BEGIN, to = END): PlaceAt =>
  (frame, _joint, out) => {
    const inside = Math.min(Math.max(frame, from), to);
    out[0] = drift * (inside - from) + 0.05 * (frame - inside);
    out[1] = 0;
    out[2] = 0;
  };

const holdsOf = (place: PlaceAt, edge: number | null) =>
  stepHolds(leg, [planting], place, null, () => true, edge);

describe('the hold of a step', () => {
  it('is none where the foot stands by itself, but for the edges at which it comes and goes', () => {
    expect(holdsOf(foot(0), EDGE).every((h) => h.exact)).toBe(true);
    expect(holdsOf(foot(0, BEGIN + EDGE, END - EDGE), EDGE).every((h) => h.exact)).toBe(true);
    expect(holdsOf(foot(0, BEGIN + EDGE + 1), EDGE).some((h) => h.exact)).toBe(false);
    expect(holdsOf(foot(1e-3), EDGE).some((h) => h.exact)).toBe(false);
    expect(holdsOf(foot(0), null).some((h) => h.exact)).toBe(false);
  });

  it('carries out and in what it has moved itself, not the foot’s own speed beyond', () => {
    const [hold] = holdsOf(foot(1e-3), EDGE);
    expect(hold!.after.vx).toBeCloseTo(-1e-3, 9);
    expect(hold!.before.vx).toBeCloseTo(-1e-3, 9);
    // Held where it was in the middle: half the drift is left at either end.
    expect(hold!.after.x).toBeCloseTo(-0.5e-3 * (END - BEGIN), 9);
    expect(hold!.before.x).toBeCloseTo(0.5e-3 * (END - BEGIN), 9);
  });

  it('lets a foot go that strays too far, by and by between 4 and 8 cm', () => {
    // It drifts evenly, so that it is half of its way from its place at either end.
    const weightOf = (stray: number): number =>
      holdsOf(foot((2 * stray) / (END - BEGIN - 2 * EDGE)), EDGE)[0]!.weight;
    expect(weightOf(0.039)).toBe(1);
    expect(weightOf(0.06)).toBeCloseTo(0.5, 1);
    expect(weightOf(0.081)).toBe(0);
    expect([0, 0.04, 0.08, 1].map(holdWeight)).toEqual([1, 1, 0, 0]);
    // What is put on the floor as a whole, as a mapped clip is, is held all the same.
    expect(holdsOf(foot(0.02), null)[0]!.weight).toBe(1);
  });
});
