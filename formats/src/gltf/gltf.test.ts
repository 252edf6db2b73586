import { readFileSync } from 'node:fs';
import validator from 'gltf-validator';
import { describe, expect, it } from '@jest/globals';
import type { Clip } from '@warper/core';
import { InputError } from '@warper/core';
import { jointTracks, quatAngle } from '@warper/core/kernels';
import fc from 'fast-check';
import { CubicInterpolant, Quaternion, QuaternionLinearInterpolant } from 'three';
import { readMotionFile } from '../read';
import { makeTestGlb } from '../testing';
import { readGltf } from './read';
import { sampleKeys } from './sampler';
import { WebIO } from '@gltf-transform/core';
import { mergeBuffers } from './mergeBuffers';
import { openDocument } from './open';
import { filesBeside, packGltf } from './pack';
import { writeGlb } from './write';
import { evenly } from '../../../core/src/testing/evenly';

const fixture = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../fixtures/${name}`, import.meta.url)));
// Khronos glTF sample models, see formats/fixtures/README.md.
const simpleSkin = fixture('khronos-simple-skin.gltf');
const HALF = Math.SQRT1_2;

/** Hips over two legs, under nodes that turn and scale them; 2 m high in the world. */
const nodes = [
  {
    name: 'Armature',
    rotation: [-HALF, 0, 0, HALF] as [number, number, number, number],
    scale: [0.01, 0.01, 0.01] as [number, number, number],
  },
  { name: 'hips', parent: 'Armature', translation: [0, 0, 100] as [number, number, number] },
  { name: 'LeftUpLeg', parent: 'hips', translation: [10, 0, 0] as [number, number, number] },
  { name: 'RightUpLeg', parent: 'hips', translation: [-10, 0, 0] as [number, number, number] },
  { name: 'head', parent: 'hips', translation: [0, 0, 100] as [number, number, number] },
];
const thirds = [0, 1 / 30, 2 / 30];
const place = (clip: Clip, joint: string, sample: number): number[] => {
  const index = clip.skeleton.names.indexOf(joint);
  return [...jointTracks(clip, [index]).slice(sample * 3, sample * 3 + 3)];
};

describe('reading glTF', () => {
  it('reads the Khronos sample: two joints, one take, embedded buffers', async () => {
    const { bodies, clips, format } = await readMotionFile(simpleSkin, 'simple-skin.gltf');
    expect(format).toBe('gltf');
    expect(bodies[0]!.skinned).toBe(true);
    expect(bodies[0]!.skeleton.names).toHaveLength(2);
    expect(clips[0]!.frames).toBe(166);
    // The sample turns its second joint a quarter turn about Z by the first second.
    const q = clips[0]!.rotations.slice((30 * 2 + 1) * 4, (30 * 2 + 1) * 4 + 4);
    expect(quatAngle(Float64Array.from(q), 0, Float64Array.of(0, 0, 0.707, 0.707), 0)).toBeLessThan(1e-3);
  });

  it('folds in rotated and scaled nodes above the skeleton', async () => {
    const glb = await makeTestGlb(nodes, {
      go: [
        { node: 'hips', path: 'translation', times: thirds, values: [0, 0, 100, 0, -50, 100, 0, -100, 100] },
      ],
    });
    const { clips, bodies } = await readGltf(glb, 'a.glb');
    expect(bodies[0]!.skeleton.names).toContain('hips');
    place(clips[0]!, 'hips', 0).forEach((v, k) => expect(v).toBeCloseTo([0, 1, 0][k]!, 6));
    place(clips[0]!, 'hips', 2).forEach((v, k) => expect(v).toBeCloseTo([0, 1, 1][k]!, 6));
  });

  it('reads several takes with uneven keys, and names the rate on which they fall', async () => {
    const turn = (times: number[]): object => ({
      node: 'head',
      path: 'rotation',
      times,
      values: times.flatMap(() => [0, 0, 0, 1]),
    });
    const glb = await makeTestGlb(nodes, {
      even: [turn([0, 0.5, 2]) as never],
      film: [turn([0, 1 / 24, 5 / 24]) as never],
      uneven: [turn([0, 0.0137, 0.3]) as never],
      late: [turn([1, 1 + 10 / 30]) as never],
    });
    const { clips, remarks } = await readGltf(glb, 'a.glb');
    expect(clips.map((c) => [c.name, c.rate, c.frames])).toEqual([
      ['even', 30, 61],
      ['film', 24, 6],
      ['uneven', 60, 19],
      ['late', 30, 11],
    ]);
    expect(remarks.map((r) => r.code)).toEqual(['uneven-keys']);
  });

  it('leaves out what it cannot keep, and says so', async () => {
    const glb = await makeTestGlb(nodes, {
      grow: [
        { node: 'head', path: 'rotation', times: thirds, values: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1] },
        { node: 'head', path: 'scale', times: thirds, values: [1, 1, 1, 2, 2, 2, 3, 3, 3] },
      ],
    });
    const { remarks } = await readGltf(glb, 'a.glb');
    expect(remarks).toEqual([{ code: 'left-out', message: 'grow: the animation of scale was left out.' }]);
  });
});

// glTF 2.0.1, Appendix C, computed here from the printed formulas; and three's interpolants (MIT) as a peer.
describe('key modes', () => {
  const times = Float64Array.of(0, 0.5, 2);
  it('STEP keeps the last key', () => {
    const keys = {
      times,
      values: Float64Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9),
      size: 3,
      mode: 'STEP',
    } as const;
    expect([...sampleKeys(keys, 0.499, new Float64Array(3), 0)]).toEqual([1, 2, 3]);
    expect([...sampleKeys(keys, 0.5, new Float64Array(3), 0)]).toEqual([4, 5, 6]);
  });

  it('LINEAR is linear, and spherical for rotations', () => {
    fc.assert(
      fc.property(evenly(0, 2), (t) => {
        const q = [
          new Quaternion(),
          new Quaternion().setFromAxisAngle({ x: 0, y: 1, z: 0 }, 2),
          new Quaternion(0.5, 0.5, -0.5, 0.5),
        ];
        const values = Float64Array.from(q.flatMap((v) => v.toArray()));
        const out = sampleKeys({ times, values, size: 4, mode: 'LINEAR' }, t, new Float64Array(4), 0);
        const peer = new QuaternionLinearInterpolant(times, values, 4, new Float64Array(4)).evaluate(
          t,
        ) as Float64Array;
        expect(quatAngle(out, 0, peer, 0)).toBeLessThan(1e-7);
        const linear = sampleKeys(
          { times, values: Float64Array.of(0, 0, 0, 1, 2, 3, 0, 2, 4), size: 3, mode: 'LINEAR' },
          t,
          new Float64Array(3),
          0,
        );
        expect(linear[0]).toBeCloseTo(t < 0.5 ? t / 0.5 : 1 - (t - 0.5) / 1.5, 9);
      }),
    );
  });

  it('CUBICSPLINE is the Hermite spline of the appendix', () => {
    const values = Float64Array.from({ length: 27 }, (_, i) => Math.sin(i * 1.7));
    fc.assert(
      fc.property(evenly(0.5, 1.999), (t) => {
        const out = sampleKeys({ times, values, size: 3, mode: 'CUBICSPLINE' }, t, new Float64Array(3), 0);
        const td = 1.5;
        const u = (t - 0.5) / td;
        for (let k = 0; k < 3; k++) {
          const [v0, b0, a1, v1] = [
            values[9 + 3 + k]!,
            values[9 + 6 + k]!,
            values[18 + k]!,
            values[18 + 3 + k]!,
          ];
          const expected =
            (2 * u ** 3 - 3 * u ** 2 + 1) * v0 +
            td * (u ** 3 - 2 * u ** 2 + u) * b0 +
            (-2 * u ** 3 + 3 * u ** 2) * v1 +
            td * (u ** 3 - u ** 2) * a1;
          expect(out[k]).toBeCloseTo(expected, 9);
        }
      }),
    );
    expect(CubicInterpolant).toBeDefined();
  });
});

describe('writing GLB', () => {
  const walk = {
    go: [
      {
        node: 'hips',
        path: 'translation' as const,
        times: thirds,
        values: [0, 0, 100, 5, -50, 100, 0, -100, 100],
      },
      {
        node: 'LeftUpLeg',
        path: 'rotation' as const,
        times: thirds,
        values: [0, 0, 0, 1, 0.5, 0.5, 0.5, 0.5, 1, 0, 0, 0],
      },
    ],
  };

  it('is read back as the same motion, in the body’s own file and as bare bones', async () => {
    const glb = await makeTestGlb(nodes, walk);
    const { clips, bodies } = await readGltf(glb, 'a.glb');
    const { layout } = bodies[0]!;
    if (layout.kind !== 'gltf') throw new Error('expected glTF');
    for (const source of [{ bytes: glb, layout }, undefined]) {
      const written = await writeGlb(clips[0]!, source);
      const again = await readGltf(written, 'b.glb');
      expect(again.clips).toHaveLength(1);
      expect(again.clips[0]!.frames).toBe(3);
      for (const joint of ['hips', 'LeftUpLeg', 'head'])
        for (const f of [0, 1, 2])
          place(again.clips[0]!, joint, f).forEach((v, k) =>
            expect(v).toBeCloseTo(place(clips[0]!, joint, f)[k]!, 5),
          );
    }
  });

  // The Khronos validator.
  it('passes the Khronos validator, with the skin of the body kept and its animations replaced', async () => {
    const read = await readMotionFile(simpleSkin, 'simple-skin.gltf');
    const { layout } = read.bodies[0]!;
    if (layout.kind !== 'gltf') throw new Error('expected glTF');
    const written = await writeGlb({ ...read.clips[0]!, name: 'baked' }, { bytes: simpleSkin, layout });
    const { issues } = await validator.validateBytes(written);
    expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    const again = await readGltf(written, 'b.glb');
    expect(again.clips.map((c) => c.name)).toEqual(['baked']);
    expect(again.bodies[0]!.skinned).toBe(true);
  });
});

describe('what a body wears', () => {
  it('stays in a bake: mesh, material and texture, to the byte', async () => {
    const document = await openDocument(simpleSkin);
    const picture = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 7, 7, 7);
    const texture = document.createTexture('cloth').setImage(picture).setMimeType('image/png');
    const material = document.createMaterial('coat').setBaseColorTexture(texture).setRoughnessFactor(0.25);
    for (const mesh of document.getRoot().listMeshes())
      mesh.listPrimitives().forEach((p) => p.setMaterial(material));
    mergeBuffers(document);
    const bytes = await new WebIO().writeBinary(document);
    const read = await readGltf(bytes, 'dressed.glb');
    const { layout } = read.bodies[0]!;
    if (layout.kind !== 'gltf') throw new Error('expected glTF');
    const baked = (await openDocument(await writeGlb(read.clips[0]!, { bytes, layout }))).getRoot();
    expect(baked.listAnimations()).toHaveLength(1);
    expect(baked.listTextures().map((t) => [t.getName(), [...t.getImage()!]])).toEqual([
      ['cloth', [...picture]],
    ]);
    const worn = baked.listMeshes()[0]!.listPrimitives()[0]!;
    expect(worn.getMaterial()!.getName()).toBe('coat');
    expect(worn.getMaterial()!.getRoughnessFactor()).toBe(0.25);
    const before = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
    for (const name of ['POSITION', 'WEIGHTS_0']) {
      expect(worn.getAttribute(name)!.getArray()).toEqual(before.getAttribute(name)!.getArray());
    }
  });
});

describe('a glTF in several files', () => {
  const json = JSON.parse(new TextDecoder().decode(simpleSkin)) as { buffers: { uri: string }[] };
  const bins = json.buffers.map((b) =>
    Uint8Array.from(atob(b.uri.slice(b.uri.indexOf(',') + 1)), (c) => c.charCodeAt(0)),
  );
  json.buffers.forEach((b, i) => (b.uri = `part%20${i}.bin`));
  const apart = new TextEncoder().encode(JSON.stringify(json));
  const beside = (uri: string): Uint8Array | undefined => bins[Number(/part (\d)\.bin/.exec(uri)?.[1])];

  it('says what belongs to it, and is packed into one GLB that holds the same', async () => {
    expect(filesBeside(apart)).toEqual(bins.map((_, i) => `part ${i}.bin`));
    expect(filesBeside(simpleSkin)).toEqual([]);
    expect(filesBeside(Uint8Array.of(1, 2, 3))).toEqual([]);
    const packed = await readMotionFile(await packGltf(apart, beside), 'a.glb');
    const whole = await readMotionFile(simpleSkin, 'a.gltf');
    expect(packed.format).toBe('glb');
    expect(packed.clips[0]!.rotations).toEqual(whole.clips[0]!.rotations);
    expect(packed.bodies[0]!.skinned).toBe(true);
  });

  it('names the file that is missing', async () => {
    await expect(packGltf(apart, () => undefined)).rejects.toMatchObject({
      code: 'gltf-beside',
      message: expect.stringContaining('part'),
    });
  });
});

describe('damaged files', () => {
  const error = async (bytes: Uint8Array): Promise<InputError> => {
    try {
      await readMotionFile(bytes, 'x.glb');
    } catch (e) {
      expect(e).toBeInstanceOf(InputError);
      return e as InputError;
    }
    throw new Error('it was read');
  };
  /** The GLB with its JSON changed. */
  const changed = async (change: (json: never) => void): Promise<Uint8Array> => {
    const glb = await makeTestGlb(nodes, {
      go: [{ node: 'head', path: 'rotation', times: thirds, values: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1] }],
    });
    const view = new DataView(glb.buffer, glb.byteOffset);
    const length = view.getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
    change(json as never);
    let text = JSON.stringify(json);
    text += ' '.repeat((4 - (text.length % 4)) % 4);
    const out = new Uint8Array(20 + text.length + glb.length - 20 - length);
    out.set(glb.subarray(0, 20));
    out.set(new TextEncoder().encode(text), 20);
    out.set(glb.subarray(20 + length), 20 + text.length);
    new DataView(out.buffer).setUint32(8, out.length, true);
    new DataView(out.buffer).setUint32(12, text.length, true);
    return out;
  };

  it.each<[string, (json: never) => void, RegExp]>([
    [
      'an index out of range',
      (j: { animations: { samplers: { input: number }[] }[] }) => (j.animations[0]!.samplers[0]!.input = 99),
      /Index 99 is out of range/,
    ],
    [
      'a node that is its own ancestor',
      (j: { nodes: { children?: number[] }[] }) => (j.nodes[4]!.children = [0]),
      /own ancestor|two parents/,
    ],
    [
      'a view beyond its buffer',
      (j: { bufferViews: { byteLength: number }[] }) => (j.bufferViews[0]!.byteLength = 1e9),
      /ends at byte/,
    ],
    [
      'an accessor beyond its view',
      (j: { accessors: { count: number }[] }) => (j.accessors[0]!.count = 5000),
      /need/,
    ],
    [
      'an extension that is needed',
      (j: { extensionsRequired?: string[] }) => (j.extensionsRequired = ['X_compressed']),
      /X_compressed/,
    ],
    ['another version', (j: { asset: { version: string } }) => (j.asset.version = '1.0'), /version 1.0/],
    [
      'no nodes',
      (j: Record<string, unknown>) => (delete j.nodes, delete j.animations, (j.scenes = [])),
      /no skeleton/,
    ],
  ])('%s', async (_, change, message) => {
    expect((await error(await changed(change))).message).toMatch(message);
  });

  it('a file cut in half, an image renamed, an empty file, text', async () => {
    const glb = await makeTestGlb(nodes, {});
    expect((await error(glb.subarray(0, glb.length >> 1))).message).toMatch(/should have/);
    expect((await error(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46))).message).toMatch(
      /picture/,
    );
    expect((await error(new Uint8Array(0))).message).toMatch(/empty/);
    expect((await error(new TextEncoder().encode('once upon a time'))).message).toMatch(
      /says nothing of a motion/,
    );
  });

  it('a GLB cut at any byte or damaged anywhere gives an error or a clip, never anything else', async () => {
    const glb = await makeTestGlb(nodes, {
      go: [{ node: 'head', path: 'rotation', times: thirds, values: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1] }],
    });
    await fc.assert(
      fc.asyncProperty(
        fc.nat(glb.length - 1),
        fc.array(fc.tuple(fc.nat(glb.length - 1), fc.nat(255)), { maxLength: 4 }),
        async (n, changes) => {
          await error(glb.subarray(0, n));
          const damaged = glb.slice();
          for (const [at, v] of changes) damaged[at] = v;
          await readMotionFile(damaged, 'x.glb').catch((e) => expect(e).toBeInstanceOf(InputError));
        },
      ),
      { numRuns: 300 },
    );
  });
});
