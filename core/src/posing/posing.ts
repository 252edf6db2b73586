import { makePoseBuffer } from '../clip/pose';
import type { Edit } from '../edit/edit';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { layerWeight } from '../evaluate/layerWeight';
import { quatConjugate, quatMultiply, quatSlerp, quatTurn } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import { upToLayer } from '../plan/upToLayer';
import type { PoseKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { roleWords } from '../skeleton/roles';
import { straightBend } from '../skeleton/limbs';
import type { Limb } from '../skeleton/reach';
import { reach } from '../skeleton/reach';
import { keyTrack, keyedRotation } from '../layers/keys';
import { posedAt } from './posedAt';

/** A joint's rotation relative to its parent, xyzw, as it is to be shown. */
export interface PosedJoint {
  readonly joint: number;
  readonly rotation: Float64Array;
}

/**
 * The pose of a limb whose end is brought to a place of the scene by two-bone inverse kinematics; what it ends with keeps its direction
 * in the scene.
 *
 * @param target x, y, z, metres
 */
export function reachedPose(
  plan: CharacterPlan,
  frame: number,
  limb: Limb,
  target: Float64Array,
): PosedJoint[] {
  const { skeleton } = plan;
  const { pose, world, heading } = posedAt(plan, frame);
  const axis = straightBend(skeleton, limb, world.positions, heading);
  reach(skeleton.parents, limb, target, 0, axis, pose.rotations, world.rotations, world.positions);
  return [limb.upper, limb.lower, limb.end].map((joint) => ({
    joint,
    rotation: pose.rotations.slice(joint * 4, joint * 4 + 4),
  }));
}

/** A joint turned by a rotation of the scene (xyzw), about where it is. */
export function turnedPose(plan: CharacterPlan, frame: number, joint: number, by: Float64Array): PosedJoint {
  const { skeleton } = plan;
  const { rotations } = posedAt(plan, frame).world;
  const rotation = new Float64Array(4);
  quatMultiply(by, 0, rotations, joint * 4, rotation, 0);
  const parent = skeleton.parents[joint]!;
  if (parent < 0) return { joint, rotation };
  const inverse = new Float64Array(4);
  quatConjugate(rotations, parent * 4, inverse, 0);
  quatMultiply(inverse, 0, rotation, 0, rotation, 0);
  return { joint, rotation };
}

/**
 * The keys with which a layer shows joints as they are posed at a frame, whatever its weight there. Keys that are there keep their
 * curves.
 */
export function poseEdit(
  plan: CharacterPlan,
  layer: LayerLane,
  frame: number,
  posed: readonly PosedJoint[],
): Edit {
  const { skeleton } = plan;
  const index = plan.layers.findIndex((l) => l.id === layer.id);
  const w = index < 0 ? 1 : layerWeight(plan.layers[index]!, frame);
  const below = evaluateUnlocked(
    upToLayer(plan, Math.max(0, index)),
    frame,
    makePoseBuffer(skeleton),
  ).rotations.slice();
  const current = evaluateUnlocked(plan, frame, makePoseBuffer(skeleton));
  const edits = posed.map(({ joint, rotation }): Edit => {
    const name = skeleton.names[joint]!;
    const keys = layer.keys[name] ?? [];
    const made =
      layer.blend === 'additive'
        ? addedKey(keys, joint, frame, w, current.rotations, rotation)
        : overridingKey(plan, joint, w, below, rotation, current.root[2]!);
    const key: PoseKey = {
      curve: 'smooth',
      tangent: null,
      into: null,
      ...keys.find((k) => k.frame === frame),
      frame,
      rotation: [made[0]!, made[1]!, made[2]!, made[3]!],
    };
    return { type: 'key', layer: layer.id, joint: name, key };
  });
  const last = posed.at(-1);
  const role = last && skeleton.roles[last.joint];
  const words = role ? roleWords(role) : skeleton.names[last?.joint ?? 0]!;
  return { type: 'several', label: `pose of the ${words}`, edits };
}

/** What has to be added for a joint to be shown so: what is added now, and the turn that is missing. */
function addedKey(
  keys: readonly PoseKey[],
  joint: number,
  frame: number,
  w: number,
  shown: Float64Array,
  wanted: Float64Array,
): Float64Array {
  const made = Float64Array.of(0, 0, 0, 1);
  if (keys.length > 0) keyedRotation(keyTrack(joint, keys), frame, made, 0);
  toPower(made, w);
  const missing = new Float64Array(4);
  quatConjugate(shown, joint * 4, missing, 0);
  quatMultiply(missing, 0, wanted, 0, missing, 0);
  quatMultiply(made, 0, missing, 0, made, 0);
  return toPower(made, 1 / Math.max(w, LEAST_WEIGHT));
}

/** What a joint has to be gone over to for it to be shown so. */
function overridingKey(
  { skeleton }: CharacterPlan,
  joint: number,
  w: number,
  below: Float64Array,
  wanted: Float64Array,
  heading: number,
): Float64Array {
  const missing = new Float64Array(4);
  quatConjugate(below, joint * 4, missing, 0);
  quatMultiply(missing, 0, wanted, 0, missing, 0);
  toPower(missing, 1 / Math.max(w, LEAST_WEIGHT));
  quatMultiply(below, joint * 4, missing, 0, missing, 0);
  // The root bone is keyed relative to the root.
  if (joint === skeleton.rootBone) quatTurn(missing, 0, -heading);
  return missing;
}

/** Below this weight a layer cannot show what is asked for. */
const LEAST_WEIGHT = 0.05;

const _none = Float64Array.of(0, 0, 0, 1);

/** A rotation so many times as far, the shorter way round. */
function toPower(rotation: Float64Array, power: number): Float64Array {
  return quatSlerp(_none, 0, rotation, 0, power, rotation, 0) as Float64Array;
}
