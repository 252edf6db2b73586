import type { Clip } from '../clip/clip';
import { mirrorPartners } from '../clip/mirror';
import { quatConjugate, quatMultiply } from '../math/quaternion';
import type { Contact } from '../scene/contact';
import type { PoseKey, PoseKeys, RootKeys, ValueKey } from '../scene/keys';
import type { LayerLane, MaskEntry } from '../scene/lane';
import { jointNamed } from '../skeleton/jointNamed';
import type { Skeleton } from '../skeleton/skeleton';
import { clipOnSkeleton, matchJoints } from '../steps/mapClip';
import { mirrorClip } from '../steps/variants';

/** What a layer is carried to. */
export interface CarryTo {
  readonly skeleton: Skeleton;
  /** Whether left and right are swapped. */
  readonly mirrored: boolean;
}

/** What of a layer depends on the body and its sides, on another body or the other side: mask, keys and held hands. */
export function carriedLayer(
  layer: LayerLane,
  from: Skeleton,
  to: CarryTo,
): Pick<LayerLane, 'mask' | 'keys' | 'rootKeys' | 'contacts'> {
  return {
    mask: layer.mask.map((entry) => carriedMask(entry, from, to)),
    keys: carriedKeys(layer.keys, from, to, layer.blend === 'additive'),
    rootKeys: to.mirrored ? mirroredRoot(layer.rootKeys) : layer.rootKeys,
    contacts: to.mirrored ? layer.contacts.map(mirroredContact) : layer.contacts,
  };
}

const mirroredContact = (contact: Contact): Contact => ({
  ...contact,
  hand: contact.hand === 'leftHand' ? 'rightHand' : 'leftHand',
});

/** The joint that a joint's keys go to; -1 for none. */
function partnerOf(from: Skeleton, to: CarryTo, joint: number): number {
  const side = to.mirrored ? mirrorPartners(from)[joint]! : joint;
  return from === to.skeleton ? side : matchJoints(from, to.skeleton).indexOf(side);
}

function carriedMask({ bone, weight }: MaskEntry, from: Skeleton, to: CarryTo): MaskEntry {
  const chain = bone.endsWith('*') ? '*' : '';
  const name = chain ? bone.slice(0, -1) : bone;
  const joint = partnerOf(from, to, jointNamed(from, name));
  const found = to.skeleton.roles[joint] ?? to.skeleton.names[joint];
  return { bone: `${found ?? name}${chain}`, weight };
}

/**
 * Keys on another body or side: each is a pose of one joint with all others at rest, which is mirrored and mapped as a clip is. Slopes
 * of their own are lost: such keys go through smoothly.
 */
function carriedKeys(keys: PoseKeys, from: Skeleton, to: CarryTo, additive: boolean): PoseKeys {
  if (!to.mirrored && from === to.skeleton) return keys;
  const all = Object.entries(keys).flatMap(([name, list]) => list.map((key) => ({ name, key })));
  if (all.length === 0) return keys;
  const posed = posesOf(all, from, additive);
  const mapped = clipOnSkeleton(to.mirrored ? mirrorClip(posed) : posed, to.skeleton);
  const out: Record<string, PoseKey[]> = {};
  all.forEach(({ name, key }, i) => {
    const joint = partnerOf(from, to, from.names.indexOf(name));
    const target = to.skeleton.names[joint];
    if (target === undefined) return;
    const at = (i * to.skeleton.names.length + joint) * 4;
    const rotation = Float64Array.from(mapped.rotations.subarray(at, at + 4));
    if (additive) sinceRest(to.skeleton, joint, rotation);
    const [x = 0, y = 0, z = 0, w = 1] = rotation;
    const curve = key.curve === 'free' ? 'smooth' : key.curve;
    (out[target] ??= []).push({ ...key, curve, tangent: null, into: null, rotation: [x, y, z, w] });
  });
  return out;
}

const restOf = (skeleton: Skeleton, joint: number): Float64Array =>
  joint === skeleton.rootBone ? skeleton.rest.rotations : skeleton.restRotations;

/** What a rotation is since its joint was at rest. */
function sinceRest(skeleton: Skeleton, joint: number, rotation: Float64Array): void {
  const inverse = quatConjugate(restOf(skeleton, joint), joint * 4, new Float64Array(4), 0);
  quatMultiply(inverse, 0, rotation, 0, rotation, 0);
}

/** A clip with a sample for each key: its joint as the key has it, the others at rest. */
function posesOf(
  all: readonly { readonly name: string; readonly key: PoseKey }[],
  skeleton: Skeleton,
  additive: boolean,
): Clip {
  const joints = skeleton.names.length;
  const root = skeleton.rootBone;
  const rotations = new Float32Array(all.length * joints * 4);
  const translations = new Float32Array(all.length * 3);
  all.forEach(({ name, key }, f) => {
    for (let j = 0; j < joints; j++)
      rotations.set(restOf(skeleton, j).subarray(j * 4, j * 4 + 4), (f * joints + j) * 4);
    translations.set(skeleton.rest.positions.subarray(root * 3, root * 3 + 3), f * 3);
    const joint = skeleton.names.indexOf(name);
    if (joint < 0) return;
    const rotation = Float64Array.from(key.rotation);
    if (additive) quatMultiply(restOf(skeleton, joint), joint * 4, rotation, 0, rotation, 0);
    rotations.set(rotation, (f * joints + joint) * 4);
  });
  return {
    id: 'keys',
    name: 'Keys',
    skeleton,
    rate: 30,
    frames: all.length,
    rotations,
    translated: Int32Array.of(root),
    translations,
  };
}

/** Keys of the root with left for right. */
function mirroredRoot(keys: RootKeys): RootKeys {
  const negative = (list: readonly ValueKey[] | undefined): readonly ValueKey[] | undefined =>
    list?.map((key) => ({
      ...key,
      value: -key.value,
      tangent: key.tangent === null ? null : -key.tangent,
      into: key.into === null ? null : -key.into,
    }));
  return {
    ...keys,
    ...(keys.left ? { left: negative(keys.left) } : {}),
    ...(keys.turn ? { turn: negative(keys.turn) } : {}),
  };
}
