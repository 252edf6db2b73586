import type { Clip } from '../clip/clip';
import type { MaskEntry } from '../scene/lane';

/** A joint that never leaves its rest pose by more does not move: 0.1 degree, and 0.1 mm. */
const STILL_RADIANS = 0.1 * (Math.PI / 180);
const STILL_METRES = 1e-4;

/** Which joints of a clip ever leave the rest pose; joints x 1, 1 or 0. */
export function movedJoints(clip: Clip): Uint8Array {
  const { skeleton, frames, rotations, translated, translations } = clip;
  const joints = skeleton.names.length;
  const moved = new Uint8Array(joints);
  const { rest, restRotations, restTranslations, rootBone } = skeleton;
  // Clips keep the root bone in scene space.
  const restOf = (local: Float64Array, whole: Float64Array, joint: number): Float64Array =>
    joint === rootBone ? whole : local;
  const least = Math.cos(STILL_RADIANS / 2);
  for (let j = 0; j < joints; j++) {
    const still = restOf(restRotations, rest.rotations, j);
    for (let f = 0; f < frames && !moved[j]; f++) {
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += rotations[(f * joints + j) * 4 + k]! * still[j * 4 + k]!;
      if (Math.abs(dot) < least) moved[j] = 1;
    }
  }
  translated.forEach((j, i) => {
    const still = restOf(restTranslations, rest.positions, j);
    for (let f = 0; f < frames && !moved[j]; f++) {
      const o = (f * translated.length + i) * 3;
      for (let k = 0; k < 3; k++)
        if (Math.abs(translations[o + k]! - still[j * 3 + k]!) > STILL_METRES) moved[j] = 1;
    }
  });
  return moved;
}

/**
 * The mask of a layer that plays a clip which moves a part of the body only, such as one hand: the chains that ever leave
 * the rest pose. Empty, which is the whole body, where the root bone moves, or nothing does.
 */
export function partMask(clip: Clip): MaskEntry[] {
  const { skeleton } = clip;
  const moved = movedJoints(clip);
  if (moved[skeleton.rootBone]) return [];
  const children: number[][] = skeleton.names.map(() => []);
  skeleton.parents.forEach((parent, j) => void children[parent]?.push(j));
  const nameOf = (j: number): string => skeleton.roles[j] ?? skeleton.names[j]!;
  const isWhole = (j: number): boolean => moved[j] === 1 && children[j]!.every(isWhole);
  const entries = (j: number): MaskEntry[] => {
    if (isWhole(j)) return [{ bone: children[j]!.length > 0 ? `${nameOf(j)}*` : nameOf(j), weight: 1 }];
    const below = children[j]!.flatMap(entries);
    return moved[j] ? [{ bone: nameOf(j), weight: 1 }, ...below] : below;
  };
  return entries(0);
}
