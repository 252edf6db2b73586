import { tipBeside } from '../steps/steps';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import type { Window } from './window';

/**
 * The longest floor path, in metres, of a planted joint within a seam: up to its middle the outgoing side says which
 * joints are planted, from there on the incoming one. Toes come before the ankle, which may roll over them.
 *
 * @param played the performance from frame `from` on, of the given joints
 * @param length frames of the seam
 */
export function seamSlide(
  plan: CharacterPlan,
  index: number,
  played: Window,
  joints: readonly number[],
  from: number,
  length: number,
): number {
  const before = plan.segments[index]!;
  const after = plan.segments[index + 1]!;
  const middle = after.overlap > 0 ? after.start + after.overlap / 2 : after.start;
  const side = (frame: number): SegmentPlan => (frame < middle ? before : after);
  let most = 0;
  const steps = after.steps().joints;
  for (const legJoints of steps) {
    const { joint } = legJoints;
    const column = joints.indexOf(joint);
    if (column < 0) continue;
    const toes = tipBeside(steps, legJoints);
    let path = 0;
    for (let frame = after.start; frame <= after.start + length; frame++) {
      const segment = side(frame);
      const stands =
        segment === side(frame - 1) &&
        planted(segment, joint, frame) &&
        planted(segment, joint, frame - 1) &&
        !(toes && planted(segment, toes.joint, frame) && planted(segment, toes.joint, frame - 1));
      path = stands ? path + floorStep(played, frame - from, column, joints.length) : 0;
      most = Math.max(most, path);
    }
  }
  return most;
}

const planted = (segment: SegmentPlan, joint: number, frame: number): boolean =>
  segment.travel !== 'in place' && isPlanted(segment, joint, frame);

function floorStep({ places }: Window, f: number, column: number, columns: number): number {
  const a = ((f - 1) * columns + column) * 3;
  const b = (f * columns + column) * 3;
  return Math.hypot(places[b]! - places[a]!, places[b + 2]! - places[a + 2]!);
}
