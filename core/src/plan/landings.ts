import type { ScenePose, WorldPose } from '../clip/pose';
import { minimumJerk } from '../math/curve';
import { moveAt } from '../math/floorMove';
import { valueAt } from '../math/valueAt';
import type { Leg } from '../skeleton/legs';
import { legsInScene } from '../steps/legsInScene';
import { reachWithLeg } from '../steps/reachWithLeg';
import type { SegmentPlan } from './plan';

/** How a made step puts a foot elsewhere than its clip has it, until it next leaves the floor; nowhere where both are 0. */
export interface Landing {
  readonly leg: Leg;
  /** Metres to the left and forward of the root, as that is directed where the seam ends. */
  readonly x: number;
  readonly z: number;
  /** When the foot leaves that place, and when it stands where its clip has it; frames from the start of the segment. */
  readonly leaves: number;
  readonly returns: number;
}

/** The feet of one segment, some of which land elsewhere. */
export interface Landings {
  readonly feet: readonly Landing[];
  /** Direction of the root where the seam ends, in the clip and with the cycles before it, radians; and the frame of that. */
  readonly heading: number;
  readonly frame: number;
  /** Metres by which the hips come down at whole frames from the start of the segment. */
  readonly lowering: Float64Array;
  readonly chain: Int32Array;
  readonly world: WorldPose;
}

const _target = new Float64Array(3);
const _route = new Float64Array(3);

/** Puts the feet of a placed pose where they are to land; those that land where they do by themselves stay where they are. */
export function placeLandings(
  segment: SegmentPlan,
  landings: Landings,
  frame: number,
  pose: ScenePose,
): void {
  const { skeleton } = segment.clip;
  const { rootBone } = skeleton;
  const { feet, chain, world } = landings;
  const passed = frame - segment.start;
  const drop = valueAt(landings.lowering, passed);
  if (drop === 0 && feet.every((foot) => passed >= foot.returns)) return;
  const heading = landingHeading(segment, landings);
  const [s, c] = [Math.sin(heading), Math.cos(heading)];
  legsInScene(skeleton, pose, chain, world);
  pose.translations[rootBone * 3 + 1]! -= drop;
  for (let i = 0; i < chain.length; i++) world.positions[chain[i]! * 3 + 1]! -= drop;
  for (const foot of feet) {
    const { leg, x, z } = foot;
    const w = landingShare(foot, passed);
    if (drop === 0 && w === 0) continue;
    for (let k = 0; k < 3; k++) _target[k] = world.positions[leg.ankle * 3 + k]!;
    _target[0]! += w * (x * c + z * s);
    _target[1]! += drop;
    _target[2]! += w * (z * c - x * s);
    reachWithLeg(skeleton, leg, _target, 0, world, pose);
  }
}

/** The direction in the scene from which landing places are told. */
function landingHeading(segment: SegmentPlan, { heading, frame }: Landings): number {
  const { travel, settings, held, route, move } = segment;
  const bent = route ? moveAt(route, frame, _route)[2]! : 0;
  return bent + (travel === 'in place' && settings.holdFacing ? held[2]! : heading + move[2]!);
}

/** Share of a landing's move that is made, frames after the start of the segment. */
export const landingShare = ({ leaves, returns }: Landing, passed: number): number =>
  passed <= leaves ? 1 : 1 - minimumJerk((passed - leaves) / (returns - leaves));
