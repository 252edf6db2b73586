import type { BakeOrder } from '@warper/formats';
import { USUAL_BAKE, fileName } from '@warper/formats';
import type { Clip } from '@warper/core';
import { CLIP_SCENE_CHARACTER, defined } from '@warper/core';
import { motion } from '../../../data/motion';
import { compiler, keepRead, library } from '../../../data/pageLibrary';
import { db } from '../../../data/db';
import type { Variant } from './variant';
import { variantScene } from './variant';

/**
 * Bakes a variant of a clip on its own bones into a file of its own, and keeps that in the library under the name.
 *
 * @returns the id of the new clip
 */
export async function makeClip(clip: Clip, variant: Variant, name: string): Promise<string> {
  const scene = variantScene(clip, library.bodyOfClip(clip).id, variant, 1);
  const order: BakeOrder = {
    name,
    characters: [CLIP_SCENE_CHARACTER],
    spans: [{ name: '', from: 0, to: compiler.compile(scene).end }],
    settings: USUAL_BAKE,
  };
  const { files } = await motion.bake({ scene, order }, () => undefined, new AbortController().signal);
  const bytes = new Uint8Array(await defined(files[0]).file.arrayBuffer());
  const result = await motion.read(bytes, `${fileName(name)}.glb`);
  const cached = await db.clips.get(defined(result.clips[0]).id);
  if (cached) return cached.id;
  await keepRead({ ...result, clips: result.clips.map((c) => ({ ...c, name })) });
  return defined(result.clips[0]).id;
}
