import { describe, expect, it } from '@jest/globals';
import { InputError } from '../math/errors';
import { figureClip, strideJoints } from '../testing/figure';
import { checkClip } from '../clip/clip';
import { clipFacts } from './facts';

describe('facts of a clip', () => {
  it('are its length, travel, turn and loop', () => {
    const clip = figureClip(
      61,
      (f) => ({
        x: 0.01 * f,
        z: 0.02 * f,
        turn: (f / 60) * 1.5,
        joints: strideJoints((2 * Math.PI * f) / 30),
      }),
      { rate: 60 },
    );
    const facts = clipFacts(clip);
    expect(facts).toMatchObject({ frames: 61, rate: 60, seconds: 1, restPose: false });
    expect(facts.travelMetres).toBeCloseTo(Math.hypot(0.6, 1.2), 5);
    expect(facts.turnDegrees).toBeCloseTo((1.5 * 180) / Math.PI, 1);
  });

  it('are its speed, along its way and by its cycles', () => {
    const walk = figureClip(31, (f) => ({
      x: 0.05 * Math.sin((2 * Math.PI * f) / 30),
      z: 0.04 * f,
      turn: 0,
      joints: strideJoints((2 * Math.PI * f) / 30),
    }));
    const facts = clipFacts(walk);
    expect(facts.strideSpeed).toBeCloseTo(1.2, 3);
    // Sway makes the way longer than the travel.
    expect(facts.meanSpeed).toBeGreaterThan(1.21);
    expect(facts.loop.gapDegrees).toBeLessThan(0.1);
    expect(facts.jumps).toEqual([]);
  });

  it('say where the root jumps, but not that it runs', () => {
    const jumping = figureClip(60, (f) => ({ x: 0, z: 0.02 * f + (f >= 33 ? 0.5 : 0), turn: 0 }));
    expect(clipFacts(jumping).jumps).toEqual([{ sample: 33, metres: expect.closeTo(0.52, 5) }]);
    const running = figureClip(60, (f) => ({ x: 0, z: 0.25 * f, turn: 0 }));
    expect(clipFacts(running).jumps).toEqual([]);
    const leaping = figureClip(60, (f) => ({ x: 0, z: 0.003 * f * f, turn: 0 }));
    expect(clipFacts(leaping).jumps).toEqual([]);
  });

  it('say that one sample is a rest pose', () => {
    expect(clipFacts(figureClip(1, () => ({ x: 0, z: 0, turn: 0 })))).toMatchObject({
      restPose: true,
      seconds: 0,
      travelMetres: 0,
    });
  });

  it.each([0, 0.1, -0.06])('measure that the body stands %f m over the floor', (height) => {
    const clip = figureClip(30, () => ({ x: 0, y: 0.95 + height, z: 0, turn: 0 }));
    // The rest pose's toes are 2 cm over its floor, and so they are in the clip.
    expect(clipFacts(clip).floatCm).toBeCloseTo(height * 100, 3);
  });
});

describe('a clip', () => {
  const clip = figureClip(5, () => ({ x: 0, z: 0, turn: 0 }));
  it('of another size than it says is refused', () => {
    expect(() => checkClip({ ...clip, frames: 6 })).toThrow(InputError);
    expect(() => checkClip({ ...clip, rate: 0 })).toThrow(InputError);
    expect(() => checkClip({ ...clip, translated: Int32Array.of(3) })).toThrow(InputError);
  });

  it('with a number that is none names bone and sample', () => {
    const rotations = clip.rotations.slice();
    rotations[(2 * 16 + 5) * 4 + 1] = NaN;
    try {
      checkClip({ ...clip, rotations });
      throw new Error('it was accepted');
    } catch (error) {
      expect(error).toBeInstanceOf(InputError);
      expect((error as InputError).place).toEqual({ bone: clip.skeleton.names[5], frame: 2 });
    }
  });
});
