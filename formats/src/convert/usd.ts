import { InputError } from '@warper/core';
import { unzipSync, zipSync } from 'fflate';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { reasonOf, withBrowserParts } from './browserParts';
import { skeletonsOf, threeToGlb, tieClips } from './threeGlb';

/** Bytes that the layers of an archive may unpack to. */
const MOST_BYTES = 256 * 2 ** 20;

/**
 * A USD file (.usda, .usdc, .usdz) as GLB, read by three's loader: skeletons, skins and animations of UsdSkel, in metres with +Y up.
 *
 * @throws InputError `usd` where it cannot be read
 */
export function usdToGlb(
  bytes: Uint8Array,
): Promise<{ readonly glb: Uint8Array; readonly textures: number }> {
  return withBrowserParts(async () => {
    try {
      const group = parse(bytes);
      tieClips(group.animations, skeletonsOf(group));
      // What is damaged may be told only where it is written again.
      return await threeToGlb(group, group.animations);
    } catch (cause) {
      if (cause instanceof InputError) throw cause;
      throw new InputError('usd', `This USD file cannot be read: ${reasonOf(cause)}.`, {
        hint: 'It may be damaged, or hold what is not read yet: export it as GLB.',
        cause,
      });
    }
  });
}

function parse(bytes: Uint8Array): ReturnType<USDLoader['parse']> {
  const isText = bytes[0] === '#'.charCodeAt(0);
  const isZip = bytes[0] === 'P'.charCodeAt(0) && bytes[1] === 'K'.charCodeAt(0);
  const group = new USDLoader().parse(
    isText ? new TextDecoder().decode(bytes) : (isZip ? layersOf(bytes) : bytes.slice()).buffer,
  );
  group.updateMatrixWorld(true);
  return group;
}

/** An archive with its layers alone: pictures are not read, and nothing unpacks to more than can be held. */
function layersOf(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  let total = 0;
  const layers = unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      if (!/\.usd[ac]?$/i.test(name)) return false;
      total += originalSize;
      if (total > MOST_BYTES)
        throw new InputError('usd', `Its layers unpack to more than ${MOST_BYTES / 2 ** 20} MB.`, {
          hint: 'Export a shorter part of it, or as GLB.',
        });
      return true;
    },
  });
  return zipSync(layers, {
    level: 0,
  });
}
