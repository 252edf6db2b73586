import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { tipBeside } from '../steps/steps';
import type { Window } from './window';

/** How far a planted joint goes over the floor within a seam, metres. */
export interface SeamSlide {
  /** Beyond what the sources' own joint goes in the same frames. */
  readonly beyond: number;
  /** Its whole way. */
  readonly path: number;
}

/**
 * The slide of the joint that slides most, over its whole path while it stands: up to the middle of a crossfade the outgoing side
 * says which joints are planted, from there on the incoming one; of a made step each foot stands until it leaves and from when it
 * lands. Toes come before the ankle, which may roll over them.
 *
 * @param played the performance from frame `from` on, of the given joints
 * @param windows both sources over the same frames
 * @param length frames of the seam
 */
export function seamSlide(
  plan: CharacterPlan,
  index: number,
  played: Window,
  windows: readonly Window[],
  joints: readonly number[],
  from: number,
  length: number,
): SeamSlide {
  const sides = [plan.segments[index]!, plan.segments[index + 1]!] as const;
  const after = sides[1];
  const most = { beyond: 0, path: 0 };
  const steps = after.steps().joints;
  for (const legJoints of steps) {
    const { joint } = legJoints;
    const column = joints.indexOf(joint);
    if (column < 0) continue;
    const toes = tipBeside(steps, legJoints);
    const ruling = ruleOf(sides, legJoints.leg);
    let [path, own] = [0, 0];
    for (let frame = after.start; frame <= after.start + length; frame++) {
      const [current, last] = [ruling(frame), ruling(frame - 1)];
      const stands =
        current !== null &&
        last !== null &&
        planted(current, joint, frame) &&
        planted(last, joint, frame - 1) &&
        !(toes && planted(current, toes.joint, frame) && planted(last, toes.joint, frame - 1));
      if (!stands) [path, own] = [0, 0];
      else {
        path += floorStep(played, frame - from, column, joints.length);
        own += windows.reduce((least, w, side) => {
          const rests = planted(sides[side]!, joint, frame) && planted(sides[side]!, joint, frame - 1);
          const step = rests ? floorStep(w, frame - from, column, joints.length) : 0;
          return step > least ? step : least;
        }, 0);
      }
      most.beyond = Math.max(most.beyond, path - own);
      most.path = Math.max(most.path, path);
    }
  }
  return most;
}

/** Which side's steps a leg follows at a frame; none while its foot is on its way in a made step. */
function ruleOf(
  [before, after]: readonly [SegmentPlan, SegmentPlan],
  leg: number,
): (frame: number) => SegmentPlan | null {
  const footfall = after.madeStep?.feet[leg];
  if (footfall?.swings) {
    const [leaves, lands] = [after.start + footfall.leaves, after.start + footfall.lands];
    return (frame) => (frame <= leaves ? before : frame >= lands ? after : null);
  }
  const middle = after.overlap > 0 ? after.start + after.overlap / 2 : after.start;
  return (frame) => (frame < middle ? before : after);
}

const planted = (segment: SegmentPlan, joint: number, frame: number): boolean =>
  segment.travel !== 'in place' && isPlanted(segment, joint, frame);

function floorStep({ places }: Window, f: number, column: number, columns: number): number {
  const a = ((f - 1) * columns + column) * 3;
  const b = (f * columns + column) * 3;
  return Math.hypot(places[b]! - places[a]!, places[b + 2]! - places[a + 2]!);
}
