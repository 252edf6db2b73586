import type { Clip } from '@warper/core';
import { makePose, makeWorldPose, poseToWorld, rootTrack, samplePose } from '@warper/core';

/**
 * Small figures of a clip, seen from its left side: per figure the lines between joints, in metres. The first line of each
 * ends at the head, or at the highest joint of a body without one.
 */
export type Strip = readonly (readonly (readonly [number, number, number, number])[])[];

const FIGURES = 6;
const DRAWN =
  /^(hips|spine|chest|upperChest|neck|head|left|right)(UpperLeg|LowerLeg|Foot|Toes|UpperArm|LowerArm|Hand)?$/;

/** Draws the figures of a clip at even moments, each about its own root. */
export function clipStrip(clip: Clip): Strip {
  const { skeleton } = clip;
  const pose = makePose(skeleton);
  const world = makeWorldPose(skeleton);
  const root = rootTrack(clip);
  const drawn = skeleton.roles.some((r) => r)
    ? skeleton.roles.map((r) => r !== null && DRAWN.test(r))
    : skeleton.names.map(() => true);
  const head = skeleton.roles.indexOf('head');
  return Array.from({ length: FIGURES }, (_, i) => {
    const sample = Math.round(((clip.frames - 1) * i) / FIGURES);
    poseToWorld(skeleton, samplePose(clip, sample, pose), world);
    const heading = root[sample * 3 + 2]!;
    const along = (j: number): number =>
      (world.positions[j * 3]! - root[sample * 3]!) * Math.sin(heading) +
      (world.positions[j * 3 + 2]! - root[sample * 3 + 1]!) * Math.cos(heading);
    const lines: [number, number, number, number][] = [];
    let top = 0;
    skeleton.parents.forEach((_, j) => {
      if (!drawn[j]) return;
      let parent = skeleton.parents[j]!;
      while (parent >= 0 && !drawn[parent]) parent = skeleton.parents[parent]!;
      if (parent < 0) return;
      const line = [
        along(parent),
        world.positions[parent * 3 + 1]!,
        along(j),
        world.positions[j * 3 + 1]!,
      ] as const;
      lines.push(line.map((v) => Math.round(v * 1000) / 1000) as [number, number, number, number]);
      const last = lines.length - 1;
      if (skeleton.roles[j] === 'head' || (head < 0 && lines[last]![3] > lines[top]![3])) top = last;
    });
    return [lines[top]!, ...lines.filter((_, i) => i !== top)].filter(Boolean);
  });
}
