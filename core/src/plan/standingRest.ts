import type { RootPose } from '../clip/pose';
import { restPose, toSceneSpace } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { quatRotate } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import { toRootSpace } from './blendPoses';

/** The rest pose, standing on the floor. */
export function standingRestPose(skeleton: Skeleton): RootPose {
  const pose = toSceneSpace(skeleton, restPose(skeleton));
  const { rootBone } = skeleton;
  // Files may leave the root bone's rest place at zero, in the floor.
  pose.translations[rootBone * 3 + 1]! += Math.max(0, -lowestRest(skeleton));
  const root = rootTrack({
    id: 'rest',
    name: 'rest',
    skeleton,
    rate: 30,
    frames: 1,
    rotations: Float32Array.from(pose.rotations),
    translated: Int32Array.of(rootBone),
    translations: Float32Array.from(pose.translations.subarray(rootBone * 3, rootBone * 3 + 3)),
  });
  pose.root.set(root.subarray(0, 3));
  return toRootSpace(pose, rootBone);
}

/** Height of the lowest joint or end of a chain in the rest pose, metres. */
function lowestRest(skeleton: Skeleton): number {
  const { rotations, positions } = skeleton.rest;
  const end = new Float64Array(3);
  let lowest = Infinity;
  skeleton.names.forEach((_, j) => {
    end.set(skeleton.ends[j] ?? [0, 0, 0]);
    quatRotate(rotations, j * 4, end, 0, end, 0);
    lowest = Math.min(lowest, positions[j * 3 + 1]!, positions[j * 3 + 1]! + end[1]!);
  });
  return lowest;
}
