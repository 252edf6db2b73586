import type { Pose } from '../clip/pose';
import { poseToWorld } from '../clip/pose';
import type { Edit } from '../edit/edit';
import { layerWeight } from '../evaluate/layerWeight';
import { valueCurve, valueOn } from '../layers/valueCurve';
import { quatConjugate, quatFromAxis, quatMultiply, quatNormalize } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { RootCurve, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { limbEndingAt, straightBend } from '../skeleton/limbs';
import type { Limb } from '../skeleton/reach';
import { reach } from '../skeleton/reach';
import type { Role } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import type { PosedJoint } from './posing';
import type { Posed } from './posedAt';
import { posedAt } from './posedAt';
import { poseEdit } from './posing';

/** What of a body is moved to a place by its handle: the hips with everything, the trunk or the head by bending below it. */
export type BodyPart = 'hips' | 'trunk' | 'head';

const PARTS: Readonly<Partial<Record<Role, BodyPart>>> = {
  hips: 'hips',
  chest: 'trunk',
  upperChest: 'trunk',
  neck: 'trunk',
  head: 'head',
};

/** The part that a joint stands for; null for limbs and all else. */
export const bodyPartAt = ({ roles }: Skeleton, joint: number): BodyPart | null => {
  const role = roles[joint];
  return (role && PARTS[role]) ?? null;
};

/** The limb whose elbow or knee a joint is; null where it is none. */
export function limbBendingAt(skeleton: Skeleton, joint: number): Limb | null {
  for (const side of ['left', 'right'] as const)
    for (const end of [`${side}Hand`, `${side}Foot`, `${side}FrontPaw`] as const) {
      const limb = limbEndingAt(skeleton, jointOfRole(skeleton, end));
      if (limb?.lower === joint) return limb;
    }
  return null;
}

/** What stays where it is while another part of the body is moved. */
export interface KeptLimbs {
  readonly leftHand: boolean;
  readonly rightHand: boolean;
  readonly feet: boolean;
}

const shownAs = (pose: Pose, joint: number): PosedJoint => ({
  joint,
  rotation: pose.rotations.slice(joint * 4, joint * 4 + 4),
});

/** The arms whose hands stay, brought back to where those were. */
function armsBack(
  skeleton: Skeleton,
  kept: KeptLimbs,
  { pose, world, heading }: Posed,
  places: Float64Array,
): PosedJoint[] {
  return (['left', 'right'] as const).flatMap((side) => {
    if (!kept[`${side}Hand`]) return [];
    const limb = limbEndingAt(skeleton, jointOfRole(skeleton, `${side}Hand`));
    if (!limb) return [];
    const axis = straightBend(skeleton, limb, world.positions, heading);
    reach(
      skeleton.parents,
      limb,
      places,
      limb.end * 3,
      axis,
      pose.rotations,
      world.rotations,
      world.positions,
    );
    return [limb.upper, limb.lower, limb.end].map((joint) => shownAs(pose, joint));
  });
}

/** Rounds through the joints of the trunk (Wang and Chen 1991, cyclic coordinate descent), and the share of each turn that is taken. */
const ROUNDS = 60;
const SHARE = 0.5;

/**
 * The pose of a trunk or head that is brought to a place, as near as bending allows: the joints between it and the hips turn, those next
 * to it first. It keeps its own direction in the scene.
 *
 * @param target x, y, z, metres
 * @param kept the hands that stay where they are; feet do so in any case
 */
export function bentPose(
  plan: CharacterPlan,
  frame: number,
  joint: number,
  target: Float64Array,
  kept: KeptLimbs,
): PosedJoint[] {
  const { skeleton } = plan;
  const posed = posedAt(plan, frame);
  const { pose, world } = posed;
  const before = world.positions.slice();
  const direction = world.rotations.slice(joint * 4, joint * 4 + 4);
  const chain: number[] = [];
  for (let j = skeleton.parents[joint]!; j >= 0 && j !== skeleton.rootBone; j = skeleton.parents[j]!)
    chain.push(j);
  const again = (): void => {
    poseToWorld(skeleton, pose, world);
  };
  for (let round = 0; round < ROUNDS; round++)
    for (const j of chain) {
      turnTowards(skeleton, posed, j, joint, target);
      again();
    }
  keepDirection(skeleton, posed, joint, direction);
  again();
  const arms = armsBack(skeleton, kept, posed, before);
  return [...chain, joint].map((j) => shownAs(pose, j)).concat(arms);
}

const _turn = new Float64Array(4);
const _inverse = new Float64Array(4);

/** Turns a joint so that another one further out comes nearer to a place. */
function turnTowards(
  { parents }: Skeleton,
  { pose, world }: Posed,
  joint: number,
  end: number,
  target: Float64Array,
): void {
  const { positions, rotations } = world;
  const arm = [0, 1, 2].map((k) => positions[end * 3 + k]! - positions[joint * 3 + k]!) as [
    number,
    number,
    number,
  ];
  const way = [0, 1, 2].map((k) => target[k]! - positions[joint * 3 + k]!) as [number, number, number];
  const axis = [
    arm[1] * way[2] - arm[2] * way[1],
    arm[2] * way[0] - arm[0] * way[2],
    arm[0] * way[1] - arm[1] * way[0],
  ] as const;
  const sine = Math.hypot(...axis);
  if (sine < 1e-12) return;
  const angle = Math.atan2(sine, arm[0] * way[0] + arm[1] * way[1] + arm[2] * way[2]);
  quatFromAxis(axis[0] / sine, axis[1] / sine, axis[2] / sine, angle * SHARE, _turn, 0);
  quatMultiply(_turn, 0, rotations, joint * 4, rotations, joint * 4);
  toParent(parents, joint, rotations, pose.rotations);
}

/** Gives a joint back the direction that it had in the scene. */
function keepDirection(
  { parents }: Skeleton,
  { pose, world }: Posed,
  joint: number,
  direction: Float64Array,
): void {
  world.rotations.set(direction, joint * 4);
  toParent(parents, joint, world.rotations, pose.rotations);
}

function toParent(parents: Int32Array, joint: number, world: Float64Array, out: Float64Array): void {
  const parent = parents[joint]!;
  if (parent < 0) return void out.set(world.subarray(joint * 4, joint * 4 + 4), joint * 4);
  quatConjugate(world, parent * 4, _inverse, 0);
  quatMultiply(_inverse, 0, world, joint * 4, out, joint * 4);
  // Samples are of 32 bits: over many rounds their lengths would drift away from one.
  quatNormalize(out, joint * 4);
}

/**
 * The pose of a limb whose elbow or knee is turned about the line from its start to its end, as far towards a place as it goes; its end
 * stays, and keeps its direction.
 *
 * @param target x, y, z, metres
 */
export function swivelledPose(
  plan: CharacterPlan,
  frame: number,
  limb: Limb,
  target: Float64Array,
): PosedJoint[] {
  const { skeleton } = plan;
  const { pose, world } = posedAt(plan, frame);
  const { positions, rotations } = world;
  const { upper, lower, end } = limb;
  const from = (p: Float64Array, o: number): [number, number, number] => [
    p[o]! - positions[upper * 3]!,
    p[o + 1]! - positions[upper * 3 + 1]!,
    p[o + 2]! - positions[upper * 3 + 2]!,
  ];
  const line = from(positions, end * 3);
  const length = Math.hypot(...line) || 1;
  const axis = line.map((v) => v / length) as [number, number, number];
  const across = (v: readonly [number, number, number]): [number, number, number] => {
    const along = v[0] * axis[0] + v[1] * axis[1] + v[2] * axis[2];
    return [v[0] - along * axis[0], v[1] - along * axis[1], v[2] - along * axis[2]];
  };
  const [a, b] = [across(from(positions, lower * 3)), across(from(target, 0))];
  const cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const sine =
    axis[0] * (a[1] * b[2] - a[2] * b[1]) +
    axis[1] * (a[2] * b[0] - a[0] * b[2]) +
    axis[2] * (a[0] * b[1] - a[1] * b[0]);
  quatFromAxis(axis[0], axis[1], axis[2], Math.atan2(sine, cosine), _turn, 0);
  for (const joint of [upper, lower]) quatMultiply(_turn, 0, rotations, joint * 4, rotations, joint * 4);
  for (const joint of [upper, lower, end]) toParent(skeleton.parents, joint, rotations, pose.rotations);
  return [upper, lower, end].map((joint) => shownAs(pose, joint));
}

/**
 * The edit that brings the hips to a place: keys of the root at the frame, in the directions that it has at the first of them. A layer
 * that has no such keys yet has the feet stay where they stand from now on, or go along, and nothing carried along behind it.
 *
 * @param target x, y, z of the hips, metres
 */
export function hipsEdit(
  plan: CharacterPlan,
  layer: LayerLane,
  frame: number,
  target: Float64Array,
  kept: KeptLimbs,
): Edit {
  const { skeleton } = plan;
  const posed = posedAt(plan, frame);
  const { pose, world } = posed;
  const before = world.positions.slice();
  const by = [0, 1, 2].map((k) => target[k]! - before[skeleton.rootBone * 3 + k]!) as [
    number,
    number,
    number,
  ];
  const index = plan.layers.findIndex((l) => l.id === layer.id);
  const made = plan.layers[index];
  const w = made ? Math.max(layerWeight(made, frame), 0.05) : 1;
  const keyed = Object.values(layer.rootKeys).flatMap((keys) => keys.map((k) => k.frame));
  const first = Math.min(frame, ...keyed);
  const heading = first === frame ? posed.heading : posedAt(plan, first).heading;
  const [sine, cosine] = [Math.sin(heading), Math.cos(heading)];
  const moves: readonly (readonly [RootCurve, number])[] = [
    ['left', by[0] * cosine - by[2] * sine],
    ['up', by[1]],
    ['forward', by[0] * sine + by[2] * cosine],
  ];
  const edits: Edit[] =
    keyed.length === 0
      ? [
          {
            type: 'change layer',
            layer: layer.id,
            values: { rootFeet: kept.feet ? 'hold' : 'slide', carriesOn: false },
          },
        ]
      : [];
  for (const [curve, metres] of moves) {
    const keys = layer.rootKeys[curve] ?? [];
    const key: ValueKey = {
      curve: 'smooth',
      tangent: null,
      into: null,
      ...keys.find((k) => k.frame === frame),
      frame,
      value: valueOn(valueCurve(keys), frame, 0) + metres / w,
    };
    edits.push({ type: 'root key', layer: layer.id, curve, key });
  }
  if (kept.leftHand || kept.rightHand) {
    for (let k = 0; k < 3; k++) pose.translations[skeleton.rootBone * 3 + k]! += by[k]!;
    poseToWorld(skeleton, pose, world);
    edits.push(poseEdit(plan, layer, frame, armsBack(skeleton, kept, posed, before)));
  }
  return { type: 'several', label: 'move of the hips', edits };
}
