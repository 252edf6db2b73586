import type { Clip } from '@warper/core';
import { CLIP_SCENE_CHARACTER } from '@warper/core';
import { bakeInWorker, readInWorker } from '../../motion/client';
import { keepRead, library } from '../../motion/pageLibrary';
import { fileName } from '../../parts/download';
import { db } from '../../storage/db';
import type { Variant } from './variant';
import { variantScene } from './variant';

/**
 * Bakes a variant of a clip on its own bones into a file of its own, and keeps that in the library under the name.
 *
 * @returns the id of the new clip
 */
export async function makeClip(clip: Clip, variant: Variant, name: string): Promise<string> {
  const scene = variantScene(clip, library.bodyOfClip(clip).id, variant, 1);
  const baked = await bakeInWorker(
    { scene, character: CLIP_SCENE_CHARACTER, format: 'glb', options: {} },
    () => undefined,
    new AbortController().signal,
  );
  const result = await readInWorker(baked.bytes, `${fileName(name)}.glb`);
  const known = await db.clips.get(result.clips[0]!.id);
  if (known) return known.id;
  await keepRead({ ...result, clips: result.clips.map((c) => ({ ...c, name })) });
  return result.clips[0]!.id;
}
