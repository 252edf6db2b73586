import { describe, expect, it } from '@jest/globals';
import { defined } from '../math/defined';
import { checkClip } from '../clip/clip';
import { figureSkeleton } from '../testing/figure';
import { makeMask } from './mask';
import { movedJoints, partMask } from './partMask';

const skeleton = figureSkeleton();

/** A clip of ten samples in the rest pose, with some joints turned by a degree in its last one. */
function clipMoving(joints: readonly string[], rise = 0) {
  const frames = 10;
  const count = skeleton.names.length;
  const rotations = new Float32Array(frames * count * 4);
  for (let f = 0; f < frames; f++)
    for (let j = 0; j < count; j++) {
      const rest = j === skeleton.rootBone ? skeleton.rest.rotations : skeleton.restRotations;
      rotations.set(rest.subarray(j * 4, j * 4 + 4), (f * count + j) * 4);
    }
  for (const name of joints) {
    const j = skeleton.names.indexOf(name);
    rotations.set([Math.sin(Math.PI / 360), 0, 0, Math.cos(Math.PI / 360)], ((frames - 1) * count + j) * 4);
  }
  const hips = [...skeleton.rest.positions.slice(skeleton.rootBone * 3, skeleton.rootBone * 3 + 3)];
  const translations = Float32Array.from({ length: frames * 3 }, (_, i) => hips[i % 3]!);
  translations[frames * 3 - 2]! += rise;
  return checkClip({
    id: 'part',
    name: 'Part',
    skeleton,
    rate: 30,
    frames,
    rotations,
    translated: Int32Array.of(skeleton.rootBone),
    translations,
  });
}

describe('the part of a body that a clip moves', () => {
  const arm = skeleton.names.filter((n) => /^right(Shoulder|UpperArm|LowerArm|Hand)/i.test(n));

  it('is named by whole chains where all of one move', () => {
    const mask = partMask(clipMoving(arm));
    expect(mask).toEqual([{ bone: `${defined(arm[0])}*`, weight: 1 }]);
  });

  it('is named joint by joint where a chain moves in part', () => {
    const mask = partMask(clipMoving([defined(arm[0])]));
    expect(mask).toEqual([{ bone: arm[0], weight: 1 }]);
  });

  it('covers the very joints that leave the rest pose', () => {
    for (const names of [arm, ['head'], ['leftLowerArm', 'rightLowerArm'], ['spine', 'leftLowerArm']]) {
      const moved = movedJoints(clipMoving(names));
      const covered = makeMask(skeleton, partMask(clipMoving(names)), 0).joints;
      expect([...covered]).toEqual([...moved.keys()].filter((j) => moved[j]));
      expect([...covered].map((j) => skeleton.names[j]).sort()).toEqual(
        names.filter((n) => skeleton.names.includes(n)).sort(),
      );
    }
  });

  it('is the whole body where the root bone moves, by a millimetre too', () => {
    expect(partMask(clipMoving(['hips', 'head']))).toEqual([]);
    expect(partMask(clipMoving(['head'], 1e-3))).toEqual([]);
    expect(partMask(clipMoving(['head'], 1e-5))).not.toEqual([]);
  });
});
