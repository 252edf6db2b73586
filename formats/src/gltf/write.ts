import { Document, Logger, WebIO } from '@gltf-transform/core';
import type { Node } from '@gltf-transform/core';
import type { Clip, Pose } from '@warper/core';
import { makePoseBuffer, samplePose } from '@warper/core';
import { quatConjugate, quatMultiply, quatNormalize, quatRotate } from '@warper/core/kernels';
import type { GltfLayout } from '../imported';
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
export async function writeGlb(clip: Clip, source?: GltfSource): Promise<Uint8Array> {
  const document = source ? await openDocument(source.bytes, source.beside) : boneDocument(clip);
  document.getRoot().getAsset().generator = 'Warper';
  dropAnimations(document);
  const all = document.getRoot().listNodes();
  const nodes = clip.skeleton.names.map((_, i) => all[source ? source.layout.nodes[i]! : i]!);
  if (source) {
    // A larger character is its own body under a larger topmost joint, so that its skin grows along.
    const [x, y, z] = nodes[0]!.getScale();
    const { size } = clip.skeleton;
    nodes[0]!.setScale([x * size, y * size, z * size]);
  }
  animate(document, clip, nodes, source ? sizedLayout(source.layout, clip) : plainLayout(clip));
  clearUnusedJoints(document);
  mergeBuffers(document);
  return new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).writeBinary(document);
}

function boneDocument(clip: Clip): Document {
  const { skeleton } = clip;
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
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

const plainLayout = (clip: Clip): GltfLayout => ({
  kind: 'gltf',
  nodes: clip.skeleton.names.map((_, i) => i),
  scales: clip.skeleton.names.map(() => 1),
  aboveRotation: [0, 0, 0, 1],
  abovePosition: [0, 0, 0],
});

/** The layout with the scale that the topmost joint gives to those below it. */
const sizedLayout = (layout: GltfLayout, { skeleton }: Clip): GltfLayout => ({
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

function animate(document: Document, clip: Clip, nodes: readonly Node[], layout: GltfLayout): void {
  const { frames, rate, skeleton } = clip;
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
  const times = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(Float32Array.from({ length: frames }, (_, f) => f / rate))
    .setBuffer(buffer);
  const animation = document.createAnimation(clip.name).setExtras({ rate });
  const { rotations, translations } = fileTransforms(clip, layout);
  const add = (joint: number, path: 'rotation' | 'translation', values: Float32Array): void => {
    const output = document
      .createAccessor()
      .setType(path === 'rotation' ? 'VEC4' : 'VEC3')
      .setArray(values)
      .setBuffer(buffer);
    const sampler = document
      .createAnimationSampler()
      .setInput(times)
      .setOutput(output)
      .setInterpolation('LINEAR');
    animation.addSampler(sampler);
    animation.addChannel(
      document.createAnimationChannel().setTargetNode(nodes[joint]!).setTargetPath(path).setSampler(sampler),
    );
  };
  skeleton.names.forEach((_, joint) => {
    add(joint, 'rotation', rotations[joint]!);
    if (clip.translated.includes(joint)) add(joint, 'translation', translations[joint]!);
  });
}

/** The clip's local transforms as the file's nodes mean them: under the nodes above, in their scales. */
function fileTransforms(
  clip: Clip,
  layout: GltfLayout,
): { rotations: Float32Array[]; translations: Float32Array[] } {
  const { frames, skeleton } = clip;
  const joints = skeleton.names.length;
  const rotations = skeleton.names.map(() => new Float32Array(frames * 4));
  const translations = skeleton.names.map(() => new Float32Array(frames * 3));
  const buffer = makePoseBuffer(skeleton);
  const inverse = new Float64Array(4);
  quatConjugate(Float64Array.from(layout.aboveRotation), 0, inverse, 0);
  const before = new Float64Array(joints * 4);
  for (let f = 0; f < frames; f++) {
    const pose = samplePose(clip, f, buffer);
    outOfNode(pose, inverse, layout);
    for (let j = 0; j < joints; j++) {
      quatNormalize(pose.rotations, j * 4);
      if (f > 0) sameSide(pose.rotations, before, j * 4);
      rotations[j]!.set(pose.rotations.subarray(j * 4, j * 4 + 4), f * 4);
      for (let k = 0; k < 3; k++)
        translations[j]![f * 3 + k] = pose.translations[j * 3 + k]! / layout.scales[j]!;
    }
    before.set(pose.rotations);
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
