import { describe, expect, it } from '@jest/globals';
import validator from 'gltf-validator';
import type { PropShape } from '@warper/core';
import { PROP_SHAPES, treadsOf } from '@warper/core';
import { readMotionFile } from '../read';
import { propFile } from './propFile';
import { PROPS } from './shapes';

const made = PROP_SHAPES.filter((s): s is Exclude<PropShape, 'own file'> => s !== 'own file');

describe('the bodies of props', () => {
  it.each(made)(
    'of a %s are valid glTF, of their size, the same at every time, and read back',
    async (shape) => {
      const { size, colour } = PROPS[shape];
      const bytes = await propFile({ shape, size, colour });
      expect(await propFile({ shape, size, colour })).toEqual(bytes);
      // The Khronos validator.
      const { issues } = await validator.validateBytes(bytes);
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
      const { bodies, clips, remarks } = await readMotionFile(bytes, 'prop.glb');
      expect([bodies.length, clips, remarks]).toEqual([1, [], []]);
      const [body] = bodies;
      expect(body!.skinned).toBe(true);
      expect(body!.skeleton.rootBone).toBe(0);
      // A handle is no hand.
      expect(body!.skeleton.roles.filter(Boolean)).toEqual([]);
      const { names } = body!.skeleton;
      expect(names).toEqual(PROPS[shape].parts(size).joints.map((j) => j.name));
      // BVH parts names by blanks.
      expect(names.filter((name) => /\s/.test(name))).toEqual([]);
    },
  );

  it('grow with their size', async () => {
    const large = await readMotionFile(
      await propFile({ shape: 'bench', size: [2, 0.6, 0.5], colour: '#112233' }),
      'bench.glb',
    );
    const { names, rest } = large.bodies[0]!.skeleton;
    expect(rest.positions[names.indexOf('seat') * 3 + 1]).toBeCloseTo(0.6, 6);
  });

  it.each([
    [{ shape: 'own file' as const, size: [1, 1, 1] as const, colour: '#000000' }, /own/],
    [{ shape: 'box' as const, size: [0, 1, 1] as const, colour: '#000000' }, /size/],
    [{ shape: 'box' as const, size: [1, 1, 1] as const, colour: 'brown' }, /colour/],
  ])('are refused for %j', async (look, message) => {
    await expect(propFile(look)).rejects.toThrow(message);
  });
});

describe('the treads of props', () => {
  it.each(made)('of a %s are the tops of what is drawn there', (shape) => {
    const { size, colour, parts } = PROPS[shape];
    for (const { x, z, height } of treadsOf({ shape, size, colour, raised: 0 })) {
      const [middle, depth] = [(x[0] + x[1]) / 2, (z[0] + z[1]) / 2];
      const tops = parts(size).solids.flatMap(({ form, at, turned }) => {
        if (turned) return [];
        if ('cylinder' in form) return [at[1] + form.cylinder[1] / 2];
        if (!('box' in form)) return [];
        const isOver =
          Math.abs(middle - at[0]) < form.box[0] / 2 && Math.abs(depth - at[2]) < form.box[2] / 2;
        return isOver ? [at[1] + form.box[1] / 2] : [];
      });
      expect(height).toBeCloseTo(Math.max(...tops), 9);
    }
  });
});
