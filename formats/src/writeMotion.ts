import type { Clip } from '@warper/core';
import { writeBvh } from './bvh/write';
import { writeGlb } from './gltf/write';
import type { Body } from './imported';

/** How a motion is written. */
export interface WriteOptions {
  readonly format: 'bvh' | 'glb';
  /** The body whose file the motion is written like, and that file's content. */
  readonly body: Body;
  readonly bytes: Uint8Array;
  /** Whether a body's mesh goes with it; default true. BVH holds none. */
  readonly withMesh?: boolean;
  /** Units a metre of a BVH; default the body's own. */
  readonly unitsPerMetre?: number;
}

/** Writes a motion as its body's own file has it: BVH with the same joints, channels and units, GLB with its mesh. */
export async function writeMotion(clip: Clip, options: WriteOptions): Promise<Uint8Array> {
  const { format, body, bytes, withMesh = true, unitsPerMetre } = options;
  const { layout } = body;
  if (format === 'bvh') {
    const text = writeBvh(clip, { layout: layout.kind === 'bvh' ? layout : undefined, unitsPerMetre });
    return new TextEncoder().encode(text);
  }
  return writeGlb(clip, withMesh && layout.kind === 'gltf' ? { bytes, layout } : undefined);
}
