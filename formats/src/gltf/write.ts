import type { Node } from '@gltf-transform/core';
import { Document, Logger, WebIO } from '@gltf-transform/core';
import type { Clip, MotionPieces, Pose } from '@warper/core';
import { makePoseBuffer, piecesOf, samplePose } from '@warper/core';
import { quatConjugate, quatMultiply, quatNormalize, quatRotate } from '@warper/core/kernels';
import type { GltfLayout } from '../imported';
import { joinBytes } from '../joinBytes';
import { animatedGlb } from './animatedGlb';
import { copyInto } from './copyInto';
import { openDocument } from './open';
import { mergeBuffers } from './mergeBuffers';

/** What the body's own file was, so that its mesh, materials and textures can be kept. */
export interface GltfSource {
  readonly bytes: Uint8Array;
  readonly layout: GltfLayout;
  readonly beside?: (uri: string) => Uint8Array | undefined;
}

/**
 * Writes a clip as GLB, in metres. With the body's own glTF file everything in it stays and the clip replaces its
 * animations; without one the joints are written as plain nodes.
 */
export const writeGlb = async (clip: Clip, source?: GltfSource): Promise<Uint8Array> =>
  joinBytes(await glbParts(piecesOf(clip), source));

/** A motion as the parts of a GLB, in order; see `writeGlb`. The samples are there once, in the order of the file. */
export async function glbParts(motion: MotionPieces, source?: GltfSource): Promise<Uint8Array[]> {
  const { document, nodes } = await stillBody(motion, source);
  return animated(document, nodes, motion, await readTracks(motion, layoutOf(motion, source)));
}

/** One of several who perform in one file. */
export interface Performer {
  readonly name: string;
  readonly motion: MotionPieces;
  readonly source?: GltfSource;
}

/**
 * Several motions as the parts of one GLB: each body below a node of its character's name, all moved by one animation. The motions must be
 * of one length and rate.
 *
 * @param name of the animation
 */
export async function glbOfSeveral(performers: readonly Performer[], name: string): Promise<Uint8Array[]> {
  const document = new Document().setLogger(SILENT);
  const scene = document.createScene(name);
  document.getRoot().setDefaultScene(scene);
  const nodes: Node[] = [];
  const tracks: Tracks = { rotations: [], translations: [] };
  for (const { name: called, motion, source } of performers) {
    const still = await stillBody(motion, source);
    const copied = copyInto(document, still.document);
    const above = document.createNode(called);
    scene.addChild(above);
    for (const own of still.document.getRoot().listScenes()) {
      // What has a skin is moved by its joints alone, and belongs to no other node (glTF 2.0.1, section 3.7.3.1).
      for (const child of own.listChildren()) (child.getSkin() ? scene : above).addChild(copied(child));
      copied(own).dispose();
    }
    nodes.push(...still.nodes.map(copied));
    const read = await readTracks(motion, layoutOf(motion, source));
    tracks.rotations.push(...read.rotations);
    tracks.translations.push(...read.translations);
  }
  const [first] = performers;
  if (!first) throw new Error('Nobody performs.');
  return animated(document, nodes, { ...first.motion, name }, tracks);
}

interface Tracks {
  readonly rotations: Float32Array[];
  readonly translations: (Float32Array | null)[];
}

const SILENT = new Logger(Logger.Verbosity.SILENT);

const layoutOf = (motion: MotionPieces, source: GltfSource | undefined): GltfLayout =>
  source ? sizedLayout(source.layout, motion) : plainLayout(motion);

/** The document of a body that nothing moves yet, and the node of each of its joints. */
async function stillBody(
  motion: MotionPieces,
  source: GltfSource | undefined,
): Promise<{ document: Document; nodes: Node[] }> {
  const document = source ? await openDocument(source.bytes, source.beside) : boneDocument(motion);
  dropAnimations(document);
  const all = document.getRoot().listNodes();
  const nodes = motion.skeleton.names.map((_, i) => all[source ? source.layout.nodes[i]! : i]!);
  if (source) {
    // A larger character is its own body under a larger topmost joint, so that its skin grows along.
    const top = nodes[0]!;
    const [x, y, z] = top.getScale();
    const { size } = motion.skeleton;
    top.setScale([x * size, y * size, z * size]);
  }
  clearUnusedJoints(document);
  return { document, nodes };
}

/** A document as the parts of a GLB in which one animation moves nodes. */
async function animated(
  document: Document,
  nodes: readonly Node[],
  { name, rate, frames }: Pick<MotionPieces, 'name' | 'rate' | 'frames'>,
  tracks: Tracks,
): Promise<Uint8Array[]> {
  document.getRoot().getAsset().generator = 'Warper';
  mergeBuffers(document);
  const still = await new WebIO().setLogger(SILENT).writeBinary(document);
  const all = document.getRoot().listNodes();
  return animatedGlb(still, { name, rate, frames, nodes: nodes.map((node) => all.indexOf(node)), ...tracks });
}

function boneDocument({ skeleton }: MotionPieces): Document {
  const document = new Document().setLogger(SILENT);
  document.createBuffer();
  const hasChildren = new Set(skeleton.parents);
  // Where a chain ends is no node of its own: the last joint says it in its extras.
  const nodes = skeleton.names.map((name, i) =>
    document
      .createNode(name)
      .setTranslation([...skeleton.restTranslations.slice(i * 3, i * 3 + 3)] as [number, number, number])
      .setRotation([...skeleton.restRotations.slice(i * 4, i * 4 + 4)] as [number, number, number, number])
      .setExtras(hasChildren.has(i) ? {} : { end: [...(skeleton.ends[i] ?? [0, 0, 0])] }),
  );
  const scene = document.createScene();
  document.getRoot().setDefaultScene(scene);
  nodes.forEach((node, i) => {
    const parent = skeleton.parents[i]!;
    if (parent < 0) scene.addChild(node);
    else nodes[parent]!.addChild(node);
  });
  return document;
}

const plainLayout = ({ skeleton }: MotionPieces): GltfLayout => ({
  kind: 'gltf',
  nodes: skeleton.names.map((_, i) => i),
  scales: skeleton.names.map(() => 1),
  aboveRotation: [0, 0, 0, 1],
  abovePosition: [0, 0, 0],
});

/** The layout with the scale that the topmost joint gives to those below it. */
const sizedLayout = (layout: GltfLayout, { skeleton }: MotionPieces): GltfLayout => ({
  ...layout,
  scales: layout.scales.map((s, j) => (j === 0 ? s : s * skeleton.size)),
});

/** Removes every animation, and the accessors that only they used. */
function dropAnimations(document: Document): void {
  const root = document.getRoot();
  const accessors = new Set(
    root.listAnimations().flatMap((a) => a.listSamplers().flatMap((s) => [s.getInput(), s.getOutput()])),
  );
  for (const animation of root.listAnimations()) {
    for (const sampler of animation.listSamplers()) sampler.dispose();
    for (const channel of animation.listChannels()) channel.dispose();
    animation.dispose();
  }
  for (const accessor of accessors) {
    if (accessor?.listParents().every((p) => p.propertyType === 'Root')) accessor.dispose();
  }
}

/** The motion's local transforms as the file's nodes mean them: under the nodes above, in their scales; joint by joint. */
async function readTracks(motion: MotionPieces, layout: GltfLayout): Promise<Tracks> {
  const { frames, skeleton } = motion;
  const joints = skeleton.names.length;
  const rotations = skeleton.names.map(() => new Float32Array(frames * 4));
  const moves = new Set(motion.translated);
  const translations = skeleton.names.map((_, j) => (moves.has(j) ? new Float32Array(frames * 3) : null));
  const buffer = makePoseBuffer(skeleton);
  const inverse = new Float64Array(4);
  quatConjugate(Float64Array.from(layout.aboveRotation), 0, inverse, 0);
  const before = new Float64Array(joints * 4);
  let f = 0;
  for await (const piece of motion.pieces()) {
    for (let s = 0; s < piece.frames; s++, f++) {
      const pose = samplePose(piece, s, buffer);
      outOfNode(pose, inverse, layout);
      for (let j = 0; j < joints; j++) {
        quatNormalize(pose.rotations, j * 4);
        if (f > 0) sameSide(pose.rotations, before, j * 4);
        rotations[j]!.set(pose.rotations.subarray(j * 4, j * 4 + 4), f * 4);
        const places = translations[j];
        if (!places) continue;
        for (let k = 0; k < 3; k++) places[f * 3 + k] = pose.translations[j * 3 + k]! / layout.scales[j]!;
      }
      before.set(pose.rotations);
    }
  }
  return { rotations, translations };
}

/** Takes the topmost joint out of the fixed transform above it. */
function outOfNode(pose: Pose, inverse: Float64Array, layout: GltfLayout): void {
  for (let k = 0; k < 3; k++) pose.translations[k]! -= layout.abovePosition[k]!;
  quatRotate(inverse, 0, pose.translations, 0, pose.translations, 0);
  quatMultiply(inverse, 0, pose.rotations, 0, pose.rotations, 0);
}

/** Flips a quaternion to the side of its forerunner, so that readers that blend without care stay right. */
function sameSide(q: Float64Array, before: Float64Array, o: number): void {
  let dot = 0;
  for (let k = 0; k < 4; k++) dot += q[o + k]! * before[o + k]!;
  if (dot < 0) for (let k = 0; k < 4; k++) q[o + k] = -q[o + k]!;
}

/** Sets joint numbers that have no weight to 0, as glTF 2.0.1, section 3.7.3.3, asks and not every file does. */
function clearUnusedJoints(document: Document): void {
  for (const mesh of document.getRoot().listMeshes()) {
    for (const primitive of mesh.listPrimitives()) {
      for (let set = 0; ; set++) {
        const joints = primitive.getAttribute(`JOINTS_${set}`)?.getArray();
        const weights = primitive.getAttribute(`WEIGHTS_${set}`)?.getArray();
        if (!joints || !weights) break;
        for (let i = 0; i < joints.length; i++) if (weights[i] === 0) joints[i] = 0;
      }
    }
  }
}
