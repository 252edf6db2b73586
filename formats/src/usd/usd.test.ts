import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import {
  bakePieces,
  compile,
  defined,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
} from '@warper/core';
import { unzipSync } from 'fflate';
import type { Group, Object3D } from 'three';
import { AnimationMixer, SkinnedMesh, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { assembleCues } from '../cues/assemble';
import { parseCueSheet } from '../cues/sheet';
import { load, turn, walk } from '../cues/testing';
import type { Performer } from '../gltf/write';
import { glbOfPerformers } from '../gltf/write';
import type { GltfLayout } from '../imported';
import { joinBytes } from '../joinBytes';
import { usdMatrix, usdNames, usdNumber, usdQuaternions, usdString } from './text';
import { usdParts } from './write';
import { usdz } from './usdz';

const sheet = {
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters: [
    { name: 'The Keeper', body: 'keeper.glb', cues: [walk, turn] },
    { name: '2nd/dog', body: 'dog.glb', start: { x: 2 }, cues: [{ clip: 'dog-walk.glb', repeat: 3 }] },
  ],
};
const { scene: assembled, library } = await assembleCues(parseCueSheet(sheet), load);
const [first] = assembled.characterOrder;
// A larger character carries its skin along.
const scene = {
  ...assembled,
  characters: Object.fromEntries(
    Object.entries(assembled.characters).map(([id, c]) => [id, { ...c, size: id === first ? 1.2 : 1 }]),
  ),
};
const plan = compile(scene, library);
const [from, to] = [0, 60];

const performers = plan.characters.map(
  (c): { readonly plan: CharacterPlan; readonly performer: Performer } => {
    const { body, source } = defined(library.bodyEntry(c.character.body));
    const motion = bakePieces(c, plan.rate, { from, to });
    return {
      plan: c,
      performer: {
        name: c.character.name,
        takes: [motion],
        source: { bytes: source.bytes, layout: body.layout as GltfLayout },
      },
    };
  },
);

async function written(): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  const cast = performers.map(({ performer: { name, takes, source } }) => ({
    name,
    motion: takes[0]!,
    source,
  }));
  for await (const part of usdParts(cast, 'A "round"')) parts.push(part);
  return joinBytes(parts);
}

/** A file played by three's mixer, up to a time. */
function player(scene: Object3D, animations: Group['animations']): (seconds: number) => void {
  const mixers = animations.map((animation) => {
    const mixer = new AnimationMixer(scene);
    mixer.clipAction(animation).play();
    return mixer;
  });
  return (seconds) => {
    for (const mixer of mixers) mixer.setTime(seconds);
    scene.updateMatrixWorld(true);
  };
}

const skinsOf = (scene: Object3D): SkinnedMesh[] => {
  const skins: SkinnedMesh[] = [];
  scene.traverse((o) => void (o instanceof SkinnedMesh && skins.push(o)));
  return skins;
};

describe('USD text', () => {
  it('is read by three with every joint of one character where it is', async () => {
    for (const { plan: character, performer } of performers) {
      const parts: Uint8Array[] = [];
      const { name, source } = performer;
      for await (const part of usdParts([{ name, motion: performer.takes[0]!, source }], 'one'))
        parts.push(part);
      const group = new USDLoader().parse(new TextDecoder().decode(joinBytes(parts)));
      expect(group.animations).toHaveLength(1);
      const seek = player(group, group.animations);
      const { bones } = defined(skinsOf(group)[0]).skeleton;
      expect(bones.map((b) => b.name)).toEqual(usdNames(character.skeleton.names));
      const place = new Vector3();
      for (let i = 0; i < 20; i++) {
        const frame = Math.round(((to - from - 1) * i) / 19);
        seek(frame / 30);
        const pose = evaluate(character, from + frame, makePoseBuffer(character.skeleton));
        const { positions } = poseToWorld(character.skeleton, pose, makeWorldPose(character.skeleton));
        bones.forEach((bone, j) => {
          const off = Math.hypot(
            ...bone
              .getWorldPosition(place)
              .toArray()
              .map((v, k) => v - positions[j * 3 + k]!),
          );
          expect(off).toBeLessThan(1e-4);
        });
      }
    }
  });

  it('carries the skin to where glTF has it', async () => {
    for (const { performer } of performers) {
      const { name, takes, source } = performer;
      const parts: Uint8Array[] = [];
      for await (const part of usdParts([{ name, motion: takes[0]!, source }], 'one')) parts.push(part);
      const usd = new USDLoader().parse(new TextDecoder().decode(joinBytes(parts)));
      const glb = joinBytes(await glbOfPerformers([performer]));
      const gltf = await new GLTFLoader().parseAsync(glb.slice().buffer, '');
      const seeks = [player(usd, usd.animations), player(gltf.scene, gltf.animations)];
      const [own, other] = [skinsOf(usd), skinsOf(gltf.scene)];
      expect(own.length).toBe(other.length);
      const [a, b] = [new Vector3(), new Vector3()];
      // A reader may put points in another order: each of some is near one of the other.
      const at = (skin: SkinnedMesh, i: number, out: Vector3): Vector3 =>
        skin.getVertexPosition(i, out).applyMatrix4(skin.matrixWorld);
      for (const seconds of [0, 0.5, 1.5]) {
        for (const seek of seeks) seek(seconds);
        own.forEach((skin, s) => {
          const count = skin.geometry.getAttribute('position').count;
          const others = defined(other[s]);
          const all = Array.from({ length: others.geometry.getAttribute('position').count }, (_, i) =>
            at(others, i, b).toArray(),
          );
          for (let i = 0; i < count; i += Math.ceil(count / 40)) {
            const p = at(skin, i, a).toArray();
            const nearest = Math.min(...all.map((q) => Math.hypot(...q.map((v, k) => v - p[k]!))));
            expect(nearest).toBeLessThan(2e-4);
          }
        });
      }
    }
  });

  it('holds several, with names that its grammar takes, and what it is measured in', async () => {
    const text = new TextDecoder().decode(await written());
    expect(text).toMatch(/^#usda 1\.0\n/);
    for (const line of [
      'metersPerUnit = 1',
      'upAxis = "Y"',
      'timeCodesPerSecond = 30',
      `endTimeCode = ${to - from - 1}`,
      'doc = "A \\"round\\""',
    ])
      expect(text).toContain(line);
    expect([...text.matchAll(/def SkelRoot "([^"]*)"/g)].map((m) => m[1])).toEqual([
      'The_Keeper',
      '_2nd_dog',
    ]);
    expect(text).not.toMatch(/NaN|Infinity|undefined/);
    const group = new USDLoader().parse(text);
    expect(group.animations).toHaveLength(2);
    expect(skinsOf(group).length).toBeGreaterThanOrEqual(2);
  });

  it('is packed as USDZ: as it is, at a multiple of 64 bytes, and read again', async () => {
    const layer = await written();
    for (const name of ['a', 'The-Lamp-Round', 'x'.repeat(60)]) {
      const pack = usdz(layer, name);
      const files = unzipSync(pack);
      expect(Object.keys(files)).toEqual([`${name}.usda`]);
      const view = new DataView(pack.buffer, pack.byteOffset);
      const start = 30 + view.getUint16(26, true) + view.getUint16(28, true);
      expect([start % 64, view.getUint16(8, true)]).toEqual([0, 0]);
      expect(pack.subarray(start, start + 10)).toEqual(layer.subarray(0, 10));
    }
    const group = new USDLoader().parse(usdz(layer, 'round').slice().buffer);
    expect(group.animations).toHaveLength(2);
  });

  it('writes numbers without exponents, and matrices by rows', () => {
    expect([0, -0, 1e-9, 0.5, -2, 1234567.25, 0.1234567].map(usdNumber)).toEqual([
      '0',
      '0',
      '0',
      '0.5',
      '-2',
      '1234567.25',
      '0.123457',
    ]);
    expect(usdQuaternions([0.1, 0.2, 0.3, 0.9])).toBe('[(0.9, 0.1, 0.2, 0.3)]');
    expect(usdMatrix([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 7, 8, 9, 1])).toMatch(/\(7, 8, 9, 1\)\)$/);
    expect(usdNames(['a b', 'a_b', '', '9'])).toEqual(['a_b', 'a_b_2', '_', '_9']);
    expect(usdString('a"\\\n')).toBe('"a\\"\\\\ "');
  });
});
