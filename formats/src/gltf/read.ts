import type { Accessor, Animation, Node } from '@gltf-transform/core';
import type { Clip } from '@warper/core';
import { InputError, MAX_FRAMES, checkClip } from '@warper/core';
import { rootBoneToScene, withTravelBone } from '@warper/core/kernels';
import { bodyId, clipId, contentHash, sourceId } from '../hash';
import type { Body, Imported, ReadOptions, Remark } from '../imported';
import { mappedRoles, skeletonSignature } from '../skeletonMap';
import { vrmRoles } from '../vrm/roles';
import { checkMeshes } from './meshes';
import { isGlb, openWithJson } from './open';
import { findRate } from './rate';
import type { Keys } from './sampler';
import { readKeys, sampleKeys } from './sampler';
import type { NodeSkeleton } from './skeletons';
import { findSkeletons, underNode } from './skeletons';

/**
 * Reads a glTF 2.0 or GLB file: its skeletons, with or without skins, and every animation of them as a clip at the rate
 * on which its keys fall.
 *
 * @param options metres for one unit, default 1 as glTF says; what finds the files that a .gltf names; the user's roles
 * @throws InputError where the file is damaged, needs what cannot be read, or has no skeleton
 */
export async function readGltf(
  bytes: Uint8Array,
  file: string,
  options: ReadOptions = {},
): Promise<Imported> {
  const { scale, beside, roles, hash } = options;
  const { document, json } = await openWithJson(bytes, beside);
  checkMeshes(document);
  const remarks: Remark[] = [];
  const skeletons = findSkeletons(document, scale ?? 1, remarks, { ...options, nodeRoles: vrmRoles(json) });
  if (skeletons.length === 0) {
    throw new InputError('no-skeleton', 'The file has no skeleton and nothing that moves.', {
      hint: 'Export the character with its bones, or the motion with its skeleton.',
    });
  }
  const source = sourceId(hash ?? (await contentHash(bytes)), scale, roles);
  const clips: Clip[] = [];
  for (const animation of document.getRoot().listAnimations()) {
    for (const skeleton of skeletons) {
      const clip = readTake(animation, skeleton, clipId(source, clips.length), clips.length, remarks);
      if (clip) clips.push(clip);
    }
  }
  const bodies = skeletons.map((s, i): Body => ({
    id: bodyId(source, i),
    name: s.name,
    signature: skeletonSignature(s.skeleton.names, s.skeleton.parents),
    skeleton: s.skeleton,
    skinned: s.skinned,
    meshed: s.meshed,
    layout: s.layout,
  }));
  return {
    source,
    file,
    format: isGlb(bytes) ? 'glb' : 'gltf',
    bodies,
    clips,
    mapped: mappedRoles(bodies, options),
    remarks,
  };
}

/** Keys of the joints that an animation moves. */
interface JointKeys {
  readonly rotation: (Keys | null)[];
  readonly translation: (Keys | null)[];
}

function readTake(
  animation: Animation,
  bones: NodeSkeleton,
  id: string,
  number: number,
  remarks: Remark[],
): Clip | null {
  const name = animation.getName() || `take ${number + 1}`;
  const keys = collectKeys(animation, bones.nodes, name, remarks);
  const used = [...keys.rotation, ...keys.translation].filter((k) => k !== null);
  if (used.length === 0) return null;
  const rows = [...new Set(used.map((k) => k.times))];
  for (const row of rows) requireInOrder(row, name);
  const begin = Math.min(...rows.map((row) => row[0]!));
  const end = Math.max(...rows.map((row) => row.at(-1)!));
  const times = [...new Set(rows.flatMap((row) => [...row]))].map((t) => t - begin);
  const asked = Number((animation.getExtras() as { rate?: unknown }).rate);
  const { rate, even } = asked > 0 && asked <= 10_000 ? { rate: asked, even: true } : findRate(times);
  if (!even) {
    remarks.push({
      code: 'uneven-keys',
      message: `${name}: its keys fall on no usual rate; it was sampled ${rate} times a second.`,
    });
  }
  const frames = Math.round((end - begin) * rate) + 1;
  if (!(frames <= MAX_FRAMES))
    throw new InputError('gltf', `${name} lasts ${(end - begin).toFixed(0)} seconds, which is too long.`);
  return withTravelBone(
    checkClip({
      id,
      name,
      skeleton: bones.skeleton,
      rate,
      frames,
      ...sampleTake(keys, bones, begin, rate, frames),
    }),
  );
}

/** glTF 2.0.1, section 3.11: the times of a sampler's keys are strictly increasing; equal ones do no harm. */
function requireInOrder(times: Float64Array, name: string): void {
  const bad = times.findIndex((t, i) => !Number.isFinite(t) || (i > 0 && t < times[i - 1]!));
  if (bad < 0) return;
  throw new InputError('gltf', `${name}: the times of its keys are not in order at key ${bad}.`, {
    hint: 'The file is damaged: export it again.',
  });
}

function collectKeys(
  animation: Animation,
  nodes: readonly Node[],
  name: string,
  remarks: Remark[],
): JointKeys {
  const index = new Map(nodes.map((n, i) => [n, i]));
  const keys: JointKeys = { rotation: nodes.map(() => null), translation: nodes.map(() => null) };
  const left = new Set<string>();
  const above = new Set<Node>();
  const times = new Map<Accessor, Float64Array>();
  for (let n = nodes[0]!.getParentNode(); n; n = n.getParentNode()) above.add(n);
  for (const channel of animation.listChannels()) {
    const joint = index.get(channel.getTargetNode()!);
    const path = channel.getTargetPath();
    const sampler = channel.getSampler();
    if (!sampler) continue;
    if (joint === undefined) {
      // Joints under a node that is scaled in time would have to grow and shrink.
      if (path === 'scale' && above.has(channel.getTargetNode()!) && !isStill(readKeys(sampler, 3, times)))
        left.add('scale above the skeleton');
      continue;
    }
    const read = (size: 3 | 4): Keys | null =>
      requireFinite(readKeys(sampler, size, times), name, nodes[joint]!, path!);
    if (path === 'rotation') keys.rotation[joint] = read(4);
    else if (path === 'translation') keys.translation[joint] = read(3);
    else if (path && !isStill(readKeys(sampler, 3, times))) left.add(path);
  }
  for (const path of left)
    remarks.push({ code: 'left-out', message: `${name}: the animation of ${path} was left out.` });
  return keys;
}

/** Numbers that are none would spread over the whole body. */
function requireFinite(keys: Keys | null, take: string, node: Node, path: string): Keys | null {
  const bad = keys ? keys.values.findIndex((v) => !Number.isFinite(v)) : -1;
  if (!keys || bad < 0) return keys;
  const bone = node.getName();
  const key = Math.floor(bad / (keys.size * (keys.mode === 'CUBICSPLINE' ? 3 : 1)));
  throw new InputError(
    'not-a-number',
    `${take}: the ${path} of ${bone || 'a node'} is no number at key ${key}.`,
    {
      place: { bone, frame: key },
      hint: 'Repair the clip in the program that wrote it, or cut that key away.',
    },
  );
}

/** Whether a channel never changes its value. */
function isStill(keys: Keys | null): boolean {
  if (!keys || keys.mode === 'CUBICSPLINE') return keys === null;
  return keys.values.every((v, i) => Math.abs(v - keys.values[i % keys.size]!) < 1e-5);
}

/** A joint's translation that strays this far from its rest offset (metres) is kept as motion. */
const STRAYS_METRES = 1e-5;

function sampleTake(
  keys: JointKeys,
  bones: NodeSkeleton,
  begin: number,
  rate: number,
  frames: number,
): Pick<Clip, 'rotations' | 'translated' | 'translations'> {
  const { skeleton, layout } = bones;
  const joints = skeleton.names.length;
  const { rootBone } = skeleton;
  const allPlaces = new Float64Array(frames * joints * 3);
  const rotations = new Float32Array(frames * joints * 4);
  const q = new Float64Array(joints * 4);
  const p = new Float64Array(joints * 3);
  const above = {
    rotation: Float64Array.from(layout.aboveRotation),
    position: Float64Array.from(layout.abovePosition),
  };
  const strays = new Set<number>();
  const rest = bones.nodes.map((node) => ({ turn: node.getRotation(), place: node.getTranslation() }));
  for (let f = 0; f < frames; f++) {
    for (let j = 0; j < joints; j++) {
      const turn = keys.rotation[j];
      const place = keys.translation[j];
      if (turn) sampleKeys(turn, begin + f / rate, q, j * 4);
      else for (let k = 0; k < 4; k++) q[j * 4 + k] = rest[j]!.turn[k]!;
      if (place) sampleKeys(place, begin + f / rate, p, j * 3);
      else for (let k = 0; k < 3; k++) p[j * 3 + k] = rest[j]!.place[k]!;
      for (let k = 0; k < 3; k++) p[j * 3 + k]! *= layout.scales[j]!;
      if (skeleton.parents[j]! < 0) underNode(above, p, q, j);
      for (let k = 0; k < 3; k++)
        if (place && Math.abs(p[j * 3 + k]! - skeleton.restTranslations[j * 3 + k]!) > STRAYS_METRES)
          strays.add(j);
    }
    rootBoneToScene(skeleton, q, p);
    rotations.set(q, f * joints * 4);
    allPlaces.set(p, f * joints * 3);
  }
  strays.delete(rootBone);
  // A joint above the root bone may carry the travel, even where it happens to stand still.
  for (let j = skeleton.parents[rootBone]!; j >= 0; j = skeleton.parents[j]!)
    if (keys.translation[j]) strays.add(j);
  const translated = Int32Array.of(rootBone, ...[...strays].sort((a, b) => a - b));
  const translations = new Float32Array(frames * translated.length * 3);
  for (let f = 0; f < frames; f++)
    translated.forEach((joint, i) => {
      for (let k = 0; k < 3; k++)
        translations[(f * translated.length + i) * 3 + k] = allPlaces[(f * joints + joint) * 3 + k]!;
    });
  return { rotations, translated, translations };
}
