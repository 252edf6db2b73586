import { describe, expect, it } from '@jest/globals';
import validator from 'gltf-validator';
import type { CharacterPlan } from '@warper/core';
import {
  compile,
  defined,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  samplePose,
} from '@warper/core';
import { bakeFile } from '../delivery/bakeFile';
import { plannedFiles } from '../delivery/plannedFiles';
import { USUAL_BAKE } from '../delivery/settings';
import { joinBytes } from '../joinBytes';
import { readMotionFile } from '../read';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { load, turn, walk } from './testing';

const lantern = { name: 'Lantern', prop: { shape: 'lantern', raised: 0.5 }, start: { x: 0.3, z: 0.4 } };
const carry = {
  child: 'Lantern',
  parent: 'Keeper',
  joint: 'leftHand',
  held: 'grip',
  grip: { place: [0, -0.08, 0], turn: null },
  start: 10,
  end: 60,
  fadeIn: 6,
};
const sheet = (tethers: object[], others: object[] = [lantern]): unknown => ({
  format: 'warper-cues',
  version: 1,
  rate: 30,
  name: 'Round',
  characters: [{ name: 'Keeper', body: 'keeper.glb', cues: [{ ...walk, repeat: 2 }, turn] }, ...others],
  tethers,
});
const assemble = (value: unknown) => assembleCues(parseCueSheet(value), load);
const failure = (tethers: object[], others?: object[]): Promise<unknown> =>
  (async () => assemble(sheet(tethers, others)))().catch((error: unknown) => error);

/** Where a joint is in a plan, x, y, z. */
function placeOf({ skeleton, ...plan }: CharacterPlan, name: string, frame: number): number[] {
  const pose = evaluate({ skeleton, ...plan }, frame, makePoseBuffer(skeleton));
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const j = skeleton.names.indexOf(name);
  return [...positions.subarray(j * 3, j * 3 + 3)];
}

describe('cue sheets with props and tethers', () => {
  it('have what is held go along with the hand, in the file that is baked as in the scene', async () => {
    const { scene, library } = await assemble(sheet([carry]));
    expect(scene.characters.c2).toMatchObject({ prop: { shape: 'lantern', raised: 0.5 } });
    const plan = compile(scene, library);
    const prop = defined(plan.characters[1]);
    expect([prop.start, prop.end]).toEqual([plan.start, plan.end]);
    const order = {
      name: 'Round',
      characters: ['c1', 'c2'],
      spans: [{ name: '', from: 0, to: plan.end }],
      settings: { ...USUAL_BAKE, format: 'glb' as const, together: true },
    };
    const [file] = plannedFiles(plan, order, library);
    const parts: Uint8Array[] = [];
    for await (const part of bakeFile({ plan, library }, defined(file), order, () => undefined))
      parts.push(part);
    const bytes = joinBytes(parts);
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { clips, bodies } = await readMotionFile(bytes, 'round.glb');
    expect(bodies).toHaveLength(2);
    const clip = defined(clips.find((c) => c.skeleton.names.includes('grip')));
    const world = makeWorldPose(clip.skeleton);
    const buffer = makePoseBuffer(clip.skeleton);
    const grip = clip.skeleton.names.indexOf('grip');
    for (const frame of [0, 12, 30, 59, 70]) {
      poseToWorld(clip.skeleton, samplePose(clip, frame, buffer), world);
      const own = placeOf(prop, 'grip', frame);
      own.forEach((v, k) => expect(world.positions[grip * 3 + k]).toBeCloseTo(v, 5));
    }
    // Carried from one end of the walk to the other.
    const [before, after] = [placeOf(prop, 'grip', 5), placeOf(prop, 'grip', 80)];
    expect(Math.hypot(...[0, 1, 2].map((k) => after[k]! - before[k]!))).toBeGreaterThan(0.8);
  });

  it('reach with a limb, and take a body of their own for a prop', async () => {
    const own = { name: 'Dog', body: 'dog.glb', prop: { shape: 'own file' }, start: { x: 2 } };
    const { scene } = await assemble(
      sheet(
        [{ kind: 'reach', child: 'Keeper', parent: 'Lantern', joint: 'grip', limb: 'rightHand', start: 4 }],
        [lantern, own],
      ),
    );
    expect(scene.tethers.t1).toMatchObject({ kind: 'reach', child: 'c1', parent: 'c2', end: null });
    expect(scene.characters.c3?.prop?.shape).toBe('own file');
  });

  it('say what is wrong with a tether, and where', async () => {
    expect(await failure([{ ...carry, parent: 'Visitor' }])).toMatchObject({
      place: { path: 'tethers[0].parent' },
      hint: 'Its characters are Keeper, Lantern.',
    });
    expect(await failure([{ ...carry, joint: 'leftHnd' }])).toMatchObject({
      place: { path: 'tethers[0].joint' },
      hint: 'Did you mean "leftHand"?',
    });
    expect(await failure([{ ...carry, held: 'grib' }])).toMatchObject({ place: { path: 'tethers[0].held' } });
    expect(await failure([{ ...carry, unto: 3 }])).toMatchObject({ code: 'unknown-key' });
    expect(await failure([{ ...carry, kind: 'chain' }])).toMatchObject({
      place: { path: 'tethers[0].kind' },
    });
    expect(await failure([{ child: 'Lantern', parent: 'Keeper' }])).toMatchObject({
      place: { path: 'tethers[0].start' },
    });
    expect(await failure([{ ...carry, kind: 'reach' }])).toMatchObject({ code: 'unknown-key' });
    const back = { child: 'Keeper', parent: 'Lantern', start: 0 };
    expect(await failure([carry, back])).toMatchObject({
      message: expect.stringContaining('Lantern would be held by Keeper'),
      place: { path: expect.stringContaining('tethers[1]') },
    });
  });

  it('say what is wrong with a prop, and where', async () => {
    expect(await failure([], [{ name: 'X', prop: { shape: 'lamp' } }])).toMatchObject({
      place: { path: 'characters[1].prop.shape' },
    });
    expect(await failure([], [{ name: 'X', prop: { shape: 'own file' } }])).toMatchObject({
      place: { path: 'characters[1].body' },
    });
    expect(await failure([], [{ name: 'X' }])).toMatchObject({ place: { path: 'characters[1].cues' } });
  });
});
