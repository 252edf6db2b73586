import { describe, expect, it } from '@jest/globals';
import {
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_SEGMENT,
  bake,
  compile,
  emptyScene,
  fixedLibrary,
} from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import { makeTestGlb } from '../testing';
import { readGltf } from './read';
import { writeGlb } from './write';
import { readBvh } from '../bvh/read';
import { writeBvh } from '../bvh/write';

const FRAMES = 13;
const times = Array.from({ length: FRAMES }, (_, f) => f / 30);
const NODES = [
  { name: 'root' },
  { name: 'hips', parent: 'root', translation: [0, 0.9, 0] as [number, number, number] },
  { name: 'spine', parent: 'hips', translation: [0, 0.3, 0] as [number, number, number] },
];
/** The root bone turns and goes; the hips sway and bob above it. */
const turn = (f: number): number => 0.05 * f;
const file = () =>
  makeTestGlb(NODES, {
    go: [
      { node: 'root', path: 'translation', times, values: times.flatMap((_, f) => [0.01 * f, 0, 0.04 * f]) },
      {
        node: 'root',
        path: 'rotation',
        times,
        values: times.flatMap((_, f) => [0, Math.sin(turn(f) / 2), 0, Math.cos(turn(f) / 2)]),
      },
      {
        node: 'hips',
        path: 'translation',
        times,
        values: times.flatMap((_, f) => [0.02 * Math.sin(f), 0.9 + 0.01 * Math.cos(f), 0]),
      },
    ],
  });

describe('a file whose root bone travels', () => {
  it('gives a bake whose root bone travels as it did, as GLB and as BVH', async () => {
    const bytes = await file();
    const read = await readGltf(bytes, 'go.glb');
    const clip = read.clips[0]!;
    expect(clip.travelBone).toMatchObject({ joint: 0, turned: true });
    const segment = { ...PLAIN_SEGMENT, id: 's', name: 'go', clip: clip.id, out: FRAMES };
    const scene = {
      ...emptyScene('x', 30),
      characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'c', body: 'b' } },
      characterOrder: ['c'],
      lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body' as const, character: 'c', segments: ['s'] } },
      laneOrder: ['l'],
      segments: { s: segment },
    };
    const plan = compile(scene, fixedLibrary({ clip: () => clip, body: () => clip.skeleton }));
    const baked = bake(plan.characters[0]!, plan.rate);
    const body = read.bodies[0]!;
    const layout = body.layout.kind === 'gltf' ? body.layout : null;
    const again = [
      (await readGltf(await writeGlb(baked, { bytes, layout: layout! }), 'again.glb')).clips[0]!,
      readBvh(new TextEncoder().encode(writeBvh(baked)), 'again.bvh', { scale: 1 }).clips[0]!,
    ];
    for (const made of again) {
      expect(made.travelBone).toMatchObject({ joint: 0, turned: true });
      rootTrack(clip).forEach((v, i) => expect(rootTrack(made)[i]).toBeCloseTo(v, 4));
      const width = made.translated.length * 3;
      for (let f = 0; f < FRAMES; f++)
        for (let k = 0; k < 3; k++)
          expect(made.translations[f * width + k]).toBeCloseTo(
            clip.translations[f * clip.translated.length * 3 + k]!,
            4,
          );
    }
  });
});
