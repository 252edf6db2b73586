import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { compile, defined } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { axisOf } from './axis';
import { seamInHand } from './seamInHand';
import { readStrip } from './strip';

const made = (name: string): Promise<Uint8Array> =>
  Promise.resolve(new Uint8Array(readFileSync(new URL(`../../../../../demo/made/${name}`, import.meta.url))));
const { scene, library } = await assembleCues(
  parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      { name: 'Keeper', cues: [{ clip: 'keeper-walk.glb', repeat: 2 }, { clip: 'keeper-walk-stop.glb' }] },
      { name: 'Dog', cues: [{ clip: 'dog-trot.glb' }] },
    ],
  }),
  made,
);
const plan = compile(scene, library);
const [keeper, dog] = plan.characters.map((c) => defined(c.segments[0]));
const offsets = [-8, -4, 0, 4, 8];

describe('a strip of poses', () => {
  it('shows the poses of the clip from the side, upright on the floor, and when the feet stand', () => {
    const strip = readStrip(keeper!, keeper!.start + 15, offsets, 0);
    expect(strip.figures.map((f) => [f.offset, f.sample])).toEqual(offsets.map((o) => [o, 15 + o]));
    for (const { left, others, head } of strip.figures) {
      expect(left.length).toBeLessThan(others.length);
      const ups = [...left, ...others].flat().filter((_, i) => i % 2 === 1);
      expect(Math.min(...ups)).toBeGreaterThan(-0.05);
      expect(head![1]).toBeGreaterThan(Math.max(...ups) - 0.02);
    }
    expect(strip.top).toBeGreaterThan(1.5);
    expect(strip.size).toBeCloseTo(1, 1);
    // One foot or the other stands at any moment of a walk.
    for (let f = -8; f <= 8; f++)
      expect(strip.planted.some((runs) => runs.some(([from, to]) => f >= from && f < to))).toBe(true);
  });

  it('turns with who looks: from behind, a stride is as narrow as the body', () => {
    const wide = (heading: number): number => readStrip(keeper!, keeper!.start + 15, offsets, heading).reach;
    expect(wide(Math.PI / 2)).toBeLessThan(0.75 * wide(0));
  });

  it('leaves out what the clip does not have, and is as small as the body is', () => {
    expect(readStrip(dog!, dog!.start, offsets, 0).figures.length).toBeGreaterThan(0);
    const strip = readStrip(dog!, dog!.start + 5, offsets, 0);
    expect(strip.size).toBeLessThan(0.6);
    const stop = defined(defined(plan.characters[0]).segments[1]);
    expect(readStrip(stop, stop.start, offsets, 0).figures.map((f) => f.offset)).toEqual([0, 4, 8]);
  });
});

describe('the seam in hand', () => {
  it('is the one that is selected, with both its sides', () => {
    const id = defined(defined(plan.characters[0]).segments[1]).id;
    expect(seamInHand(plan, { kind: 'seam', id })).toMatchObject({ index: 1, outgoing: { id: keeper!.id } });
    expect(seamInHand(plan, { kind: 'segment', id })).toBeNull();
    expect(seamInHand(plan, { kind: 'seam', id: keeper!.id })).toBeNull();
  });
});

describe('the axis of a chart', () => {
  it('holds all values, has round ends, and never makes noise large', () => {
    for (const values of [[0.2, 3.7], [5.9412, 5.9421], [-186, -179.5], [12], []]) {
      const [low, high] = axisOf(values, 4);
      for (const v of values) expect(v >= low && v <= high).toBe(true);
      expect(high - low).toBeGreaterThanOrEqual(4);
      expect(Number.isInteger(low * 2) && Number.isInteger(high * 2)).toBe(true);
    }
  });
});
