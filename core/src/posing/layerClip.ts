import type { Clip } from '../clip/clip';
import { checkClip } from '../clip/clip';
import { keyTrack, keyedRotation } from '../layers/keys';
import { InputError } from '../math/errors';
import { quatMultiply } from '../math/quaternion';
import type { LayerLane } from '../scene/lane';
import type { Skeleton } from '../skeleton/skeleton';

/**
 * The key poses of a layer as a clip of its own, from its first key to its last: the keyed joints as the layer has them (added to the
 * rest pose, where it is additive), the others at rest, so that it can be laid over other motions as one.
 *
 * @throws InputError `keys` where it has none
 */
export function layerClip({ keys, blend, name }: LayerLane, skeleton: Skeleton, rate: number): Clip {
  const tracks = Object.entries(keys).flatMap(([joint, list]) => {
    const index = skeleton.names.indexOf(joint);
    return index >= 0 && list.length > 0 ? [keyTrack(index, list)] : [];
  });
  if (tracks.length === 0) {
    throw new InputError('keys', `${name} has no key poses to make a clip of.`, {
      hint: 'Pose a joint first.',
    });
  }
  const first = Math.min(...tracks.map((t) => t.frames[0]!));
  const last = Math.max(...tracks.map((t) => t.frames.at(-1)!));
  const frames = Math.max(1, Math.round(last - first) + 1);
  const joints = skeleton.names.length;
  const root = skeleton.rootBone;
  const rest = skeleton.restRotations.slice();
  rest.set(skeleton.rest.rotations.subarray(root * 4, root * 4 + 4), root * 4);
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 3);
  const q = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    rotations.set(rest, f * joints * 4);
    translations.set(skeleton.rest.positions.subarray(root * 3, root * 3 + 3), f * 3);
    for (const track of tracks) {
      keyedRotation(track, first + f, q, 0);
      if (blend === 'additive') quatMultiply(rest, track.joint * 4, q, 0, q, 0);
      rotations.set(q, (f * joints + track.joint) * 4);
    }
  }
  return checkClip({
    id: `layer ${name}`,
    name,
    skeleton,
    rate,
    frames,
    rotations,
    translated: Int32Array.of(root),
    translations,
  });
}
