import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { defined } from '@warper/core';
import { clipPreview, readMotionFile } from '@warper/formats';
import { floorWay } from './FloorPath';

const way = async (file: string) => {
  const { clips } = await readMotionFile(new Uint8Array(readFileSync(`demo/made/${file}`)), file);
  return floorWay(clipPreview(defined(clips[0])), 46);
};

describe('the way of a clip over the floor', () => {
  it('goes up for a walk, and ends facing as it began', async () => {
    const walk = defined(await way('keeper-walk.glb'));
    expect(walk.start[1] - walk.end[1]).toBeGreaterThan(25);
    expect(Math.abs(walk.end[0] - walk.start[0])).toBeLessThan(2);
    expect(Math.abs(walk.turned)).toBeLessThan(3);
  });

  it('is none for a clip that stays, and stays within its square', async () => {
    expect(await way('keeper-idle.glb')).toBeNull();
    expect(floorWay({}, 46)).toBeNull();
    for (const [x, y] of [
      defined(await way('keeper-walk.glb')).start,
      defined(await way('keeper-walk.glb')).end,
    ]) {
      expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
      expect(Math.max(x, y)).toBeLessThanOrEqual(46);
    }
  });

  it('turns left for a turn to the left, anticlockwise from above', () => {
    // A quarter turn to the left on the spot, then a metre the way it faces: to the left of the picture.
    const turned = defined(floorWay({ floor: [0, 0, 0, 0, 0, 1571, 1000, 0, 1571] }, 46));
    expect(turned.turned).toBeCloseTo(-90, 1);
    expect(turned.end[0]).toBeLessThan(turned.start[0]);
  });

  // The root faces as the hips do, which still swing where a clip ends.
  it('tells turns of the demonstration apart by their names', async () => {
    for (const degrees of [45, 90, 135, 180])
      expect(Math.abs(defined(await way(`keeper-turn-left-${degrees}.glb`)).turned + degrees)).toBeLessThan(
        12,
      );
  });
});
