import type { ScenePose, WorldPose } from '../clip/pose';
import { makeWorldPose, sceneToWorld } from '../clip/pose';
import { quatConjugate, quatFromAxis, quatMultiply, quatRotate } from '../math/quaternion';
import type { Leg } from '../skeleton/legs';
import { legsOf } from '../skeleton/legs';
import type { Role } from '../skeleton/roles';
import { restHeading } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import { reachWithLeg } from './reachWithLeg';

const RADIANS = Math.PI / 180;
/** How much of a lean the head gives back, so that the eyes stay nearer to the level: of common practice. */
const HEAD_BACK = 0.5;

/** Memory for setting the dials of poses, overwritten every time. */
export interface DialWork {
  readonly legs: readonly Leg[];
  readonly world: WorldPose;
  /** Where the ankles were, legs x 3. */
  readonly ankles: Float64Array;
}

export function makeDialWork(skeleton: Skeleton): DialWork {
  const legs = legsOf(skeleton);
  return { legs, world: makeWorldPose(skeleton), ankles: new Float64Array(legs.length * 3) };
}

/** The dials of one pose: degrees and metres, see `Dials`. */
export interface BodyDials {
  clearance: number;
  lean: number;
  stance: number;
  crouch: number;
}

const _turn = new Float64Array(4);
const _inverse = new Float64Array(4);
const _axis = new Float64Array(3);
const _target = new Float64Array(3);

/**
 * Sets the dials of a pose, whose root faces `heading`:
 * - *lean*: the lowest joint of the spine turns forward about the body's left, the neck half of it back,
 * - *clearance*: both upper arms turn outwards about the forward axis of what carries the shoulders,
 * - *crouch*: the hips come down, *stance*: each ankle goes to its side; two-bone legs reach for where the ankles were, the feet keep
 *   their rotations in the scene.
 *
 * @param sideHeading the heading to whose side a leg is set, radians
 */
export function dialPose(
  skeleton: Skeleton,
  dials: Readonly<BodyDials>,
  heading: number,
  sideHeading: (leg: number) => number,
  pose: ScenePose,
  { legs, world, ankles }: DialWork,
): void {
  sceneToWorld(skeleton, pose, world);
  for (let l = 0; l < legs.length; l++)
    for (let k = 0; k < 3; k++) ankles[l * 3 + k] = world.positions[legs[l]!.ankle * 3 + k]!;
  lean(skeleton, dials.lean * RADIANS, heading, pose, world);
  clear(skeleton, dials.clearance * RADIANS, pose, world);
  pose.translations[skeleton.rootBone * 3 + 1]! -= dials.crouch;
  sceneToWorld(skeleton, pose, world);
  for (let l = 0; l < legs.length; l++) {
    const leg = legs[l]!;
    setLeft(sideHeading(l));
    const out = (leg.side === 'left' ? 0.5 : -0.5) * dials.stance;
    let off = 0;
    for (let k = 0; k < 3; k++) {
      _target[k] = ankles[l * 3 + k]! + _axis[k]! * out;
      off = Math.max(off, Math.abs(world.positions[leg.ankle * 3 + k]! - _target[k]!));
    }
    if (off > 1e-9) reachWithLeg(skeleton, leg, _target, 0, world, pose);
  }
}

/** Turns a joint about an axis of the scene, by what its parent is turned by in the world pose. */
function turnInScene(
  skeleton: Skeleton,
  joint: number,
  radians: number,
  pose: ScenePose,
  world: WorldPose,
): void {
  if (joint < 0 || radians === 0) return;
  const parent = skeleton.parents[joint]!;
  quatFromAxis(_axis[0]!, _axis[1]!, _axis[2]!, radians, _turn, 0);
  if (parent >= 0 && joint !== skeleton.rootBone) {
    quatConjugate(world.rotations, parent * 4, _inverse, 0);
    quatMultiply(_inverse, 0, _turn, 0, _turn, 0);
    quatMultiply(_turn, 0, world.rotations, parent * 4, _turn, 0);
  }
  quatMultiply(_turn, 0, pose.rotations, joint * 4, pose.rotations, joint * 4);
}

/** The body's left where it faces a heading; a turn about it by a positive angle bows forward. */
function setLeft(heading: number): void {
  _axis[0] = Math.cos(heading);
  _axis[1] = 0;
  _axis[2] = -Math.sin(heading);
}

function lean(skeleton: Skeleton, radians: number, heading: number, pose: ScenePose, world: WorldPose): void {
  if (radians === 0) return;
  setLeft(heading);
  turnInScene(skeleton, jointOfRole(skeleton, 'spine'), radians, pose, world);
  sceneToWorld(skeleton, pose, world);
  const neck = jointOfRole(skeleton, 'neck');
  turnInScene(skeleton, neck >= 0 ? neck : jointOfRole(skeleton, 'head'), -radians * HEAD_BACK, pose, world);
  sceneToWorld(skeleton, pose, world);
}

function clear(skeleton: Skeleton, radians: number, pose: ScenePose, world: WorldPose): void {
  if (radians === 0) return;
  const carrier = ['upperChest', 'chest', 'spine', 'hips']
    .map((role) => jointOfRole(skeleton, role as Role))
    .find((joint) => joint >= 0);
  if (carrier === undefined) return;
  // Forward as the carrier has it at rest, turned with it.
  const facing = restHeading(skeleton);
  const inverse = quatConjugate(skeleton.rest.rotations, carrier * 4, new Float64Array(4), 0);
  const forward = Float64Array.of(Math.sin(facing), 0, Math.cos(facing));
  quatRotate(inverse, 0, forward, 0, forward, 0);
  for (const [side, sign] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    quatRotate(world.rotations, carrier * 4, forward, 0, _axis, 0);
    turnInScene(skeleton, jointOfRole(skeleton, `${side}UpperArm`), sign * radians, pose, world);
  }
}
