import { readFileSync } from 'node:fs';
import { WebIO } from '@gltf-transform/core';
import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Clip } from '@warper/core';
import {
  bakePieces,
  compile,
  defined,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  samplePose,
} from '@warper/core';
import { zipSync } from 'fflate';
import { assembleCues } from '../cues/assemble';
import { parseCueSheet } from '../cues/sheet';
import { load, turn, walk } from '../cues/testing';
import { detectFile } from '../detectFile';
import { openDocument } from '../gltf/open';
import type { GltfLayout, Imported } from '../imported';
import { joinBytes } from '../joinBytes';
import { MotionLibrary } from '../library';
import { readMotionFile } from '../read';
import { usdz } from '../usd/usdz';
import type { UsdWriteOptions } from '../usd/write';
import { usdParts } from '../usd/write';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const fixture = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../fixtures/${name}`, import.meta.url)));
/** A bar of two joints with a skin, in centimetres with +Z up, that a quarter of a turn bends over a second (COLLADA 1.4.1, chapter 5). */
const bar = fixture('bar.dae');

/** Places of the joints of a clip at a frame, metres. */
function placesOf(clip: Clip, frame: number): Record<string, [number, number, number]> {
  const { skeleton } = clip;
  const pose = samplePose(clip, frame, makePoseBuffer(skeleton));
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  return Object.fromEntries(
    skeleton.names.map((name, j) => [
      name,
      [...positions.subarray(j * 3, j * 3 + 3)] as [number, number, number],
    ]),
  );
}

function expectNear(actual: readonly number[], expected: readonly number[], within: number): void {
  expect(Math.hypot(...actual.map((v, k) => v - expected[k]!))).toBeLessThan(within);
}

describe('USD that is read', () => {
  const sheet = {
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      { name: 'Keeper', body: 'keeper.glb', cues: [walk, turn] },
      // Of the same bones as the first.
      { name: 'Other', body: 'keeper.glb', start: { x: 2, heading: 90 }, cues: [turn, walk] },
      { name: 'Dog', body: 'dog.glb', start: { x: -2 }, cues: [{ clip: 'dog-walk.glb', repeat: 2 }] },
    ],
  };
  const TO = 40;
  let cast: readonly CharacterPlan[] = [];
  const written = async (options?: UsdWriteOptions): Promise<Uint8Array> => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    const plan = compile(scene, library);
    cast = plan.characters;
    const performers = cast.map((c) => {
      const { body, source } = defined(library.bodyEntry(c.character.body));
      return {
        name: c.character.name,
        motion: bakePieces(c, plan.rate, { from: 0, to: TO }),
        source: { bytes: source.bytes, layout: body.layout as GltfLayout },
      };
    });
    const parts: Uint8Array[] = [];
    for await (const part of usdParts(performers, 'round', options)) parts.push(part);
    return joinBytes(parts);
  };

  const expectAll = ({ clips, bodies }: Imported, skinned: boolean): void => {
    expect(clips.map((c) => [c.name, c.frames, c.rate])).toEqual(cast.map((c) => [c.character.name, TO, 30]));
    expect(bodies.map((b) => b.skinned)).toEqual(cast.map(() => skinned));
    for (const [i, character] of cast.entries())
      for (const frame of [0, 7, 20, TO - 1]) {
        const pose = evaluate(character, frame, makePoseBuffer(character.skeleton));
        const { positions } = poseToWorld(character.skeleton, pose, makeWorldPose(character.skeleton));
        const places = placesOf(clips[i]!, frame);
        character.skeleton.names.forEach((name, j) =>
          expectNear(defined(places[name]), [...positions.subarray(j * 3, j * 3 + 3)], 1e-4),
        );
      }
  };

  it('has everybody where they were, bodies of the same bones among them, as text and packed', async () => {
    const text = await written();
    expect((await detectFile(text)).kind).toBe('usd');
    const read = await readMotionFile(text, 'round.usda');
    expect(read.format).toBe('usd');
    expectAll(read, true);
    const packed = usdz(text, 'round');
    expect((await detectFile(packed)).kind).toBe('usd');
    const again = await readMotionFile(packed, 'round.usdz');
    expect(again.source).toBe(read.source);
    // What is kept in its place gives the very clips and bodies again.
    const kept = await readMotionFile(defined(read.converted), 'round.usda');
    expect(kept.clips.map((c) => c.id)).toEqual(read.clips.map((c) => c.id));
    const library = new MotionLibrary();
    const source = await library.add(text, 'round.usda');
    expect(Buffer.compare(source.bytes, defined(read.converted))).toBe(0);
  });

  it('has everybody where they were from centimetres with +Z up, too', async () => {
    const text = await written({ unitsPerMetre: 100, upAxis: 'z' });
    expect(new TextDecoder().decode(text)).toMatch(/metersPerUnit = 0\.01\n\s*upAxis = "Z"/);
    expectAll(await readMotionFile(text, 'round.usda'), true);
  });

  it('has one body where one node moves them all', async () => {
    const { converted } = await readMotionFile(await written(), 'round.usda');
    const document = await openDocument(defined(converted));
    const root = document.getRoot();
    const [take] = root.listAnimations();
    const top = defined(root.listScenes()[0]?.listChildren()[0]);
    const sampler = document
      .createAnimationSampler()
      .setInput(defined(take!.listSamplers()[0]).getInput())
      .setOutput(
        document
          .createAccessor()
          .setType('VEC3')
          .setArray(new Float32Array(TO * 3))
          .setBuffer(defined(root.listBuffers()[0])),
      );
    take!
      .addSampler(sampler)
      .addChannel(
        document.createAnimationChannel().setSampler(sampler).setTargetNode(top).setTargetPath('translation'),
      );
    const { bodies } = await readMotionFile(await new WebIO().writeBinary(document), 'moved.glb');
    expect(bodies).toHaveLength(1);
  });

  it('is in metres with +Y up, whatever the file is in (OpenUSD: metersPerUnit, upAxis)', async () => {
    const { clips } = await readMotionFile(fixture('lamp.usda'), 'lamp.usda');
    expect(clips).toHaveLength(1);
    const clip = clips[0]!;
    // The arm stands a metre up; a quarter turn about the file's x takes it from its z to its -y, which is our z.
    expectNear(placesOf(clip, 0).arm!, [0, 1, 0], 1e-5);
    expectNear(placesOf(clip, clip.frames - 1).arm!, [0.5, 0, 1], 1e-5);
    expect((clip.frames - 1) / clip.rate).toBeCloseTo(1, 6);
  });

  it('never unpacks to more than can be held', async () => {
    const bomb = zipSync({ 'a.usda': new Uint8Array(1000) });
    // The size before packing, as the central directory says it (APPNOTE 4.3.12).
    const view = new DataView(bomb.buffer);
    const entry = bomb.findIndex((_, i) => i + 4 <= bomb.length && view.getUint32(i, true) === 0x02014b50);
    view.setUint32(entry + 24, 300 * 2 ** 20, true);
    await expect(readMotionFile(bomb, 'a.usdz')).rejects.toThrow('unpack to more than 256 MB');
  });
});

describe('Collada that is read', () => {
  it('is in metres with +Y up, its skeleton, skin and motion as the file says', async () => {
    expect((await detectFile(bar)).kind).toBe('collada');
    const { clips, bodies, format, remarks } = await readMotionFile(bar, 'bar.dae');
    expect([format, bodies.map((b) => b.skinned), remarks]).toEqual(['collada', [true], []]);
    const clip = defined(clips[0]);
    expect((clip.frames - 1) / clip.rate).toBeCloseTo(1, 5);
    for (const [seconds, degrees] of [
      [0, 0],
      [1 / 3, 30],
      [1, 90],
    ] as const) {
      const { foot, arm, tip } = placesOf(clip, seconds * clip.rate);
      const angle = (degrees * Math.PI) / 180;
      expectNear(foot!, [0, 0, 0], 1e-5);
      expectNear(arm!, [0, 1, 0], 1e-5);
      // About the file's x, from its z to its -y, which is our z.
      expectNear(tip!, [0, 1 + Math.cos(angle), Math.sin(angle)], 1e-4);
    }
  });

  it('leaves pictures alone, and says so', async () => {
    const image =
      '<library_images><image id="i"><init_from>http://elsewhere/sail.tga</init_from></image></library_images>';
    const { remarks } = await readMotionFile(
      encode(new TextDecoder().decode(bar).replace('<library_geometries>', `${image}<library_geometries>`)),
      'bar.dae',
    );
    expect(remarks.map((r) => r.code)).toEqual(['left-out']);
    // Nothing of a page is left behind.
    expect((globalThis as { DOMParser?: unknown }).DOMParser).toBeUndefined();
  });
});
