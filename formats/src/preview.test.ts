import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readMotionFile } from './read';
import { clipPreview, previewHeight, tellingFigure } from './preview';

const read = async (name: string) =>
  (
    await readMotionFile(
      new Uint8Array(readFileSync(new URL(`../../demo/made/${name}`, import.meta.url))),
      name,
    )
  ).clips[0]!;
const walk = await read('keeper-walk.glb');
const figure = (preview: ReturnType<typeof clipPreview>, i: number): number[] =>
  Array.from(preview.places.subarray(i * preview.lines * 4, (i + 1) * preview.lines * 4));

describe('the small figures of a clip', () => {
  const preview = clipPreview(walk);

  it('are fifteen a second, upright on the floor, each about its own root', () => {
    expect(preview.figures).toBe(15);
    for (let i = 0; i < preview.figures; i++) {
      const places = figure(preview, i);
      const heights = places.filter((_, k) => k % 2 === 1);
      const across = places.filter((_, k) => k % 2 === 0);
      expect(Math.min(...heights)).toBeGreaterThan(-10);
      expect(Math.max(...heights)).toBeGreaterThan(1400);
      expect(Math.max(...across.map(Math.abs))).toBeLessThan(900);
    }
    expect(previewHeight(preview)).toBeGreaterThan(1.4);
  });

  it('begin with the line that ends at the head', () => {
    expect(walk.skeleton.roles).toContain('head');
    for (let i = 0; i < preview.figures; i++) {
      expect(figure(preview, i)[3]).toBeGreaterThan(1450);
      expect(Math.abs(figure(preview, i)[2]!)).toBeLessThan(200);
    }
  });

  it('differ from one another, as a stride does; four legs are drawn as well', async () => {
    expect(figure(preview, 0)).not.toEqual(figure(preview, 4));
    const dog = clipPreview(await read('dog-trot.glb'));
    expect(dog.lines).toBeGreaterThan(12);
    expect(previewHeight(dog)).toBeLessThan(1);
  });

  it('say which tells most of a clip: sitting of one who sits down, not standing', async () => {
    const preview = clipPreview(await read('visitor-sit-down.glb'));
    const head = (i: number): number => figure(preview, i)[3]!;
    const telling = tellingFigure(preview);
    expect(head(telling)).toBeLessThan((head(0) + head(preview.figures - 1)) / 2);
  });

  it('say where the root goes, about where it begins', () => {
    const { floor } = preview;
    expect(floor).toHaveLength((preview.figures + 1) * 3);
    expect(floor!.slice(0, 3)).toEqual([0, 0, 0]);
    expect(Math.hypot(floor!.at(-3)!, floor!.at(-2)!)).toBeCloseTo(1300, -2);
  });

  it('are one for a single pose', () => {
    expect(clipPreview({ ...walk, frames: 1, travelBone: undefined }).figures).toBe(1);
  });
});
