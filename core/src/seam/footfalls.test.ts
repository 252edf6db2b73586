import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { evenly } from '../testing/evenly';
import type { FootTracks } from './footfalls';
import { FOOT_MARGIN, chooseFootfalls, footPath } from './footfalls';

const LENGTH = 24;
const COUNT = LENGTH + 1 + 2 * FOOT_MARGIN;
const ORDINARY = { speed: 0.1, acceleration: 0.02, pop: 0.012 };

/** A foot that stands on both sides, the two places so many metres apart, turned by so much, below a hip within reach. */
const standing = (x: number, z: number, planted = 1, turn = 0): FootTracks => {
  const places = (dx: number, dy: number, dz: number): Float64Array =>
    Float64Array.from({ length: COUNT * 3 }, (_, i) => [dx, dy, dz][i % 3]!);
  return {
    from: places(0, 0.05, 0),
    to: places(x, 0.05, z),
    tipFrom: places(0, 0.02, 0.15),
    tipTo: places(x + 0.15 * Math.sin(turn), 0.02, z + 0.15 * Math.cos(turn)),
    plantedFrom: new Uint8Array(COUNT).fill(planted),
    plantedTo: new Uint8Array(COUNT).fill(planted),
    hip: places(x / 2, 0.85, z / 2),
    reach: 0.95,
  };
};

const chosen = (...feet: FootTracks[]) => chooseFootfalls(feet, LENGTH, 30, ORDINARY);

describe('footfalls of a made step', () => {
  it('leave out a foot that stays where it is, but not one that turns there', () => {
    const [still, turned] = [0.03, 1].map((turn) => chosen(standing(0, 0, 1, turn))[0]!);
    expect(still).toMatchObject({ swings: false, lift: 0 });
    expect(turned!.swings).toBe(true);
    expect(turned!.lift).toBeGreaterThan(0.02);
  });

  it('swing for 7 to 17 frames within the seam, one foot at a time where both stand', () => {
    fc.assert(
      fc.property(evenly(-0.3, 0.3), evenly(0.05, 0.3), evenly(-0.3, 0.3), (x, z, x2) => {
        const [left, right] = chosen(standing(x, z), standing(x2, -z));
        for (const foot of [left!, right!]) {
          expect(foot.swings).toBe(true);
          expect(foot.leaves).toBeGreaterThanOrEqual(0);
          expect(foot.lands).toBeLessThanOrEqual(LENGTH);
          expect(foot.lands - foot.leaves).toBeGreaterThanOrEqual(7);
          expect(foot.lands - foot.leaves).toBeLessThanOrEqual(17);
        }
        const [first, second] = left!.leaves < right!.leaves ? [left!, right!] : [right!, left!];
        // Frames strictly within both swings; each costs more than a little haste.
        expect(first.lands - second.leaves).toBeLessThanOrEqual(3);
      }),
    );
  });

  it('leave a foot alone that stands on one place on both sides, and no further', () => {
    expect(chosen(standing(0.003, 0))[0]!.swings).toBe(false);
    expect(chosen(standing(0.006, 0))[0]!.swings).toBe(true);
    expect(chosen(standing(0, 0, 0))[0]!.swings).toBe(true);
  });

  it('take longer, and rise higher, the further a foot has to go', () => {
    const [near, far] = [chosen(standing(0, 0.05))[0]!, chosen(standing(0, 0.7))[0]!];
    expect(far.lands - far.leaves).toBeGreaterThanOrEqual(near.lands - near.leaves);
    expect(near.lift).toBeCloseTo(0.025 + 0.08 * 0.05, 6);
    expect(far.lift).toBeCloseTo(0.025 + 0.08 * 0.7, 6);
    // A shuffle hardly rises.
    expect(chosen(standing(0, 0.01))[0]!.lift).toBeLessThan(0.01);
  });

  it('raise a foot only by what the clips do not', () => {
    const foot = standing(0, 0.3);
    for (const side of [foot.from, foot.to])
      for (let f = 0; f <= LENGTH; f++)
        side[(f + FOOT_MARGIN) * 3 + 1]! += 0.2 * Math.sin((Math.PI * f) / LENGTH);
    const { lift, leaves, lands } = chosen(foot)[0]!;
    const rise = (f: number): number => 0.2 * Math.sin((Math.PI * f) / LENGTH);
    const own = rise((leaves + lands) / 2) - (rise(leaves) + rise(lands)) / 2;
    expect(lift).toBeCloseTo(Math.max(0, 0.025 + 0.08 * 0.3 - own), 9);
    expect(lift).toBeLessThan(0.049);
  });

  it('keep the times that the user has set', () => {
    const [left, right] = chooseFootfalls([standing(0.1, 0.1), standing(0.1, 0.2)], LENGTH, 30, ORDINARY, [
      [3.5, 9],
      null,
    ]);
    expect(left).toMatchObject({ leaves: 3.5, lands: 9, swings: true });
    expect(right!.swings).toBe(true);
    // What lies beyond the seam lands at its end.
    const late = chooseFootfalls([standing(0.1, 0.1)], LENGTH, 30, ORDINARY, [[50, 60]])[0]!;
    expect(late.lands).toBe(LENGTH);
    expect(late.leaves).toBeLessThan(LENGTH);
  });

  it('draw a way that stands before and after, and whose speed does not jump', () => {
    const foot = standing(0.2, 0.3);
    const { leaves, lands } = chosen(foot)[0]!;
    const path = footPath(foot, chosen(foot)[0]!, LENGTH);
    const at = (f: number, k: number): number => path[(f + FOOT_MARGIN) * 3 + k]!;
    for (let f = -FOOT_MARGIN; f <= leaves; f++) expect([at(f, 0), at(f, 2)]).toEqual([0, 0]);
    for (let f = lands; f <= LENGTH + FOOT_MARGIN; f++) expect([at(f, 0), at(f, 2)]).toEqual([0.2, 0.3]);
    for (let f = -FOOT_MARGIN + 2; f < LENGTH + FOOT_MARGIN; f++) {
      const pop = [0, 1, 2].map(
        (k) => at(f, k) - at(f - 1, k) - (at(f - 1, k) - at(f - 2, k) + at(f + 1, k) - at(f, k)) / 2,
      );
      expect(Math.hypot(...pop)).toBeLessThan(0.012);
    }
  });
});
