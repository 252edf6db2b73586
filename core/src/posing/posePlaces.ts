import type { Dial } from '../clip/dials';
import type { Clip } from '../clip/clip';
import { makePoseBuffer } from '../clip/pose';
import type { Edit } from '../edit/edit';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { evaluate } from '../footlock/evaluate';
import { keyTrack, keyedRotation } from '../layers/keys';
import { quatSlerp, quatTurn } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import { upToLayer } from '../plan/upToLayer';
import type { PoseKey, RootCurve, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import type { Skeleton } from '../skeleton/skeleton';
import { clipOnSkeleton } from '../steps/mapClip';
import { mirrorClip } from '../steps/variants';
import type { PosedJoint } from './posing';

/** A pose that was copied: the rotations of all joints, parent-relative, xyzw, the root bone's relative to the root. */
export type CopiedPose = readonly number[];

/** The pose that is shown at a frame, wherever it stands and faces. */
export function copyPose(plan: CharacterPlan, frame: number): CopiedPose {
  const { rotations, root } = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const out = rotations.slice();
  quatTurn(out, plan.skeleton.rootBone * 4, -root[2]!);
  return [...out];
}

/**
 * A copied pose on a body, also of other bones, for the joints that a layer moves.
 *
 * @param from the body that it was copied from
 * @param mirrored whether left and right are swapped
 */
export function pastedPose(
  from: Skeleton,
  pose: CopiedPose,
  plan: CharacterPlan,
  layer: string,
  frame: number,
  mirrored: boolean,
): PosedJoint[] {
  const { skeleton } = plan;
  const { positions } = from.rest;
  const root = from.rootBone;
  const clip: Clip = {
    id: 'copied pose',
    name: 'Copied pose',
    skeleton: from,
    rate: 30,
    frames: 1,
    rotations: Float32Array.from(pose),
    translated: Int32Array.of(root),
    translations: Float32Array.from(positions.subarray(root * 3, root * 3 + 3)),
  };
  const { rotations } = clipOnSkeleton(mirrored ? mirrorClip(clip) : clip, skeleton);
  const heading = evaluateUnlocked(plan, frame, makePoseBuffer(skeleton)).root[2]!;
  const mask = plan.layers.find((l) => l.id === layer)?.mask.joints ?? [];
  return Array.from(mask, (joint): PosedJoint => {
    const rotation = Float64Array.from(rotations.subarray(joint * 4, joint * 4 + 4));
    if (joint === skeleton.rootBone) quatTurn(rotation, 0, heading);
    return { joint, rotation };
  });
}

/** Joints as they are below a layer, so that the layer changes nothing about them at the frame. */
export function poseBelow(
  plan: CharacterPlan,
  layer: string,
  frame: number,
  joints: readonly number[],
): PosedJoint[] {
  const index = Math.max(
    0,
    plan.layers.findIndex((l) => l.id === layer),
  );
  const { rotations } = evaluateUnlocked(upToLayer(plan, index), frame, makePoseBuffer(plan.skeleton));
  return joints.map((joint) => ({ joint, rotation: rotations.slice(joint * 4, joint * 4 + 4) }));
}

/**
 * Keys between those before and after a frame: joints turn by the share of the way between them, values of the root likewise. Joints and
 * curves without keys on both sides are left alone.
 *
 * @param share 0 as the key before, 1 as the one after
 */
export function breakdownEdit(layer: LayerLane, frame: number, share: number): Edit | null {
  const edits: Edit[] = [];
  for (const [joint, keys] of Object.entries(layer.keys)) {
    const around = keysAround(keys, frame);
    if (!around) continue;
    const track = keyTrack(0, around);
    const [a, b] = [0, 1].map((i) => keyedRotation(track, around[i]!.frame, new Float64Array(4), 0)) as [
      Float64Array,
      Float64Array,
    ];
    const [x = 0, y = 0, z = 0, w = 1] = quatSlerp(a, 0, b, 0, share, new Float64Array(4), 0);
    const here: Partial<PoseKey> = keys.find((k) => k.frame === frame) ?? {};
    const key: PoseKey = {
      curve: 'smooth',
      tangent: null,
      into: null,
      ...here,
      frame,
      rotation: [x, y, z, w],
    };
    edits.push({ type: 'key', layer: layer.id, joint, key });
  }
  for (const [curve, keys] of Object.entries(layer.rootKeys)) {
    const key = valueBetween(keys, frame, share);
    if (key) edits.push({ type: 'root key', layer: layer.id, curve: curve as RootCurve, key });
  }
  for (const [dial, keys] of Object.entries(layer.dialKeys)) {
    const key = valueBetween(keys, frame, share);
    if (key) edits.push({ type: 'dial key', layer: layer.id, dial: dial as Dial, key });
  }
  return edits.length > 0 ? { type: 'several', label: `pose between keys at frame ${frame}`, edits } : null;
}

/** A key at a frame between those around it; null where there is none on either side. */
function valueBetween(keys: readonly ValueKey[], frame: number, share: number): ValueKey | null {
  const around = keysAround(keys, frame);
  if (!around) return null;
  const here: Partial<ValueKey> = keys.find((k) => k.frame === frame) ?? {};
  const value = around[0].value + share * (around[1].value - around[0].value);
  return { curve: 'smooth', tangent: null, into: null, ...here, frame, value };
}

/** The last key before a frame and the first after it; null where there is none on either side. */
function keysAround<K extends { readonly frame: number }>(
  keys: readonly K[],
  frame: number,
): readonly [K, K] | null {
  let [low, high] = [0, keys.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keys[middle]!.frame < frame) low = middle + 1;
    else high = middle;
  }
  const [a, b] = [keys[low - 1], keys[keys[low]?.frame === frame ? low + 1 : low]];
  return a && b ? [a, b] : null;
}
