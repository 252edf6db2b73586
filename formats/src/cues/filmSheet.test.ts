import { describe, expect, it } from '@jest/globals';
import type { InputError } from '@warper/core';
import { cameraAt, compile, defined, makeCameraPose, shotPoseAt } from '@warper/core';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { load, turn, walk } from './testing';

const sheet = {
  format: 'warper-cues',
  version: 1,
  rate: 30,
  aspect: 1.85,
  characters: [{ name: 'Keeper', body: 'keeper.glb', cues: [{ ...walk, repeat: 2 }, turn] }],
  cameras: [
    {
      name: 'Gallery',
      place: [4, 1.5, 3],
      lens: 50,
      look: { character: 'Keeper', joint: 'head' },
      keep: { character: 'Keeper', left: 0.1, right: 0.9 },
    },
    {
      name: 'Along',
      place: [0, 1.2, -3],
      aim: [0, 1, 0],
      follow: { character: 'Keeper', lag: 0.2, turns: true },
      keys: [
        { frame: 0, lens: 24 },
        { frame: 60, lens: 35, curve: 'flat' },
      ],
      hand: { turn: 0.3, sway: 0.01, frequency: 0.8, seed: 4 },
      back: [24.89, 18.66],
    },
  ],
  shots: [
    { camera: 'Gallery', start: 0 },
    { name: 'Behind', camera: 'Along', start: 40, end: 90, blend: 10, comment: 'closer' },
  ],
};

describe('a sheet with cameras and shots', () => {
  it('has them as they are told, the rest as usual', async () => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    expect(scene.aspect).toBe(1.85);
    const [gallery, along] = scene.cameraOrder.map((id) => defined(scene.cameras[id]));
    expect(gallery).toMatchObject({
      name: 'Gallery',
      base: { x: 4, y: 1.5, z: 3, aimX: 0, aimY: 0, aimZ: 0, lens: 50, roll: 0 },
      look: { character: 'c1', joint: 'head', lag: 0 },
      keep: { character: 'c1', left: 0.1, right: 0.9, bottom: 0, top: 1, widens: true },
      follow: null,
      back: [36, 24],
    });
    expect(along?.keys.lens?.map((k) => [k.frame, k.value, k.curve])).toEqual([
      [0, 24, 'smooth'],
      [60, 35, 'flat'],
    ]);
    expect(along?.follow).toEqual({ character: 'c1', joint: null, lag: 0.2, height: false, turns: true });
    expect(
      Object.values(scene.shots).map((s) => [s.name, s.camera, s.start, s.end, s.blend, s.comment]),
    ).toEqual([
      ['Shot 1', 'v1', 0, 40, 0, ''],
      ['Behind', 'v2', 40, 90, 10, 'closer'],
    ]);
    const plan = compile(scene, library);
    const pose = makeCameraPose();
    expect(shotPoseAt(plan, 60, pose)?.name).toBe('Behind');
    expect(pose).toEqual(cameraAt(plan, defined(along), 60, makeCameraPose()));
    expect(pose.lens).toBeCloseTo(35, 9);
  });

  it('is refused where it says what cannot be, with the place', async () => {
    const refused = async (change: object): Promise<string> => {
      try {
        await assembleCues(parseCueSheet({ ...sheet, ...change }), load);
      } catch (error) {
        return (error as InputError).place.path ?? '';
      }
      return 'read';
    };
    const [gallery, along] = sheet.cameras;
    expect(await refused({})).toBe('read');
    expect(await refused({ shots: [{ camera: 'Roof', start: 0 }] })).toBe('shots[0].camera');
    expect(
      await refused({
        shots: [
          { camera: 'Along', start: 9 },
          { camera: 'Along', start: 9 },
        ],
      }),
    ).toBe('shots[1].start');
    expect(await refused({ cameras: [gallery, { ...gallery }] })).toBe('cameras[1].name');
    expect(await refused({ cameras: [{ ...gallery, look: { character: 'Dog' } }, along] })).toBe(
      'cameras[0].look.character',
    );
    expect(
      await refused({ cameras: [{ ...gallery, look: { character: 'Keeper', joint: 'tail' } }, along] }),
    ).toBe('cameras[0].look.joint');
    expect(await refused({ cameras: [{ ...gallery, focal: 3 }, along] })).toBe('cameras[0].focal');
    expect(await refused({ cameras: [{ ...gallery, lens: 2 }, along] })).toBe('cameras[0].lens');
    expect(
      await refused({
        cameras: [
          {
            ...gallery,
            keys: [
              { frame: 9, lens: 9 },
              { frame: 3, lens: 9 },
            ],
          },
          along,
        ],
      }),
    ).toBe('cameras[0].keys[1].frame');
    expect(
      await refused({
        cameras: [{ ...gallery, keep: { character: 'Keeper', left: 0.9, right: 0.2 } }, along],
      }),
    ).toContain('cameras[0]');
  });
});
