import { describe, expect, it } from '@jest/globals';
import { InputError } from '@warper/core';
import { zipSync } from 'fflate';
import { readMotionFile } from './read';
import { readSceneFile } from './scenefile/sceneFile';

const text = (value: string): Uint8Array => new TextEncoder().encode(value);

/** A GLB of a document and a binary chunk. */
function glb(json: object | string, binary = new Uint8Array(0)): Uint8Array {
  const body = text(typeof json === 'string' ? json : JSON.stringify(json));
  const pad = (n: number): number => Math.ceil(n / 4) * 4;
  const size = 12 + 8 + pad(body.length) + (binary.length ? 8 + pad(binary.length) : 0);
  const out = new Uint8Array(size);
  const view = new DataView(out.buffer);
  view.setUint32(0, 0x46546c67, true);
  view.setUint32(4, 2, true);
  view.setUint32(8, size, true);
  view.setUint32(12, pad(body.length), true);
  view.setUint32(16, 0x4e4f534a, true);
  out.fill(0x20, 20, 20 + pad(body.length));
  out.set(body, 20);
  if (binary.length) {
    const at = 20 + pad(body.length);
    view.setUint32(at, pad(binary.length), true);
    view.setUint32(at + 4, 0x004e4942, true);
    out.set(binary, at + 8);
  }
  return out;
}

const moving = (nodes: object[], more: object = {}): object => ({
  asset: { version: '2.0' },
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes,
  animations: [
    {
      samplers: [{ input: 0, output: 1 }],
      channels: [{ sampler: 0, target: { node: 0, path: 'translation' } }],
    },
  ],
  accessors: [
    { bufferView: 0, componentType: 5126, count: 2, type: 'SCALAR', min: [0], max: [1] },
    { bufferView: 1, componentType: 5126, count: 2, type: 'VEC3' },
  ],
  bufferViews: [
    { buffer: 0, byteLength: 8 },
    { buffer: 0, byteOffset: 8, byteLength: 24 },
  ],
  buffers: [{ byteLength: 32 }],
  ...more,
});
const keys = new Uint8Array(Float32Array.of(0, 1, 0, 0, 0, 0, 1, 0).buffer);

const chain = (length: number): object[] =>
  Array.from({ length }, (_, i) => ({ name: `n${i}`, ...(i + 1 < length ? { children: [i + 1] } : {}) }));

/** One node over so many, each of which an animation moves. */
const crowd = (size: number): object => ({
  ...moving([
    { children: Array.from({ length: size }, (_, i) => i + 1) },
    ...Array.from({ length: size }, () => ({})),
  ]),
  animations: [
    {
      samplers: [{ input: 0, output: 1 }],
      channels: Array.from({ length: size }, (_, i) => ({
        sampler: 0,
        target: { node: i + 1, path: 'translation' },
      })),
    },
  ],
});

const nestedBvh = (depth: number): string =>
  `HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n${Array.from({ length: depth }, (_, i) => `JOINT j${i}\n{\nOFFSET 0 1 0\nCHANNELS 3 Zrotation Xrotation Yrotation\n`).join('')}`;

const HOSTILE: readonly (readonly [string, string, () => Uint8Array])[] = [
  [
    'nodes that are each other’s children',
    'a.glb',
    () => glb(moving([{ children: [1] }, { children: [0] }]), keys),
  ],
  ['a node that is its own child', 'a.glb', () => glb(moving([{ children: [0] }]), keys)],
  ['a chain of 200,000 nodes', 'a.glb', () => glb(moving(chain(200_000)), keys)],
  ['forty thousand nodes under one, all of them moving', 'a.glb', () => glb(crowd(40_000), keys)],
  [
    'an accessor of four thousand million numbers',
    'a.glb',
    () =>
      glb(
        moving([{}], {
          accessors: [
            { bufferView: 0, componentType: 5126, count: 4_000_000_000, type: 'SCALAR' },
            { bufferView: 1, componentType: 5126, count: 4_000_000_000, type: 'VEC3' },
          ],
        }),
        keys,
      ),
  ],
  [
    'a sparse accessor of a thousand million numbers',
    'a.glb',
    () =>
      glb(
        moving([{}], {
          accessors: [
            { componentType: 5126, count: 1_000_000_000, type: 'SCALAR' },
            { componentType: 5126, count: 1_000_000_000, type: 'VEC3' },
          ],
        }),
        keys,
      ),
  ],
  [
    'times that are no numbers',
    'a.glb',
    () => glb(moving([{}]), new Uint8Array(Float32Array.of(NaN, NaN, 0, 0, 0, 0, 1, 0).buffer)),
  ],
  [
    'places that are no numbers',
    'a.glb',
    () => glb(moving([{}]), new Uint8Array(Float32Array.of(0, 1, NaN, 0, Infinity, 0, 1, 0).buffer)),
  ],
  [
    'a sparse accessor that replaces a thousand million elements',
    'a.glb',
    () =>
      glb(
        moving([{}], {
          accessors: [
            { bufferView: 0, componentType: 5126, count: 2, type: 'SCALAR' },
            {
              bufferView: 1,
              componentType: 5126,
              count: 2,
              type: 'VEC3',
              sparse: {
                count: 1_000_000_000,
                indices: { bufferView: 0, componentType: 5125 },
                values: { bufferView: 1 },
              },
            },
          ],
        }),
        keys,
      ),
  ],
  ['49,000 nodes', 'a.glb', () => glb(moving(Array.from({ length: 49_000 }, () => ({}))), keys)],
  ['a place that is a text', 'a.glb', () => glb(moving([{ translation: [0, 'high', 0] }]), keys)],
  ['a name that is a number', 'a.glb', () => glb(moving([{ name: 12 }]), keys)],
  ['a rotation of three numbers', 'a.glb', () => glb(moving([{ rotation: [0, 0, 1] }]), keys)],
  [
    'a rest place beyond numbers',
    'a.glb',
    () => glb(JSON.stringify(moving([{ translation: [0, 7, 0] }])).replace('7', '1e999'), keys),
  ],
  [
    'a buffer whose name is no text',
    'a.gltf',
    () => text(JSON.stringify(moving([{}], { buffers: [{ uri: 5, byteLength: 32 }] }))),
  ],
  ...[
    ['fewer values than keys', { samplers: [{ input: 2, output: 1 }] }],
    ['an interpolation that nobody knows', { samplers: [{ input: 0, output: 1, interpolation: 'BOUNCE' }] }],
    ['three values a key missing', { samplers: [{ input: 0, output: 1, interpolation: 'CUBICSPLINE' }] }],
    ['a sampler that is not there', { channels: [{ sampler: 3, target: { node: 0, path: 'translation' } }] }],
    ['rotations of three numbers', { channels: [{ sampler: 0, target: { node: 0, path: 'rotation' } }] }],
    ['times of three numbers', { samplers: [{ input: 1, output: 1 }] }],
  ].map(([what, values]): readonly [string, string, () => Uint8Array] => [
    what as string,
    'a.glb',
    () => {
      const document = moving([{}]) as { animations: object[]; accessors: object[] };
      document.animations = [{ ...document.animations[0], ...(values as object) }];
      document.accessors.push({ bufferView: 1, componentType: 5126, count: 6, type: 'SCALAR' });
      return glb(document, keys);
    },
  ]),
  [
    'an accessor that begins between its numbers',
    'a.glb',
    () =>
      glb(
        moving([{}], {
          accessors: [
            { bufferView: 0, byteOffset: 2, componentType: 5126, count: 1, type: 'SCALAR' },
            { bufferView: 1, componentType: 5126, count: 1, type: 'VEC3' },
          ],
        }),
        keys,
      ),
  ],
  ...['1e-9', '1e-300', '0', '-1'].map((time): readonly [string, string, () => Uint8Array] => [
    `rows ${time} seconds apart`,
    'a.bvh',
    () =>
      text(
        `HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Xposition Yposition Zposition\nEnd Site\n{\nOFFSET 0 1 0\n}\n}\nMOTION\nFrames: 2\nFrame Time: ${time}\n0 0 0\n0 0 1\n`,
      ),
  ]),
  ['lists within lists within lists', 'a.gltf', () => text(`{"asset":${'['.repeat(200_000)}`)],
  ['a document that never ends', 'a.gltf', () => text(`{"asset":{"version":"${'2'.repeat(20_000_000)}`)],
  ['200,000 joints within each other', 'a.bvh', () => text(nestedBvh(200_000))],
  ['a name of twenty million letters', 'a.bvh', () => text(`HIERARCHY\nROOT ${'a'.repeat(20_000_000)}`)],
  [
    'a thousand million million rows',
    'a.bvh',
    () =>
      text(
        `HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Xposition Yposition Zposition\nEnd Site\n{\nOFFSET 0 1 0\n}\n}\nMOTION\nFrames: 1000000000000000\nFrame Time: 0.03\n0 0 0\n`,
      ),
  ],
  ['braces without end', 'a.bvh', () => text(`HIERARCHY\nROOT a\n${'{\n'.repeat(500_000)}`)],
];

describe('hostile files', () => {
  it.each(HOSTILE)('%s: an error that says what, and nothing else', async (_, name, make) => {
    const error = await readMotionFile(make(), name).then(
      () => null,
      (e: unknown) => e,
    );
    expect(error).toBeInstanceOf(InputError);
    expect((error as InputError).message.length).toBeLessThan(600);
    expect((error as InputError).message).not.toMatch(/stack|undefined|Array buffer|internal/i);
    expect((error as InputError).hint).not.toBe('');
  });

  it('an error about a number that is none names the bone and the key', async () => {
    const document = moving([{ name: 'tail' }]);
    const bytes = new Uint8Array(Float32Array.of(0, 1, 0, 0, 0, 0, NaN, 0).buffer);
    await expect(readMotionFile(glb(document, bytes), 'nan.glb')).rejects.toMatchObject({
      code: 'not-a-number',
      place: { file: 'nan.glb', bone: 'tail', frame: 1 },
    });
  });

  it('what stands above a skeleton and cannot be honoured is said', async () => {
    const below = moving([{ name: 'up', scale: [-1, 1, 1], children: [1] }, { name: 'hips' }]) as {
      animations: { channels: { target: { node: number; path: string } }[]; samplers: object[] }[];
    };
    below.animations[0]!.channels[0]!.target.node = 1;
    const mirrored = await readMotionFile(glb(below, keys), 'a.glb');
    expect(mirrored.remarks.map((r) => r.code)).toContain('uneven-scale');
    below.animations[0]!.channels.push({ sampler: 0, target: { node: 0, path: 'scale' } } as never);
    const growing = await readMotionFile(glb(below, keys), 'a.glb');
    expect(growing.remarks.map((r) => r.message).join()).toMatch(/scale above the skeleton was left out/);
  });

  it('a scene file that unpacks to a thousand times its size', async () => {
    const bomb = zipSync(
      {
        'scene.json': text('{}'),
        'sources.json': text('[]'),
        'files/00': new Uint8Array(70_000_000),
      },
      { level: 1 },
    );
    expect(bomb.length).toBeLessThan(1_000_000);
    await expect(readSceneFile(bomb, 'bomb.warper')).rejects.toThrow(/unpacks to \d+ times its size/);
  });
});
