import { InputError } from '@warper/core';
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js';
import { reasonOf, withBrowserParts } from './browserParts';
import { skeletonsOf, threeToGlb } from './threeGlb';

/**
 * A Collada file (.dae, COLLADA 1.4) as GLB, read by three's loader: skeletons, skins and animations, in metres with +Y up.
 *
 * @throws InputError `collada` where it cannot be read
 */
export function colladaToGlb(
  bytes: Uint8Array,
): Promise<{ readonly glb: Uint8Array; readonly textures: number }> {
  const whole = new TextDecoder().decode(bytes);
  // Pictures are not read, so that nothing is asked for that a file names.
  const text = whole.replace(/<library_images\b[\s\S]*?<\/library_images>/g, '');
  const textures = whole.length > text.length ? 1 : 0;
  return withBrowserParts(async () => {
    try {
      // It gives nothing where the XML is damaged.
      const read = new ColladaLoader().parse(text, '');
      if (!read) throw unreadable('its XML is damaged');
      read.scene.updateMatrixWorld(true);
      const skeletons = skeletonsOf(read.scene);
      for (const clip of read.scene.animations)
        if (clip.name === 'default') clip.name = skeletons[0]?.owner ?? '';
      // What is damaged may be told only where it is written again.
      const converted = await threeToGlb(read.scene, read.scene.animations);
      return { ...converted, textures: textures + converted.textures };
    } catch (cause) {
      throw cause instanceof InputError ? cause : unreadable(reasonOf(cause), cause);
    }
  });
}

const unreadable = (why: string, cause?: unknown): InputError =>
  new InputError('collada', `This Collada file cannot be read: ${why}.`, {
    hint: 'It may be damaged or incomplete: export it again, or as GLB.',
    cause,
  });
