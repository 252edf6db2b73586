import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readMotionFile } from '@warper/formats';
import { clipStrip } from './strip';

const bytes = new Uint8Array(readFileSync(new URL('../../../demo/made/keeper-walk.glb', import.meta.url)));
const { clips } = await readMotionFile(bytes, 'keeper-walk.glb');

describe('the small figures of a clip', () => {
  it('are six, upright on the floor, each about its own root', () => {
    const strip = clipStrip(clips[0]!);
    expect(strip).toHaveLength(6);
    for (const figure of strip) {
      const heights = figure.flatMap(([, a, , b]) => [a, b]);
      const across = figure.flatMap(([a, , b]) => [a, b]);
      expect(Math.min(...heights)).toBeGreaterThan(-0.01);
      expect(Math.max(...heights)).toBeGreaterThan(1.4);
      expect(Math.max(...across.map(Math.abs))).toBeLessThan(0.9);
    }
  });

  it('begin with the line that ends at the head', () => {
    const { skeleton } = clips[0]!;
    expect(skeleton.roles).toContain('head');
    for (const [first] of clipStrip(clips[0]!)) {
      expect(first![3]).toBeGreaterThan(1.45);
      expect(Math.abs(first![2])).toBeLessThan(0.2);
    }
  });

  it('differ from one another, as a stride does', () => {
    const [a, b] = clipStrip(clips[0]!);
    expect(a).not.toEqual(b);
  });
});
