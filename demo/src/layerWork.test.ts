import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Edit, LayerLane, PoseKey, Scene, ValueKey } from '@warper/core';
import {
  MERGE_ERROR,
  PLAIN_LAYER,
  PLAIN_LOOK,
  applyEdit,
  compile,
  copyLayerEdit,
  defined,
  differenceEdit,
  evaluate,
  fixedLibrary,
  jointOfRole,
  layerClip,
  layerLanes,
  makePoseBuffer,
  makeWorldPose,
  mergeDownEdit,
  partMask,
  poseToWorld,
} from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import { skeletonOf } from './build';
import { KEEPER, keeperClips, visitorClips } from './demonstration';
import { handClips } from './handClips';
import { sceneOf, segmentOf } from './testing';
import { visitorSkeleton } from './visitor';

const skeleton = skeletonOf(KEEPER);
const visitor = visitorSkeleton();
const named = (name: string) => defined(keeperClips(skeleton).find((c) => c.clip.name === name)).clip;
const [idle, walk, wave] = [named('Idle'), named('Walk'), named('Wave')];
const still = defined(visitorClips(visitor)[0]).clip;
const fist = defined(handClips(skeleton).find((c) => c.clip.name === 'Right hand fist')).clip;
const clips = [idle, walk, wave, still, fist];
const library = fixedLibrary({
  clip: (id) => clips.find((c) => c.id === id),
  body: (id) => (id === 'visitor' ? visitor : skeleton),
});

const turned = (frame: number, x: number, z: number): PoseKey => {
  const length = Math.hypot(1, x, z);
  return {
    frame,
    rotation: [x / length, 0, z / length, 1 / length],
    curve: 'smooth',
    tangent: null,
    into: null,
  };
};
const layer = (id: string, values: Partial<LayerLane>): LayerLane => ({
  ...PLAIN_LAYER,
  id,
  character: 'c',
  name: id,
  ...values,
});
/** The Keeper and the Visitor, with layers on the Keeper. */
function sceneWith(...layers: LayerLane[]): Scene {
  const base = sceneOf([segmentOf(idle, 'a'), segmentOf(wave, 'b', { start: 140 })]);
  const keeper = defined(base.characters.c);
  return {
    ...base,
    characters: { c: keeper, d: { ...keeper, id: 'd', name: 'Visitor', body: 'visitor' } },
    characterOrder: ['c', 'd'],
    lanes: {
      ...base.lanes,
      m: { ...defined(base.lanes.l), id: 'm', character: 'd', segments: ['v'] },
      ...Object.fromEntries(layers.map((l) => [l.id, l])),
    },
    laneOrder: ['l', ...layers.map((l) => l.id), 'm'],
    segments: { ...base.segments, v: segmentOf(still, 'v') },
  };
}
const planOf = (scene: Scene, index = 0): CharacterPlan => defined(compile(scene, library).characters[index]);
const rotationsAt = (plan: CharacterPlan, frame: number): Float64Array =>
  evaluate(plan, frame, makePoseBuffer(plan.skeleton)).rotations.slice();
const placeAt = (plan: CharacterPlan, frame: number, role: Parameters<typeof jointOfRole>[1]): number[] => {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const j = jointOfRole(plan.skeleton, role) * 3;
  return [...poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton)).positions.slice(j, j + 3)];
};
const ids = () => {
  let n = 0;
  return () => `n${++n}`;
};
const worst = (a: CharacterPlan, b: CharacterPlan, from: number, to: number): number => {
  let most = 0;
  for (let f = from; f < to; f++) {
    const [p, q] = [rotationsAt(a, f), rotationsAt(b, f)];
    for (let j = 0; j < a.skeleton.names.length; j++) most = Math.max(most, quatAngle(p, j * 4, q, j * 4));
  }
  return (most * 180) / Math.PI;
};

describe('layers merged', () => {
  const under = layer('u', {
    span: { start: 20, end: 90, fadeIn: 8, fadeOut: 8 },
    keys: { rightUpperArm: [turned(25, 0.4, 0.3), turned(60, -0.2, 0.6)], head: [turned(40, 0.2, 0)] },
  });
  const over = layer('o', {
    blend: 'additive',
    weight: [
      [10, 0],
      [50, 1],
      [100, 0.3],
    ],
    span: { start: 10, end: 110, fadeIn: 5, fadeOut: 5 },
    keys: { head: [turned(30, 0, 0.2), turned(80, 0.1, -0.1)], spine: [turned(50, 0.1, 0)] },
  });

  it('are one layer that shows the same within the error, with few keys, and what lies above stays above', () => {
    const top = layer('t', { blend: 'additive', keys: { neck: [turned(60, 0.1, 0)] } });
    const scene = sceneWith(under, over, top);
    const merged = applyEdit(scene, mergeDownEdit(planOf(scene), layerLanes(scene, 'c'), over), library);
    expect(layerLanes(merged, 'c').map((l) => l.id)).toEqual(['u', 't']);
    expect(worst(planOf(scene), planOf(merged), 0, 130)).toBeLessThan(MERGE_ERROR * 2);
    const made = defined(layerLanes(merged, 'c')[0]);
    expect(Object.keys(made.keys).sort()).toEqual(['head', 'rightUpperArm', 'spine']);
    for (const keys of Object.values(made.keys)) expect(keys.length).toBeLessThan(60);
  });

  const at = (frame: number, value: number): ValueKey => ({
    frame,
    value,
    curve: 'smooth',
    tangent: null,
    into: null,
  });
  const push: Partial<LayerLane> = {
    rootKeys: {
      forward: [at(30, 0), at(38, -0.4)],
      turn: [at(30, 0), at(60, 300)],
      up: [at(20, 0), at(44, 0.1)],
    },
  };
  const heldApart = (a: CharacterPlan, b: CharacterPlan, frames: readonly number[]): number =>
    Math.max(
      ...frames.flatMap((f) =>
        (['hips', 'head', 'leftHand', 'rightFoot'] as const).map((role) => {
          const [p, q] = [placeAt(a, f, role), placeAt(b, f, role)];
          return Math.hypot(...p.map((v, k) => v - defined(q[k])));
        }),
      ),
    );

  it('move the root as the two did, within a few millimetres, and carry on what follows', () => {
    // Between frames as well: a turn that went the other way round would show there.
    const turning = Array.from({ length: 60 }, (_, i) => 30 + i / 2);
    const frames = [0, 15, ...turning, 60, 89, 120, 150, 200];
    for (const [carriesOn, rootFeet] of [
      [true, 'slide'],
      [true, 'hold'],
      [false, 'slide'],
    ] as const) {
      const span = carriesOn ? null : { start: 15, end: 110, fadeIn: 4, fadeOut: 10 };
      const straight = sceneWith(under, { ...over, ...push, span, carriesOn, rootFeet });
      const facing = { ...defined(straight.characters.c), start: { x: 1, z: 2, heading: 40 } };
      const scene = { ...straight, characters: { ...straight.characters, c: facing } };
      const own = defined(layerLanes(scene, 'c')[1]);
      const merged = applyEdit(scene, mergeDownEdit(planOf(scene), layerLanes(scene, 'c'), own), library);
      expect(layerLanes(merged, 'c')).toMatchObject([{ id: 'u', carriesOn, rootFeet }]);
      expect(heldApart(planOf(scene), planOf(merged), frames)).toBeLessThan(8e-3);
    }
  });

  it('keep looks and keyed dials, hips that come down too', () => {
    const bow = layer('b', { dialKeys: { crouch: [at(10, 0), at(40, 0.1)], lean: [at(10, 0), at(40, 20)] } });
    const scene = sceneWith(bow, { ...over, look: { ...PLAIN_LOOK, at: { point: [2, 1, 3] } } });
    const own = defined(layerLanes(scene, 'c')[1]);
    const merged = applyEdit(scene, mergeDownEdit(planOf(scene), layerLanes(scene, 'c'), own), library);
    expect(layerLanes(merged, 'c')).toMatchObject([{ look: null, dialKeys: {}, rootFeet: 'slide' }]);
    expect(heldApart(planOf(scene), planOf(merged), [0, 10, 25, 40, 60, 130])).toBeLessThan(8e-3);
  });

  it('are refused where there is none below, and where one carries on what follows and the other does not', () => {
    const scene = sceneWith(under);
    expect(() => mergeDownEdit(planOf(scene), layerLanes(scene, 'c'), under)).toThrow('no layer below');
    const pushed = sceneWith({ ...under, ...push, carriesOn: false }, { ...over, ...push, carriesOn: true });
    const own = layerLanes(pushed, 'c')[1]!;
    expect(() => mergeDownEdit(planOf(pushed), layerLanes(pushed, 'c'), own)).toThrow('cannot do both');
  });
});

it('the difference of two segments, laid over the first, is the second', () => {
  const scene = sceneWith();
  const after = applyEdit(scene, differenceEdit(planOf(scene), 'a', 'b', 'x'), library);
  const [own, other] = [planOf(after), planOf(scene)];
  for (const f of [30, 50, 70]) {
    const [p, q] = [rotationsAt(own, f), rotationsAt(other, 140 + f)];
    for (const role of ['rightUpperArm', 'rightLowerArm', 'head', 'spine'] as const) {
      const j = jointOfRole(skeleton, role) * 4;
      expect((quatAngle(p, j, q, j) * 180) / Math.PI).toBeLessThan(MERGE_ERROR + 0.1);
    }
  }
  expect(() => differenceEdit(planOf(scene), 'a', 'a', 'x')).toThrow('two segments');
});

describe('layers copied', () => {
  const raised = layer('r', {
    keys: { rightUpperArm: [turned(30, 0, 0.5)], rightLowerArm: [turned(30, 0.3, 0.2)] },
    mask: [{ bone: 'rightUpperArm*', weight: 1 }],
    rootKeys: { left: [{ frame: 30, value: 0.2, curve: 'flat', tangent: null, into: null }] },
  });
  const copied = (to: 'c' | 'd', mirrored: boolean): Scene => {
    const scene = sceneWith(raised);
    const target = { character: to, skeleton: to === 'c' ? skeleton : visitor, mirrored, name: 'copy' };
    return applyEdit(scene, copyLayerEdit(scene, raised, skeleton, target, ids()), library);
  };
  const apart = (a: readonly number[], b: readonly number[]): number =>
    Math.hypot(...a.map((v, k) => v - defined(b[k])));
  /** A joint's place against the shoulder, as the body faces. */
  const fromShoulder = (plan: CharacterPlan, side: 'left' | 'right'): number[] => {
    const [a, b] = [placeAt(plan, 30, `${side}UpperArm`), placeAt(plan, 30, `${side}Hand`)];
    const heading = evaluate(plan, 30, makePoseBuffer(plan.skeleton)).root[2]!;
    const [x, y, z] = b.map((v, k) => v - defined(a[k])) as [number, number, number];
    const length = Math.hypot(x, y, z);
    const [s, c] = [Math.sin(heading), Math.cos(heading)];
    return [x * c - z * s, y, x * s + z * c].map((v) => v / length);
  };

  it('to the other side do there what they did here', () => {
    const scene = copied('c', true);
    const copy = defined(layerLanes(scene, 'c')[1]);
    expect(Object.keys(copy.keys).sort()).toEqual(['leftLowerArm', 'leftUpperArm']);
    expect(copy.mask).toEqual([{ bone: 'leftUpperArm*', weight: 1 }]);
    expect(copy.rootKeys.left?.[0]?.value).toBe(-0.2);
    const plan = planOf(scene);
    const [x = 0, y = 0, z = 0] = fromShoulder(plan, 'right');
    expect(apart(fromShoulder(plan, 'left'), [-x, y, z])).toBeLessThan(0.05);
  });

  it('to another body, whatever its bones are called, have the limbs point the same way', () => {
    const scene = copied('d', false);
    const copy = defined(layerLanes(scene, 'd')[0]);
    expect(Object.keys(copy.keys).sort()).toEqual(['r_elbow', 'r_shoulder']);
    expect(apart(fromShoulder(planOf(scene, 1), 'right'), fromShoulder(planOf(scene), 'right'))).toBeLessThan(
      0.1,
    );
  });

  it('take their clips along, mirrored where they are', () => {
    const scene = sceneWith(layer('h', { mask: partMask(fist), segments: ['f'] }));
    const withFist: Scene = {
      ...scene,
      segments: { ...scene.segments, f: segmentOf(fist, 'f', { start: 12 }) },
    };
    const own = layerLanes(withFist, 'c')[0]!;
    const edit: Edit = copyLayerEdit(
      withFist,
      own,
      skeleton,
      { character: 'c', skeleton, mirrored: true, name: 'left' },
      ids(),
    );
    const after = applyEdit(withFist, edit, library);
    const copy = defined(layerLanes(after, 'c')[1]);
    expect(copy.mask.map((m) => m.bone)).toContain('leftIndexProximal*');
    const segment = defined(after.segments[defined(copy.segments[0])]);
    expect(segment).toMatchObject({ start: 12, mirror: true });
    const joint = skeleton.names.indexOf('leftMiddleProximal') * 4;
    const rest = Float64Array.of(0, 0, 0, 1);
    expect(quatAngle(rotationsAt(planOf(after), 20), joint, rest, 0)).toBeGreaterThan(1.2);
  });
});

it('key poses are saved as a clip that does the same on a layer of its own', () => {
  const posed = layer('p', {
    blend: 'additive',
    keys: { rightUpperArm: [turned(30, 0, 0.5), turned(60, 0.2, 0.1)], head: [turned(45, 0.2, 0)] },
  });
  const clip = { ...layerClip(posed, skeleton, 30), id: 'saved' };
  expect(clip.frames).toBe(31);
  expect(
    partMask(clip)
      .map((m) => m.bone)
      .sort(),
  ).toEqual(['head', 'rightUpperArm']);
  clips.push(clip);
  const asKeys = planOf(sceneWith(posed));
  const asClip = sceneWith(
    layer('s', { blend: 'additive', reference: 'rest', mask: partMask(clip), segments: ['k'] }),
  );
  const played: Scene = {
    ...asClip,
    segments: { ...asClip.segments, k: segmentOf(clip, 'k', { start: 30 }) },
  };
  expect(worst(asKeys, planOf(played), 30, 61)).toBeLessThan(0.05);
  expect(() => layerClip(layer('e', {}), skeleton, 30)).toThrow('no key poses');
});
