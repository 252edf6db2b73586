import type { Clip } from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import type { Remark } from '../imported';

/** The first step must be this many times the second to be a jump out of a reference pose. */
const JUMP = 8;
/** ... and turn the joints by this much on average (radians). */
const LEAST_TURN = 0.03;

/** Recognises a first frame that shows the skeleton's reference pose and is no part of the motion. */
export function findReferenceFrame(clip: Clip): Remark | null {
  if (clip.frames < 4) return null;
  const joints = clip.skeleton.names.length;
  const turn = (a: number, b: number): number => {
    let sum = 0;
    for (let j = 0; j < joints; j++)
      sum += quatAngle(clip.rotations, (a * joints + j) * 4, clip.rotations, (b * joints + j) * 4);
    return sum / joints;
  };
  const first = turn(0, 1);
  if (first < LEAST_TURN || first < JUMP * Math.max(turn(1, 2), turn(2, 3))) return null;
  return {
    code: 'reference-frame',
    message: 'The first sample is a reference pose and no part of the motion: begin at sample 1.',
  };
}
