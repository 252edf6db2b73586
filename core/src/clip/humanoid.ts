import { missingHumanoidRoles, tPose } from '../skeleton/tPose';
import { InputError } from '../math/errors';
import type { Clip } from './clip';
import { checkClip } from './clip';
import { retargetMotion } from './retarget';

/**
 * A motion on the humanoid of its own skeleton, which stands in T-pose at rest with no joint turned (see `tPose`): what formats for
 * motion between humanoids are made of. Every joint with a role is where it was; the root bone is the hips.
 *
 * @throws InputError `no-humanoid` with the bones that are missing
 */
export function humanoidClip(clip: Clip): Clip {
  const missing = missingHumanoidRoles(clip.skeleton);
  if (missing.length > 0) {
    throw new InputError(
      'no-humanoid',
      `${clip.name} is no humanoid: it has no ${missing.slice(0, 4).join(', ')}.`,
      {
        hint: 'Map its bones first, or choose another format.',
      },
    );
  }
  const { skeleton, joints } = tPose(clip.skeleton);
  const { rotations, translations } = retargetMotion(clip, skeleton, joints);
  const { id, name, rate, frames } = clip;
  const translated = Int32Array.of(skeleton.rootBone);
  return checkClip({ id: `${id}^T`, name, skeleton, rate, frames, rotations, translated, translations });
}
