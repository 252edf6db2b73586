import type { Clip, Skeleton } from '@warper/core';
import { checkClip } from '@warper/core';
import type { Build } from './build';
import { JOINT_NAMES } from './build';
import { poseBody } from './pose';
import type { Take } from './takes';

/** A take as a clip of the core, with the worst reach of its legs (over 1 means a leg was too short). */
export function toClip(take: Take, b: Build, skeleton: Skeleton): { clip: Clip; reach: number } {
  const frames = Math.round((take.to - take.from) * take.rate) + 1;
  const joints = JOINT_NAMES.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 3);
  let reach = 0;
  const start = take.stance(take.from).pelvis;
  const speed = (take.stance(take.to).pelvis[2] - start[2]) / (take.to - take.from);
  for (let f = 0; f < frames; f++) {
    const t = take.from + f / take.rate;
    const posed = poseBody(b, take.stance(t));
    rotations.set(posed.rotations, f * joints * 4);
    translations.set(posed.hips, f * 3);
    if (take.inPlace) translations[f * 3 + 2] = posed.hips[2] - start[2] - (speed * f) / take.rate;
    reach = Math.max(reach, posed.reach);
  }
  const clip = checkClip({
    id: `made:${take.name}`,
    name: take.name,
    skeleton,
    rate: take.rate,
    frames,
    rotations,
    translated: Int32Array.of(skeleton.rootBone),
    translations,
  });
  return { clip, reach };
}
