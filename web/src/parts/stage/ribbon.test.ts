import { describe, expect, it } from '@jest/globals';
import { BufferGeometry, CircleGeometry } from 'three';
import { layered, ribbon } from './ribbon';

describe('the ribbon of a floor path', () => {
  it('is as wide as asked, and leaves out standing still', () => {
    const path = Float64Array.of(0, 0, 0, 0, 0, 0.001, 0, 1, 0, 2, 0, 2);
    const position = ribbon(path, 0.2, 0.01).getAttribute('position');
    expect(position.count).toBe(6);
    for (let i = 0; i < position.count; i += 2) {
      expect(
        Math.hypot(position.getX(i) - position.getX(i + 1), position.getZ(i) - position.getZ(i + 1)),
      ).toBeCloseTo(0.2, 6);
      expect(position.getY(i)).toBeCloseTo(0.01, 6);
    }
  });

  it('is empty for nobody', () => {
    expect(ribbon(new Float64Array(0), 0.2, 0).getAttribute('position').count).toBe(0);
  });
});

describe('shapes drawn at once', () => {
  const path = Float64Array.of(0, 0, 0, 1, 0, 2);

  it('are all there, the first at the bottom, each let through as much as asked', () => {
    const shapes = [0.14, 0.75].map((opacity, i) => ({
      shape: ribbon(path, 0.2 - i * 0.1, i * 0.01),
      opacity,
    }));
    const one = layered(shapes);
    const colour = one.getAttribute('color');
    expect(one.getAttribute('position').count).toBe(12);
    expect(one.getIndex()!.count).toBe(24);
    expect(colour.itemSize).toBe(4);
    expect([colour.getW(0), colour.getW(6)]).toEqual([Math.fround(0.14), Math.fround(0.75)]);
    expect(one.getIndex()!.getX(0)).toBeLessThan(6);
    expect(one.getIndex()!.getX(23)).toBeGreaterThanOrEqual(6);
  });

  it("may be any of three's own flat shapes", () => {
    const one = layered([
      { shape: ribbon(path, 0.2, 0), opacity: 0.5 },
      { shape: new CircleGeometry(1, 24), opacity: 1 },
    ]);
    expect(one.getAttribute('position').count).toBe(6 + 26);
    expect(Object.keys(one.attributes).sort()).toEqual(['color', 'position']);
  });

  it('are nothing where all of them are', () => {
    const nothing = layered([{ shape: ribbon(new Float64Array(0), 0.2, 0), opacity: 1 }]);
    expect(nothing).toBeInstanceOf(BufferGeometry);
    expect(nothing.getAttribute('position').count).toBe(0);
  });
});
