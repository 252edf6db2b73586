import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { sizedClip } from '@warper/core';
import { jointTracks } from '@warper/core/kernels';
import { writeBvh } from './bvh/write';
import { writeGlb } from './gltf/write';
import type { BvhLayout, GltfLayout } from './imported';
import { readMotionFile } from './read';

const file = (path: string): Uint8Array => new Uint8Array(readFileSync(new URL(path, import.meta.url)));

/** Furthest that places, so many times as large, are from others, metres. */
const worst = (a: Float64Array, b: Float64Array, size: number): number =>
  a.reduce((most, v, i) => Math.max(most, Math.abs(v * size - b[i]!)), 0);

describe('a larger character', () => {
  it.each(['keeper-walk.glb', 'dog-walk.glb'])(
    'is written as a larger body, skin and all: %s',
    async (name) => {
      const body = name.startsWith('dog') ? 'dog.glb' : 'keeper.glb';
      const bytes = file(`../../demo/made/${body}`);
      const { bodies } = await readMotionFile(bytes, body);
      const { clips } = await readMotionFile(file(`../../demo/made/${name}`), name);
      const large = sizedClip({ ...clips[0]!, skeleton: bodies[0]!.skeleton }, 1.5);
      const written = await writeGlb(large, { bytes, layout: bodies[0]!.layout as GltfLayout });
      const again = (await readMotionFile(written, 'out.glb')).clips[0]!;
      const joints = clips[0]!.skeleton.names.map((_, j) => j);
      const [a, b] = [jointTracks(clips[0]!, joints), jointTracks(again, joints)];
      expect(worst(a, b, 1.5)).toBeLessThan(1e-4);
    },
  );

  it('is written as a larger body in BVH too', async () => {
    const name = 'cmu-01-01-excerpt.bvh';
    const { clips, bodies } = await readMotionFile(file(`../fixtures/${name}`), name);
    const text = writeBvh(sizedClip(clips[0]!, 2), { layout: bodies[0]!.layout as BvhLayout });
    const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
    const scale = (bodies[0]!.layout as BvhLayout).metresPerUnit;
    const again = (await readMotionFile(bytes, name, { scale })).clips[0]!;
    const joints = clips[0]!.skeleton.names.map((_, j) => j);
    const [a, b] = [jointTracks(clips[0]!, joints), jointTracks(again, joints)];
    expect(worst(a, b, 2)).toBeLessThan(1e-4);
  });
});
