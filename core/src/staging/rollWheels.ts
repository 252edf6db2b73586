import type { Pose, PoseBuffer } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { quatMultiply } from '../math/quaternion';
import { derivation } from '../memory/memory';
import type { CharacterPlan } from '../plan/plan';
import type { Wheel } from '../scene/wheels';
import type { ReadHeld } from './holderPose';

/** Frames between two places of a way that wheels roll along, a straight line from one to the next. */
const STRIDE = 5;

/** How far the wheels of a performance have rolled; grows as later frames are asked for. */
interface Rolled {
  /** x, z and heading of the root at the start of the performance and every so many frames behind it. */
  readonly roots: number[];
  /** How far each wheel has turned there, radians. */
  readonly angles: number[];
}

const rolledSoFar = derivation('rolled wheels', 64, (_, plan: CharacterPlan): Rolled => ({
  roots: [],
  angles: plan.wheels.map(() => 0),
}));

/**
 * Follows the way of a performance with wheels up to a frame.
 *
 * @param read reads the performance with its wheels at rest
 * @param out memory for it, overwritten
 */
export function followWheels(plan: CharacterPlan, frame: number, read: ReadHeld, out: PoseBuffer): void {
  const { wheels } = plan;
  const { roots, angles } = plan.memory.recall(rolledSoFar, plan);
  const last = strideOf(plan, frame);
  while (roots.length <= last * 3) {
    const next = roots.length / 3;
    const { root } = read(plan, plan.start + next * STRIDE, out);
    if (next > 0)
      for (const wheel of wheels)
        angles.push(angles.at(-wheels.length)! + rolled(wheel, roots, roots.length - 3, root));
    roots.push(root[0]!, root[1]!, root[2]!);
  }
}

/**
 * Turns the wheels of a pose, in its own memory, by how far they have come since the start of the performance without slipping: an angle is the
 * way of a hub along where the body heads, by the radius. `followWheels` has to have come that far.
 */
export function turnWheels(plan: CharacterPlan, frame: number, pose: Pose): Pose {
  const { wheels, skeleton } = plan;
  const { roots, angles } = plan.memory.recall(rolledSoFar, plan);
  const last = strideOf(plan, frame);
  wheels.forEach((wheel, i) => {
    const angle = angles[last * wheels.length + i]! + rolled(wheel, roots, last * 3, pose.root);
    _roll[0] = Math.sin(angle / 2);
    _roll[3] = Math.cos(angle / 2);
    quatMultiply(skeleton.restRotations, wheel.joint * 4, _roll, 0, pose.rotations, wheel.joint * 4);
  });
  return pose;
}

const strideOf = (plan: CharacterPlan, frame: number): number =>
  Math.max(0, Math.floor((frame - plan.start) / STRIDE));

const _roll = new Float64Array(4);

/** By how much a wheel turns while its body goes from one root to another, radians. */
function rolled({ radius, x, z }: Wheel, from: readonly number[], o: number, to: Pose['root']): number {
  const heading = from[o + 2]!;
  const turned = shortestTurn(to[2]! - heading);
  const middle = heading + turned / 2;
  const [s0, c0, s1, c1] = [
    Math.sin(heading),
    Math.cos(heading),
    Math.sin(heading + turned),
    Math.cos(heading + turned),
  ];
  const dx = to[0]! - from[o]! + x * (c1 - c0) + z * (s1 - s0);
  const dz = to[1]! - from[o + 1]! - x * (s1 - s0) + z * (c1 - c0);
  return (dx * Math.sin(middle) + dz * Math.cos(middle)) / radius;
}
