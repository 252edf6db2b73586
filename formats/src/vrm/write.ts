import type { Clip } from '@warper/core';
import { humanoidClip, piecesOf, plantedSpans } from '@warper/core';
import { editedGlb } from '../gltf/editedGlb';
import type { KeyChoice, MotionTracks } from '../gltf/motionTracks';
import { glbOfPerformers } from '../gltf/write';
import { joinBytes } from '../joinBytes';

/** The extension that makes a glTF file a VRM animation (VRM Consortium, VRMC_vrm_animation 1.0). */
const EXTENSION = 'VRMC_vrm_animation';

/** What is written of a VRM animation beside its motion. */
export interface VrmOptions {
  readonly keys?: KeyChoice;
  readonly progress?: (share: number) => void | Promise<void>;
  readonly onTracks?: (tracks: MotionTracks) => void;
}

/**
 * Motions of one character as the parts of a VRM animation: the humanoid's bones in T-pose, each take an animation of their rotations and
 * of the place of the hips.
 *
 * @throws InputError `no-humanoid` for a body that is none
 */
export async function vrmaParts(
  takes: readonly { readonly name: string; readonly clip: Clip }[],
  { keys = 'every', progress, onTracks }: VrmOptions = {},
): Promise<Uint8Array[]> {
  const clips = takes.map(({ clip }) => humanoidClip(clip));
  const [first] = clips;
  const motions = clips.map((clip) =>
    keys === 'every' ? piecesOf(clip) : { ...piecesOf(clip), exact: plantedSpans(clip) },
  );
  const glb = await glbOfPerformers([{ name: first?.name ?? '', takes: motions }], {
    takes: takes.map(({ name }) => name),
    keys,
    progress,
    onTracks,
  });
  // Without a body of its own each joint is the node of its number.
  const humanBones = Object.fromEntries(first?.skeleton.names.map((role, node) => [role, { node }]) ?? []);
  return editedGlb(joinBytes(glb), (document) => {
    document.extensionsUsed = [EXTENSION];
    document.extensions = { [EXTENSION]: { specVersion: '1.0', humanoid: { humanBones } } };
  });
}
