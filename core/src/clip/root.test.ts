import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { shortestTurn } from '../math/floorMove';
import { figureClip, strideJoints } from '../testing/figure';
import { rawHeadings, rootTrack } from './root';
import { evenly } from '../testing/evenly';

const degrees = (radians: number): number => (shortestTurn(radians) * 180) / Math.PI;

describe('root and heading', () => {
  it('finds the heading of an upright body, whichever way it faces', () => {
    fc.assert(
      fc.property(evenly(-3.14, 3.14), (turn) => {
        const clip = figureClip(5, () => ({ x: 1, z: 2, turn, joints: strideJoints(1) }));
        rawHeadings(clip).forEach((h) => expect(Math.abs(degrees(h - turn))).toBeLessThan(1e-3));
        expect(rootTrack(clip)[0]).toBeCloseTo(1, 6);
        expect(rootTrack(clip)[1]).toBeCloseTo(2, 6);
      }),
      { numRuns: 30 },
    );
  });

  it('counts on through several turns', () => {
    const clip = figureClip(200, (f) => ({ x: 0, z: 0, turn: (f / 199) * 6 * Math.PI }));
    const track = rootTrack(clip);
    expect(track[199 * 3 + 2]! - track[2]!).toBeCloseTo(6 * Math.PI, 3);
  });

  it('leaves a steady turn as it is, to the ends', () => {
    const clip = figureClip(40, (f) => ({ x: 0, z: 0, turn: 0.05 * f }));
    const track = rootTrack(clip);
    for (let f = 0; f < 40; f++) expect(Math.abs(degrees(track[f * 3 + 2]! - 0.05 * f))).toBeLessThan(1e-2);
  });

  it('keeps the heading while the body tumbles forwards', () => {
    const clip = figureClip(60, (f) => ({
      x: 0,
      z: 0.05 * f,
      turn: 0.6,
      joints: { hips: [(f / 59) * 2 * Math.PI, 0, 0] },
    }));
    rawHeadings(clip).forEach((h) => expect(Math.abs(degrees(h - 0.6))).toBeLessThan(1));
  });

  it('never flips while the body rolls over its side', () => {
    const clip = figureClip(90, (f) => ({
      x: 0,
      z: 0,
      turn: 0.3,
      joints: { hips: [0, 0, (f / 89) * 2 * Math.PI] },
    }));
    rawHeadings(clip).forEach((h) => expect(Math.abs(degrees(h - 0.3))).toBeLessThan(1));
  });

  it('follows a cartwheel that turns a quarter, and faces where the body stands again', () => {
    const clip = figureClip(90, (f) => ({
      x: 0,
      z: 0,
      turn: 0.3 + (f / 89) * (Math.PI / 2),
      joints: { hips: [0, 0, (f / 89) * 2 * Math.PI] },
    }));
    const h = rawHeadings(clip);
    expect(degrees(h[89]! - h[0]!)).toBeCloseTo(90, 1);
    for (let f = 1; f < 90; f++) expect(Math.abs(degrees(h[f]! - h[f - 1]!))).toBeLessThan(10);
  });

  it('turns about evenly where a body goes over sideways and comes up forwards', () => {
    const half = Math.PI;
    const clip = figureClip(90, (f) => ({
      x: 0,
      z: 0,
      turn: 0,
      joints: { hips: f < 45 ? [0, 0, (f / 45) * half] : [((f - 45) / 44) * half, 0, half] },
    }));
    const h = rawHeadings(clip);
    expect(Math.abs(degrees(h[89]! - h[0]!))).toBeCloseTo(180, 1);
    for (let f = 1; f < 90; f++) expect(Math.abs(degrees(h[f]! - h[f - 1]!))).toBeLessThan(10);
  });

  it('does not jump in slow tumbling of any kind', () => {
    const speed = evenly(-3, 3);
    fc.assert(
      fc.property(speed, speed, speed, (pitch, yaw, roll) => {
        const clip = figureClip(120, (f) => ({
          x: 0,
          z: 0,
          turn: (yaw * f) / 120,
          joints: { hips: [(pitch * f) / 120, 0, (roll * f) / 120] },
        }));
        const track = rootTrack(clip);
        for (let f = 1; f < 120; f++)
          expect(Math.abs(degrees(track[f * 3 + 2]! - track[f * 3 - 1]!))).toBeLessThan(30);
      }),
      { numRuns: 60 },
    );
  });
});
