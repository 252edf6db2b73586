import type { Clip, MotionPieces } from '@warper/core';
import { piecesOf } from '@warper/core';
import { BvhText } from './bvh/write';
import { glbParts } from './gltf/write';
import type { Body } from './imported';
import { joinBytes } from './joinBytes';

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
  const parts: Uint8Array[] = [];
  for await (const part of motionParts(piecesOf(clip), options)) parts.push(part);
  return joinBytes(parts);
}

/**
 * Writes a motion that comes in pieces, in parts that follow each other; see `writeMotion`. Of a BVH only one piece is there at a
 * time; a GLB, whose tracks lie joint by joint, is there once.
 */
async function* motionParts(motion: MotionPieces, options: WriteOptions): AsyncGenerator<Uint8Array> {
  const { format, body, bytes, withMesh = true, unitsPerMetre } = options;
  const { layout } = body;
  if (format === 'glb') {
    yield* await glbParts(motion, withMesh && layout.kind === 'gltf' ? { bytes, layout } : undefined);
    return;
  }
  const text = new BvhText(motion, { layout: layout.kind === 'bvh' ? layout : undefined, unitsPerMetre });
  const encoder = new TextEncoder();
  yield encoder.encode(text.head());
  for await (const piece of motion.pieces()) yield encoder.encode(text.rows(piece));
}
