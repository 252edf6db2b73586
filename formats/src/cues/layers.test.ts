import { describe, expect, it } from '@jest/globals';
import type { LayerLane } from '@warper/core';
import { PLAIN_LOOK, compile, evaluate, makePoseBuffer } from '@warper/core';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { assemble, load, sheet, walk } from './testing';

describe('layers', () => {
  it('are laid out bottom first, with masks, weights, fades and keys', async () => {
    const { scene, library } = await assemble([{ ...walk, repeat: 3 }], {
      footLock: true,
      layers: [
        {
          name: 'wave',
          kind: 'override',
          mask: ['rightUpperArm*', { bone: 'head', weight: 0.4 }],
          softness: 1,
          weight: [
            [0, 0],
            [10, 1],
          ],
          cues: [{ clip: 'keeper-wave.glb', at: 5, fadeIn: 4, fadeOut: 6 }],
        },
        {
          name: 'nod',
          kind: 'additive',
          keys: {
            head: [
              { frame: 0, turn: [0, 0, 0] },
              { frame: 20, turn: [20, 0, 0], curve: 'linear' },
            ],
          },
        },
      ],
    });
    const lanes = scene.laneOrder.map((id) => scene.lanes[id]!);
    expect(lanes.map((l) => l.kind)).toEqual(['body', 'layer', 'layer']);
    const wave = lanes[1] as LayerLane;
    expect(wave).toMatchObject({
      blend: 'override',
      softness: 1,
      weight: [
        [0, 0],
        [10, 1],
      ],
      mask: [
        { bone: 'rightUpperArm*', weight: 1 },
        { bone: 'head', weight: 0.4 },
      ],
    });
    expect(scene.segments[wave.segments[0]!]).toMatchObject({ start: 5, fade: { in: 4, out: 6 } });
    expect((lanes[2] as LayerLane).keys.head![1]!.rotation[0]).toBeCloseTo(Math.sin((10 * Math.PI) / 180), 9);
    expect(scene.characters.c1!.footLock).toBe(true);
    const c = compile(scene, library).characters[0]!;
    expect(c.layers).toHaveLength(2);
    expect(evaluate(c, 40, makePoseBuffer(c.skeleton)).rotations.every(Number.isFinite)).toBe(true);
  });

  it('move the whole character by keys, between two frames or from one on', async () => {
    const { scene, library } = await assemble([{ ...walk, repeat: 3 }], {
      layers: [
        {
          name: 'pushed',
          span: { start: 10, fadeIn: 3 },
          weightShape: 'smooth',
          root: {
            forward: [
              { frame: 28, value: -0.4, curve: 'flat' },
              { frame: 20, value: 0, tangent: 0.1, into: 0 },
            ],
          },
          carriesOn: false,
          feet: 'hold',
        },
      ],
    });
    expect(scene.lanes[scene.laneOrder[1]!]).toMatchObject({
      span: { start: 10, end: null, fadeIn: 3, fadeOut: 0 },
      weightShape: 'smooth',
      rootKeys: {
        forward: [
          { frame: 20, value: 0, curve: 'free', tangent: 0.1, into: 0 },
          { frame: 28, value: -0.4, curve: 'flat', tangent: null, into: null },
        ],
      },
      carriesOn: false,
      rootFeet: 'hold',
    });
    const plain = (await assemble([{ ...walk, repeat: 3 }], {})).scene;
    const rootOf = (of: typeof scene): Float64Array => {
      const c = compile(of, library).characters[0]!;
      return evaluate(c, 40, makePoseBuffer(c.skeleton)).root.slice();
    };
    const [moved, own] = [rootOf(scene), rootOf(plain)];
    expect(Math.hypot(moved[0]! - own[0]!, moved[1]! - own[1]!)).toBeCloseTo(0.4, 6);
  });

  it('have keys of joints by their roles, whatever the body calls them', async () => {
    const bend = [{ frame: 0, turn: [-20, 0, 0] }];
    const keysOf = async (keys: object): Promise<object> => {
      const visitor = {
        name: 'Visitor',
        cues: [{ clip: 'visitor-idle.glb' }],
        layers: [{ name: 'bend', keys }],
      };
      const { scene } = await assembleCues(
        parseCueSheet({ ...(sheet([]) as object), characters: [visitor] }),
        load,
      );
      return (scene.lanes.c1layer1 as LayerLane).keys;
    };
    expect(Object.keys(await keysOf({ leftUpperLeg: bend }))).toEqual(['l_hip']);
    expect(await keysOf({ leftUpperLeg: bend })).toEqual(await keysOf({ l_hip: bend }));
    // Any other word is told with the body's own names, as a mask is.
    expect(Object.keys(await keysOf({ tail: bend }))).toEqual(['tail']);
  });

  it('are the other side of one another', async () => {
    const right = {
      name: 'right',
      mask: ['rightHand*'],
      keys: { rightHand: [{ frame: 4, turn: [0, 30, 0] }] },
      cues: [{ ...walk, at: 8 }],
    };
    const left = { name: 'left', otherSideOf: 'right' };
    const { scene } = await assemble([walk], { layers: [left, right] });
    expect([scene.lanes.c1layer1, scene.lanes.c1layer2]).toMatchObject([
      { pair: 'c1layer2', mask: [{ bone: 'leftHand*' }], keys: { leftHand: [{ frame: 4 }] } },
      { pair: 'c1layer1', mask: [{ bone: 'rightHand*' }] },
    ]);
    expect((scene.lanes.c1layer1?.segments ?? []).map((s) => scene.segments[s])).toMatchObject([
      { start: 8, mirror: true },
    ]);
    const made = async (...layers: object[]): Promise<unknown> => assemble([walk], { layers });
    await expect(made({ ...left, softness: 2 }, right)).rejects.toThrow(/has softness as that layer has it/);
    await expect(made(left)).rejects.toThrow(/no other layer right/);
  });

  it('have looks of characters and cues beside theirs, at who comes later or at a place', async () => {
    const keeper = {
      name: 'Keeper',
      look: { at: 'Visitor' },
      cues: [walk, { ...walk, look: { at: [1, 1.5, 2], turn: 50 } }],
    };
    const visitor = { name: 'Visitor', cues: [{ clip: 'visitor-idle.glb' }], start: { z: 3, heading: 180 } };
    const value = (one: object): unknown => ({ ...(sheet([walk]) as object), characters: [one, visitor] });
    const { scene, library } = await assembleCues(parseCueSheet(value(keeper)), load);
    expect(scene.characters.c1?.look).toEqual({ ...PLAIN_LOOK, at: { character: 'c2' } });
    expect([scene.segments.c1s1?.look, scene.segments.c1s2?.look]).toEqual([
      null,
      { ...PLAIN_LOOK, turn: 50, at: { point: [1, 1.5, 2] } },
    ]);
    expect(compile(scene, library).characters[0]!.looks).toHaveLength(2);
    const failed = (look: object): Promise<unknown> =>
      (async () =>
        assembleCues(parseCueSheet(value({ ...keeper, cues: [{ ...walk, look }] })), load))().catch(
        (error: unknown) => error,
      );
    expect(await failed({ at: 'Dog' })).toMatchObject({ place: { path: 'characters[0].cues[0].look.at' } });
    expect(await failed({ at: 'Visitor', trun: 3 })).toMatchObject({
      hint: expect.stringMatching(/turn/),
    });
  });

  it('bow by keys of dials, and look at a place or at a character who comes later in the sheet', async () => {
    const keeper = {
      name: 'Keeper',
      cues: [walk],
      layers: [
        {
          name: 'bow',
          dials: {
            lean: [
              { frame: 20, value: 15, curve: 'linear' },
              { frame: 0, value: 0 },
            ],
          },
          look: { at: 'Visitor', lag: 3 },
        },
        {
          name: 'light',
          look: { at: [1, 1.5, 2], chest: 0.4 },
          contacts: [{ hand: 'leftHand', start: 4, end: 20, fadeIn: 3 }],
        },
      ],
    };
    const visitor = { name: 'Visitor', cues: [{ clip: 'visitor-idle.glb' }], start: { z: 3, heading: 180 } };
    const value = { ...(sheet([walk]) as object), characters: [keeper, visitor] };
    const { scene, library } = await assembleCues(parseCueSheet(value), load);
    expect([scene.lanes.c1layer1, scene.lanes.c1layer2]).toMatchObject([
      {
        dialKeys: {
          lean: [
            { frame: 0, value: 0, curve: 'smooth' },
            { frame: 20, value: 15, curve: 'linear' },
          ],
        },
        look: { at: { character: 'c2' }, lag: 3, turn: 75, tilt: 45, chest: 0.2 },
      },
      {
        look: { at: { point: [1, 1.5, 2] }, lag: 6, chest: 0.4 },
        contacts: [{ hand: 'leftHand', start: 4, end: 20, fadeIn: 3, fadeOut: 6 }],
      },
    ]);
    expect(compile(scene, library).characters[0]!.layers.map((l) => l.look?.share)).toEqual([0.2, 0.4]);
    const at = (look: object): unknown => ({
      ...value,
      characters: [{ ...keeper, layers: [{ name: 'x', look }] }, visitor],
    });
    const failed = async (look: object): Promise<unknown> =>
      assembleCues(parseCueSheet(at(look)), load).catch((error: unknown) => error);
    expect(await failed({ at: 'Dog' })).toMatchObject({
      place: { path: 'characters[0].layers[0].look.at' },
      message: 'The sheet has no character Dog to look at.',
    });
    expect(await failed({ at: 'Keeper' })).toMatchObject({ message: 'Keeper cannot look at themselves.' });
  });

  it('name the bone that a body does not have', async () => {
    const { scene, library } = await assemble([walk], { layers: [{ name: 'x', mask: ['leftWing*'] }] });
    expect(() => compile(scene, library)).toThrow(/no bone leftWing/);
  });
});
