import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { applyEdit, edit } from '../edit/edit';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import type { Scene } from '../scene/scene';
import type { Lead } from '../scene/tether';
import { PLAIN_LEAD } from '../scene/tether';
import { library, two, walk } from '../testing/arranging';
import { figureClip } from '../testing/figure';
import { libraryOf } from '../testing/scenes';
import { compile } from './compile';

const lead: Lead = {
  ...PLAIN_LEAD,
  id: 't',
  name: 'lead',
  child: 'd',
  parent: 'c',
  joint: 'rightLowerArm',
  held: 'spine',
  length: 1.2,
  start: 10,
  end: 100,
};

/** The Keeper walks on; the Visitor walks the other way, two metres beside. */
const apartScene: Scene = {
  ...two,
  characters: {
    ...two.characters,
    d: { ...two.characters.d!, start: { x: 1, z: 0, heading: 150 } },
  },
  segments: {
    ...two.segments,
    e: { ...two.segments.e!, clip: walk.id, start: 0, in: 0, out: 31, loop: true, repeat: 4 },
    f: { ...two.segments.f!, clip: walk.id, start: 112, in: 0, out: 31, loop: true, repeat: 2 },
  },
};

const placeOf = (plan: CharacterPlan, joint: string, frame: number): number[] => {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const { positions } = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
  const o = plan.skeleton.names.indexOf(joint) * 3;
  return [...positions.subarray(o, o + 3)];
};

const rootOf = (plan: CharacterPlan, frame: number): number[] => [
  ...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root,
];

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - b[k]!));

describe('somebody on a lead', () => {
  const scene = applyEdit(apartScene, { type: 'tether', tether: lead }, library);
  const [keeper, led] = compile(scene, library).characters as [CharacterPlan, CharacterPlan];
  const free = compile(apartScene, library).characters[1]!;

  it('goes its own way before, stays within the length of the lead while it is on, and walks on from there', () => {
    for (const frame of [0, 5, 10]) expect(rootOf(led, frame)).toEqual(rootOf(free, frame));
    for (let frame = 35; frame < 100; frame += 5)
      expect(apart(placeOf(led, 'spine', frame), placeOf(keeper, 'rightLowerArm', frame))).toBeLessThan(
        1.2 + 0.15,
      );
    expect(apart(placeOf(free, 'spine', 90), placeOf(keeper, 'rightLowerArm', 90))).toBeGreaterThan(3);
    // Off the lead it goes straight on in its new direction.
    const turnAt = (frame: number): number => rootOf(led, frame)[2]!;
    expect(turnAt(170) - turnAt(125)).toBeCloseTo(rootOf(free, 170)[2]! - rootOf(free, 125)[2]!, 1);
  });

  it('never jumps', () => {
    for (let frame = 1; frame < 170; frame++)
      expect(apart(rootOf(led, frame).slice(0, 2), rootOf(led, frame - 1).slice(0, 2))).toBeLessThan(0.13);
  });

  it('follows whoever leads when they go elsewhere, and keeps its plan while nothing of that changes', () => {
    const turned = edit(
      scene,
      { type: 'start character', character: 'c', start: { x: 0, z: 0, heading: -90 } },
      library,
    ).scene;
    expect(rootOf(compile(turned, library).characters[1]!, 90)).not.toEqual(rootOf(led, 90));
  });

  it('may not lead whom it is led by', () => {
    const back: Lead = { ...lead, id: 'u', child: 'c', parent: 'd' };
    expect(() => applyEdit(scene, { type: 'tether', tether: back }, library)).toThrow(/ring of tethers/);
  });

  it('who stands steps after a pull, over seams as well: no foot slides along, no leg is stretched', () => {
    const still = figureClip(60, () => ({ x: 0, z: 0, turn: 0, joints: {} }), { id: 'still' });
    const own = libraryOf(walk, still);
    const standing: Scene = {
      ...apartScene,
      characters: {
        ...apartScene.characters,
        d: { ...apartScene.characters.d!, start: { x: 0.6, z: 0.3, heading: 0 } },
      },
      lanes: {
        ...apartScene.lanes,
        l: { ...apartScene.lanes.l!, segments: ['a'] },
        y: { ...apartScene.lanes.y!, segments: [] },
      },
      segments: {
        a: { ...apartScene.segments.a!, repeat: 5 },
        e: { ...apartScene.segments.f!, id: 'e', clip: still.id, out: 60, loop: true, repeat: 1.2, start: 0 },
        f: { ...apartScene.segments.f!, clip: still.id, out: 60, loop: true, repeat: 2, start: 64 },
      },
      tethers: { t: { ...lead, start: 5, end: null } },
    };
    const plan = compile(standing, own).characters[1]!;
    expect(apart(rootOf(plan, 5).slice(0, 2), rootOf(plan, 150).slice(0, 2))).toBeGreaterThan(2);
    for (const foot of ['leftFoot', 'rightFoot']) {
      const path = Array.from({ length: 146 }, (_, f) => placeOf(plan, foot, f + 5));
      const low = Math.min(...path.map((p) => p[1]!));
      path.forEach((place, i) => {
        // Under its body, give or take a stride.
        expect(apart([place[0]!, place[2]!], rootOf(plan, i + 5).slice(0, 2))).toBeLessThan(0.75);
        const before = path[i - 1];
        if (!before || place[1]! > low + 0.012 || before[1]! > low + 0.012) return;
        expect(apart([place[0]!, place[2]!], [before[0]!, before[2]!])).toBeLessThan(0.02);
      });
      expect(Math.max(...path.map((p) => p[1]!))).toBeGreaterThan(low + 0.02);
    }
  });
});
