import type { Clip, Skeleton } from '@warper/core';
import { checkClip, makeSkeleton } from '@warper/core';
import { quatFromEuler } from '@warper/core/kernels';

/** Joints of the branching skeleton that are its legs. */
const LEGS: Readonly<Record<number, string>> = {
  1: 'leftUpperLeg',
  3: 'leftLowerLeg',
  7: 'leftFoot',
  15: 'leftToes',
  2: 'rightUpperLeg',
  5: 'rightLowerLeg',
  11: 'rightFoot',
  23: 'rightToes',
};

/** A branching skeleton with as many joints as a body with fingers has. */
export function makeRig(joints: number): Skeleton {
  const names = Array.from({ length: joints }, (_, i) => (i === 0 ? 'hips' : (LEGS[i] ?? `joint${i}`)));
  return makeSkeleton({
    names,
    parents: names.map((_, i) => (i === 0 ? -1 : Math.floor((i - 1) / 2))),
    restTranslations: names.flatMap((_, i) => (i === 0 ? [0, 1, 0] : [((i % 3) - 1) * 0.08, 0.1, 0.02])),
  });
}

/** A clip in which every joint swings and the hips travel. */
export function makeMotion(skeleton: Skeleton, frames: number, phase: number, id: string): Clip {
  const joints = skeleton.names.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 3);
  const q = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    for (let j = 0; j < joints; j++) {
      const a = 0.6 * Math.sin(f * 0.2 + j * 0.7 + phase);
      quatFromEuler(a, 0.5 * a, 0.3 * Math.cos(f * 0.1 + j), [0, 1, 2], q, 0);
      rotations.set(q, (f * joints + j) * 4);
    }
    translations.set([0.01 * f, 1 + 0.02 * Math.sin(f * 0.4), 0.04 * f], f * 3);
  }
  return checkClip({
    id,
    name: id,
    skeleton,
    rate: 30,
    frames,
    rotations,
    translated: Int32Array.of(0),
    translations,
  });
}
