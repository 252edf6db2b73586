import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import { compile, defined, evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { load, turn, walk } from './testing';

const sheet = (values: object = {}, cue: object = {}): unknown => ({
  format: 'warper-cues',
  version: 1,
  rate: 30,
  name: 'Round',
  characters: [
    {
      name: 'Keeper',
      body: 'keeper.glb',
      cues: [
        { ...walk, repeat: 2 },
        { ...turn, ...cue },
      ],
    },
    {
      name: 'Visitor',
      body: 'keeper.glb',
      start: { x: 2, z: 1, heading: 160 },
      cues: [
        { ...walk, repeat: 3 },
        { ...turn, gap: 4 },
      ],
    },
  ],
  ...values,
});
const assemble = (value: unknown) => assembleCues(parseCueSheet(value), load);
const failure = (value: unknown): Promise<unknown> =>
  (async () => assemble(value))().catch((error: unknown) => error);

const planOf = async (value: unknown): Promise<readonly [CharacterPlan, CharacterPlan]> => {
  const { scene, library } = await assemble(value);
  const [keeper, visitor] = compile(scene, library).characters;
  return [defined(keeper), defined(visitor)];
};

const rootOf = (plan: CharacterPlan, frame: number): number[] => [
  ...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root,
];

const placeOf = (plan: CharacterPlan, joint: string, frame: number): number[] => {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const { positions } = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
  const o = plan.skeleton.names.indexOf(joint) * 3;
  return [...positions.subarray(o, o + 3)];
};

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

describe('cue sheets of several characters', () => {
  it('have them meet', async () => {
    const [keeper, visitor] = await planOf(
      sheet({}, { meet: { character: 'Visitor', frame: 12, distance: 1.1, angle: 20 } }),
    );
    const frame = defined(keeper.segments[1]).start + 12;
    expect(apart(rootOf(keeper, frame).slice(0, 2), rootOf(visitor, frame).slice(0, 2))).toBeCloseTo(1.1, 6);
  });

  it('have what is linked wait for its event, and mark who is hit', async () => {
    const { scene } = await assemble(
      sheet({
        markers: [{ name: 'hail', frame: 7, impact: ['Visitor', 'Keeper'] }],
        links: [
          { follower: { marker: 'hail' }, leader: { character: 'Keeper', cue: 0, at: 'end' }, offset: 3 },
          { follower: { character: 'Visitor', cue: 1 }, leader: { marker: 'hail' }, offset: 40 },
        ],
      }),
    );
    expect(scene.markers).toEqual([
      expect.objectContaining({ name: 'hail', frame: 63, impact: ['c2', 'c1'] }),
    ]);
    expect(scene.segments.c2s2?.start).toBe(103);
  });

  it('have somebody walk on a lead', async () => {
    const lead = {
      kind: 'lead',
      child: 'Visitor',
      parent: 'Keeper',
      joint: 'rightHand',
      length: 2,
      start: 0,
    };
    const [keeper, visitor] = await planOf(sheet({ tethers: [lead] }));
    const free = (await planOf(sheet()))[1];
    expect(apart(placeOf(free, 'neck', 80), placeOf(keeper, 'rightHand', 80))).toBeGreaterThan(2.5);
    expect(apart(placeOf(visitor, 'neck', 80), placeOf(keeper, 'rightHand', 80))).toBeLessThan(2.06);
  });

  it('have somebody pushed', async () => {
    const push = { character: 'Keeper', by: 'Visitor', frame: 30, frames: 12, distance: 0.3 };
    const [pushed] = await planOf(sheet({ pushes: [push] }));
    const [free] = await planOf(sheet());
    expect(apart(rootOf(pushed, 42).slice(0, 2), rootOf(free, 42).slice(0, 2))).toBeCloseTo(0.3, 6);
    expect(rootOf(pushed, 29)).toEqual(rootOf(free, 29));
  });

  it.each<[string, object, object, string, RegExp]>([
    [
      'nobody to meet',
      {},
      { meet: { character: 'Ghost' } },
      'characters[0].cues[1].meet.character',
      /no character Ghost/,
    ],
    [
      'a joint',
      {},
      { meet: { character: 'Visitor', joints: { own: 'tail', other: 'head' } } },
      'characters[0].cues[1].meet.joints.own',
      /no joint tail/,
    ],
    [
      'an event of nothing',
      { links: [{ follower: {}, leader: { marker: 'x' } }] },
      {},
      'links[0].follower',
      /of a cue, a tether or a marker/,
    ],
    [
      'a marker',
      { links: [{ follower: { marker: 'x' }, leader: { character: 'Keeper', cue: 0 } }] },
      {},
      'links[0].follower.marker',
      /no marker x/,
    ],
    [
      'a cue',
      { links: [{ follower: { character: 'Keeper', cue: 9 }, leader: { character: 'Visitor', cue: 0 } }] },
      {},
      'links[0].follower.cue',
      /no cue 9/,
    ],
    [
      'a way to push',
      { pushes: [{ character: 'Keeper', frame: 3 }] },
      {},
      'pushes[0].distance',
      /distance is required/,
    ],
    [
      'a key',
      { markers: [{ name: 'a', frame: 3, impacts: [] }] },
      {},
      'markers[0].impacts',
      /Unknown key "impacts"/,
    ],
  ])('say where %s is missing', async (_, values, cue, path, message) => {
    const error = await failure(sheet(values, cue));
    expect(error).toMatchObject({ place: { path }, message: expect.stringMatching(message) });
  });
});
