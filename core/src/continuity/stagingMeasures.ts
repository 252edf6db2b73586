import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatRotate } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { HoldPlan, ReachPlan } from '../plan/tethers';
import { heldWeight, takenWeight } from '../staging/tetherWeight';

/** What was measured of a tether, where it is worst. */
export interface TetherMeasure {
  readonly tether: string;
  /** The frame where it is worst. */
  readonly frame: number;
  readonly valueCm: number;
  /** Of the joint that is measured, at that frame: x, y, z, metres. */
  readonly place: readonly [number, number, number];
}

const placeOf = (p: Float64Array): TetherMeasure['place'] => [p[0]!, p[1]!, p[2]!];

/** Writes where a joint of a performance is at a frame: x, y, z, metres. */
type ReadJoint = (joint: number, frame: number) => Float64Array;

function jointReader(plan: CharacterPlan): ReadJoint {
  const buffer = makePoseBuffer(plan.skeleton);
  const world = makeWorldPose(plan.skeleton);
  return (joint, frame) => {
    const { positions } = poseToWorld(plan.skeleton, evaluate(plan, frame, buffer), world);
    return positions.slice(joint * 3, joint * 3 + 3);
  };
}

const METRES = 100;

/**
 * How far what is held jumps where a hold begins or ends: its step there beyond the larger of the steps right before and after it. That it sets
 * off as fast as the hand that takes it is no jump. Centimetres; one measure for each hold.
 */
export function measureHoldPops(plan: CharacterPlan): TetherMeasure[] {
  const holds = plan.staging?.holds ?? [];
  const read = jointReader(plan);
  return holds.map((hold): TetherMeasure => {
    let worst = { frame: hold.start, valueCm: 0 };
    for (const frame of switchFrames(hold).filter((f) => f > plan.start && f < plan.end)) {
      const valueCm = jumpAt((f) => read(hold.held, f), frame) * METRES;
      if (valueCm > worst.valueCm) worst = { frame, valueCm };
    }
    return { tether: hold.id, ...worst, place: placeOf(read(hold.held, worst.frame)) };
  });
}

/** The frames at which a hold begins and ends, with those on either side. */
const switchFrames = ({ start, end }: HoldPlan): number[] =>
  [start, ...(end < Infinity ? [end] : [])].flatMap((f) => [f, f + 1]);

/** By how much the step to a frame is larger than those beside it, metres; 0 where it is not. */
function jumpAt(read: (frame: number) => Float64Array, frame: number): number {
  const step = (to: number): number => {
    const [a, b] = [read(to - 1), read(to)];
    return Math.hypot(...[0, 1, 2].map((k) => b[k]! - a[k]!));
  };
  return Math.max(0, step(frame) - Math.max(step(frame - 1), step(frame + 1)));
}

/**
 * How far a hand or foot is off what it reaches for, where it is furthest while it has fully taken hold: what its limb cannot reach. Centimetres;
 * one measure for each reach.
 */
export const measureReaches = (plan: CharacterPlan): TetherMeasure[] =>
  (plan.staging?.reaches ?? []).map((reach, i): TetherMeasure => {
    let worst = { frame: reach.start, valueCm: 0 };
    for (const { frame, valueCm } of reachedFrames(plan, i))
      if (valueCm > worst.valueCm) worst = { frame, valueCm };
    return { tether: reach.id, ...worst, place: placeOf(jointReader(plan)(reach.limb.end, worst.frame)) };
  });

/** How far the hand or foot of a reach is off, centimetres, at each whole frame in which it has fully taken hold. */
export function reachedFrames(
  plan: CharacterPlan,
  index: number,
): { readonly frame: number; readonly valueCm: number }[] {
  const staging = plan.staging!;
  const reach = staging.reaches[index]!;
  const read = jointReader(plan);
  const last = Math.min(reach.end, plan.end);
  const out: { frame: number; valueCm: number }[] = [];
  for (let frame = Math.max(Math.ceil(reach.start), plan.start); frame < last; frame++) {
    if (!isFull(reach, frame)) continue;
    const hand = read(reach.limb.end, frame);
    // Made when the pose was: where the hand is to be in the axes of what it reaches for.
    const target = targetOf(reach, staging.reached[index]!, frame);
    out.push({ frame, valueCm: Math.hypot(...[0, 1, 2].map((k) => hand[k]! - target[k]!)) * METRES });
  }
  return out;
}

/** Whether a reach has fully taken hold. */
const isFull = (reach: ReachPlan, frame: number): boolean =>
  takenWeight(reach, frame) * heldWeight(reach, frame) > 1 - 1e-9;

function targetOf({ holder, joint }: ReachPlan, offset: Float64Array, frame: number): Float64Array {
  const { skeleton } = holder.plan;
  const { positions, rotations } = poseToWorld(
    skeleton,
    evaluate(holder.plan, frame, makePoseBuffer(skeleton)),
    makeWorldPose(skeleton),
  );
  const out = offset.slice(0, 3);
  quatRotate(rotations, joint * 4, out, 0, out, 0);
  for (let k = 0; k < 3; k++) out[k]! += positions[joint * 3 + k]!;
  return out;
}

/** The corners of the box that a prop made in code fills, by its size, from its root bone: x, y, z; none for one of a file. */
function boxOf({ character: { prop, size } }: CharacterPlan): readonly (readonly [number, number, number])[] {
  if (!prop || prop.shape === 'own file') return [];
  const [w, h, d] = prop.size.map((v) => v * size) as [number, number, number];
  return [-w / 2, w / 2].flatMap((x) =>
    [0, h].flatMap((y) => [-d / 2, d / 2].map((z) => [x, y, z] as const)),
  );
}

const _corner = new Float64Array(3);

/**
 * How deep the lowest joint of a body, or corner of a prop that was made in code, is in the floor, where it is deepest: centimetres, 0
 * where it never is.
 */
export function measureSunk(plan: CharacterPlan): Omit<TetherMeasure, 'tether'> {
  const buffer = makePoseBuffer(plan.skeleton);
  const world = makeWorldPose(plan.skeleton);
  const { rootBone } = plan.skeleton;
  const corners = boxOf(plan);
  let worst: Omit<TetherMeasure, 'tether'> = { frame: plan.start, valueCm: 0, place: [0, 0, 0] };
  for (let frame = plan.start; frame < plan.end; frame++) {
    const { positions, rotations } = poseToWorld(plan.skeleton, evaluate(plan, frame, buffer), world);
    const look = (place: Float64Array): void => {
      const valueCm = -place[1]! * METRES;
      if (valueCm > worst.valueCm) worst = { frame, valueCm, place: placeOf(place) };
    };
    for (let j = 0; j < positions.length; j += 3) look(positions.subarray(j, j + 3));
    for (const corner of corners) {
      _corner.set(corner);
      quatRotate(rotations, rootBone * 4, _corner, 0, _corner, 0);
      for (let k = 0; k < 3; k++) _corner[k]! += positions[rootBone * 3 + k]!;
      look(_corner);
    }
  }
  return worst;
}
