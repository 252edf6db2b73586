import type { Node } from '@gltf-transform/core';
import { Document, Logger, WebIO } from '@gltf-transform/core';
import type { Clip, MotionPieces } from '@warper/core';
import { defined, piecesOf } from '@warper/core';
import type { GltfLayout } from '../imported';
import { joinBytes } from '../joinBytes';
import type { NodeAnimation, NodeTrack } from './animatedGlb';
import { animatedGlb } from './animatedGlb';
import type { FilmedTakes } from './cameras';
import { addCameras, cameraTracks, sampleTimes } from './cameras';
import { copyInto } from './copyInto';
import { openDocument } from './open';
import { mergeBuffers } from './mergeBuffers';
import type { KeyChoice, MotionTracks, WrittenMotion } from './motionTracks';
import { motionTracks } from './motionTracks';

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

/** One of those who perform in a file. */
export interface Performer {
  readonly name: string;
  /** One for each take of the file, in order. */
  readonly takes: readonly WrittenMotion[];
  readonly source?: GltfSource;
  /** Names of the joints in the file; default those of the skeleton. */
  readonly jointNames?: readonly string[];
}

/** What a GLB is written with. */
export interface GlbOptions {
  /** Names of the animations, one for each take; default that of the first motion of each. */
  readonly takes?: readonly string[];
  /** Name of the file's scene, where several perform. */
  readonly scene?: string;
  readonly keys?: KeyChoice;
  /** Cameras that the file holds beside those who perform, with a motion for each take. */
  readonly cameras?: readonly FilmedTakes[];
  /** Gets the share of the keys that is reduced; what it throws, or rejects with, ends the work. */
  readonly progress?: (share: number) => void | Promise<void>;
  /** Called with what was left of the keys, one take of one performer after the other. */
  readonly onTracks?: (tracks: MotionTracks) => void;
}

/** A motion as the parts of a GLB, in order; see `writeGlb`. The samples are there once, in the order of the file. */
export const glbParts = (
  motion: WrittenMotion,
  source?: GltfSource,
  keys: KeyChoice = 'every',
): Promise<Uint8Array[]> => glbOfPerformers([{ name: motion.name, takes: [motion], source }], { keys });

/**
 * Those who perform as the parts of one GLB: one body as its own file has it, several below a node of their characters' names. Each take is
 * an animation that moves all of them; the motions of a take must be of one length and rate.
 */
export async function glbOfPerformers(
  performers: readonly Performer[],
  { takes, scene = '', keys = 'every', cameras = [], progress, onTracks }: GlbOptions = {},
): Promise<Uint8Array[]> {
  const stills = await Promise.all(performers.map((p) => stillBody(p)));
  const [only] = stills;
  const { document, nodes } =
    only && stills.length === 1
      ? { document: only.document, nodes: [only.nodes] }
      : gathered(performers, stills, scene);
  const filming = addCameras(document, cameras);
  document.getRoot().getAsset().generator = 'Warper';
  mergeBuffers(document);
  const still = await new WebIO().setLogger(SILENT).writeBinary(document);
  const all = new Map(
    document
      .getRoot()
      .listNodes()
      .map((node, i) => [node, i]),
  );
  const filmed = document.getRoot().listCameras();
  const animations: NodeAnimation[] = [];
  const [first] = performers;
  const parts = performers.length * (first?.takes.length ?? 0);
  let done = 0;
  for (const [t, motion] of (first?.takes ?? []).entries()) {
    const tracks: NodeTrack[] = [];
    for (const [p, performer] of performers.entries()) {
      const own = defined(performer.takes[t]);
      const indices = defined(nodes[p]).map((node) => defined(all.get(node)));
      const before = done++;
      const share = (s: number): void | Promise<void> => progress?.((before + s) / parts);
      const made = await motionTracks(own, layoutOf(own, performer.source), indices, keys, share);
      onTracks?.(made);
      tracks.push(...made.tracks);
    }
    cameras.forEach((camera, c) => {
      const own = defined(camera.takes[t]);
      const times = tracks.find((track) => track.times.length === own.frames)?.times ?? sampleTimes(own);
      const at = filmed.indexOf(defined(defined(filming[c]).getCamera()));
      tracks.push(...cameraTracks(own, defined(all.get(defined(filming[c]))), at, times));
    });
    animations.push({ name: takes?.[t] ?? motion.name, rate: motion.rate, tracks });
  }
  return animatedGlb(still, animations);
}

interface Still {
  readonly document: Document;
  /** The nodes of the joints. */
  readonly nodes: readonly Node[];
}

/** The bodies in one document, each below a node of its character's name; and the nodes of the joints of each. */
function gathered(
  performers: readonly Performer[],
  stills: readonly Still[],
  name: string,
): { readonly document: Document; readonly nodes: readonly (readonly Node[])[] } {
  const document = new Document().setLogger(SILENT);
  const scene = document.createScene(name);
  document.getRoot().setDefaultScene(scene);
  const nodes = stills.map((still, i) => {
    const copied = copyInto(document, still.document);
    const above = document.createNode(defined(performers[i]).name);
    scene.addChild(above);
    for (const own of still.document.getRoot().listScenes()) {
      // What has a skin is moved by its joints alone, and belongs to no other node (glTF 2.0.1, section 3.7.3.1).
      for (const child of own.listChildren()) (child.getSkin() ? scene : above).addChild(copied(child));
      copied(own).dispose();
    }
    return still.nodes.map(copied);
  });
  return { document, nodes };
}

const SILENT = new Logger(Logger.Verbosity.SILENT);

const layoutOf = (motion: MotionPieces, source: GltfSource | undefined): GltfLayout =>
  source ? sizedLayout(source.layout, motion) : plainLayout(motion);

/** The document of a body that nothing moves yet, and the node of each of its joints. */
async function stillBody({ takes, source, jointNames }: Performer): Promise<Still> {
  const motion = defined(takes[0]);
  const document = source ? await openDocument(source.bytes, source.beside) : boneDocument(motion);
  dropAnimations(document);
  const all = document.getRoot().listNodes();
  const nodes = motion.skeleton.names.map((_, i) => all[source ? source.layout.nodes[i]! : i]!);
  jointNames?.forEach((name, i) => nodes[i]?.setName(name));
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
