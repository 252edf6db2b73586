import { describe, expect, it } from '@jest/globals';
import { compile } from '../compile/compile';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, seamOf, segmentOf } from '../testing/scenes';
import { seamTraces } from './seamTraces';

/** Walks a metre a second and turns by so many degrees a frame. */
const walk = (id: string, turn: number) =>
  figureClip(
    90,
    (f) => ({
      x: 0,
      y: 0.93,
      z: f / 30,
      turn: (turn * f * Math.PI) / 180,
      joints: strideJoints((2 * Math.PI * f) / 30),
    }),
    { id },
  );
const [straight, bent] = [walk('straight', 0), walk('bent', 3)];
const library = libraryOf(straight, bent);
const scene = sceneOf([
  segmentOf(straight, { id: 'a', out: 60 }),
  segmentOf(bent, { id: 'b', start: 50, seam: seamOf({ fit: 'whole body' }) }),
]);
const plan = compile(scene, library).characters[0]!;
const hips = plan.skeleton.rootBone;
const traces = seamTraces(plan, 0, 30, hips, 12);
const { outgoing, incoming, result } = traces;

describe('the traces of a seam', () => {
  it('go over the seam and as many frames around it as are asked for', () => {
    expect([traces.from, traces.frames]).toEqual([38, 34]);
    expect(traces.feet).toHaveLength(result.heights.length);
    for (const trace of [outgoing, incoming, result])
      for (const row of [trace.speed, trace.heading, ...trace.heights]) expect(row).toHaveLength(34);
  });

  it('are the outgoing motion before it and the incoming one after it', () => {
    for (const [side, from, to] of [
      [outgoing, 0, 12],
      [incoming, 23, 34],
    ] as const)
      for (const read of [(t: typeof result) => t.heading, (t: typeof result) => t.heights[0]!])
        for (let f = from; f < to; f++) expect(read(result)[f]).toBeCloseTo(read(side)[f]!, 6);
    for (let f = 24; f < 34; f++) expect(result.speed[f]).toBeCloseTo(incoming.speed[f]!, 6);
  });

  it('say how fast, which way and how high: metres a second, degrees, centimetres', () => {
    for (let f = 0; f < 12; f++) {
      expect(result.speed[f]).toBeCloseTo(1, 5);
      expect(outgoing.heading[f]).toBeCloseTo(0, 6);
    }
    for (let f = 26; f < 34; f++) expect(result.heading[f]! - result.heading[f - 1]!).toBeCloseTo(3, 4);
    for (const row of result.heights) expect(Math.min(...row)).toBeGreaterThan(-5);
    expect(Math.max(...result.heights.flatMap((row) => [...row]))).toBeGreaterThan(5);
  });

  it('have nothing where a source has no motion, and turn on past half a turn', () => {
    // The outgoing clip has thirty frames behind what is used of it; the incoming one begins where it is used from.
    expect(outgoing.heights[0]!.some(Number.isNaN)).toBe(false);
    expect(Array.from(incoming.heights[0]!.subarray(0, 12)).every(Number.isNaN)).toBe(true);
    const long = sceneOf([
      segmentOf(straight, { id: 'a' }),
      segmentOf(bent, { id: 'b', start: 80, seam: seamOf({ fit: 'whole body' }) }),
    ]);
    const { result: turned } = seamTraces(compile(long, library).characters[0]!, 0, 30, hips, 88);
    for (let f = 1; f < turned.heading.length; f++)
      expect(Math.abs(turned.heading[f]! - turned.heading[f - 1]!)).toBeLessThan(20);
    expect(Math.max(...turned.heading)).toBeGreaterThan(200);
  });
});
