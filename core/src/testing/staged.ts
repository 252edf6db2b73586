import { fixedLibrary } from '../compile/compile';
import type { Library } from '../compile/compile';
import type { Clip } from '../clip/clip';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import { PLAIN_CHARACTER } from '../scene/character';
import { PLAIN_LANE } from '../scene/lane';
import type { Prop } from '../scene/prop';
import type { Scene } from '../scene/scene';
import type { Hold, Reach, Tether } from '../scene/tether';
import { PLAIN_HOLD, PLAIN_REACH } from '../scene/tether';
import type { Skeleton } from '../skeleton/skeleton';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton } from './figure';
import { sceneOf, segmentOf } from './scenes';

/** The small person with hands, 24 cm behind the elbows. */
export function handedSkeleton(): Skeleton {
  const { names, parents, restTranslations } = figureSkeleton();
  return makeSkeleton({
    names: [...names, 'leftHand', 'rightHand'],
    parents: [...parents, names.indexOf('leftLowerArm'), names.indexOf('rightLowerArm')],
    restTranslations: [...restTranslations, 0.24, 0, 0, -0.24, 0, 0],
  });
}

/** A crate of two joints: its lid hangs on it. */
const crateSkeleton = (): Skeleton =>
  makeSkeleton({ names: ['crate', 'lid'], parents: [-1, 0], restTranslations: [0, 0, 0, 0, 0.3, 0] });

const crate: Prop = { shape: 'box', size: [0.4, 0.3, 0.4], colour: '#8a6b4a', raised: 0.8 };

const handed = handedSkeleton();

/** Somebody who walks, turns and swings the arms. */
const stroll: Clip = figureClip(
  90,
  (f) => ({
    x: 0.4 * Math.sin(f / 25),
    z: 0.02 * f,
    turn: 0.02 * f,
    joints: {
      leftUpperArm: [0.3 * Math.sin(f / 6), 0.2 * Math.cos(f / 9), -1 + 0.4 * Math.sin(f / 8)],
      leftLowerArm: [0, -0.4, -0.3],
      rightUpperArm: [0.2 * Math.cos(f / 7), 0, 0.8],
      rightLowerArm: [0, 0.5 + 0.2 * Math.sin(f / 5), 0],
      spine: [0.1 * Math.sin(f / 11), 0.2 * Math.sin(f / 13), 0],
    },
  }),
  { id: 'stroll', skeleton: handed },
);

export const stagedLibrary: Library = fixedLibrary({
  clip: (id) => (id === 'stroll' ? stroll : undefined),
  body: (id) => (id === 'crate' ? crateSkeletonOnce : handed),
});
const crateSkeletonOnce = crateSkeleton();

/** A Keeper and a Visitor who stroll, and a crate and a basket that lie there; with tethers. */
export function stagedScene(...tethers: readonly Tether[]): Scene {
  const one = sceneOf([segmentOf(stroll, { id: 'a' })]);
  const place = { x: 0.5, z: 0.3, heading: 20 };
  const prop = (id: string, name: string, x: number): Scene['characters'][string] => ({
    ...PLAIN_CHARACTER,
    id,
    name,
    body: 'crate',
    prop: crate,
    start: { ...place, x },
  });
  const lane = (id: string, character: string, segments: readonly string[]): Scene['lanes'][string] => ({
    ...PLAIN_LANE,
    id,
    kind: 'body',
    character,
    segments,
  });
  return {
    ...one,
    characters: {
      ...one.characters,
      v: { ...PLAIN_CHARACTER, id: 'v', name: 'Visitor', body: 'body', start: { x: -1, z: 1, heading: 200 } },
      p: prop('p', 'Crate', 0.5),
      b: prop('b', 'Basket', 0.9),
    },
    characterOrder: ['c', 'v', 'p', 'b'],
    lanes: { ...one.lanes, vl: lane('vl', 'v', ['va']), pl: lane('pl', 'p', []), bl: lane('bl', 'b', []) },
    laneOrder: [...one.laneOrder, 'vl', 'pl', 'bl'],
    segments: { ...one.segments, va: segmentOf(stroll, { id: 'va' }) },
    tethers: Object.fromEntries(tethers.map((t) => [t.id, t])),
  };
}

/** A hold of the crate by the Keeper's left hand in frames 20 to 59, with other values. */
export const holdOf = (values: Partial<Hold> = {}): Hold => ({
  ...PLAIN_HOLD,
  id: 't',
  name: 'carry',
  child: 'p',
  parent: 'c',
  joint: 'leftHand',
  start: 20,
  end: 60,
  ...values,
});

/** A reach of the Keeper for the lid of the crate, with other values. */
export const reachOf = (values: Partial<Reach> & Pick<Reach, 'limb' | 'start'>): Reach => ({
  ...PLAIN_REACH,
  id: 'r',
  name: 'grip',
  child: 'c',
  parent: 'p',
  joint: 'lid',
  ...values,
});

/** Where a joint of a plan is at a frame: x, y, z and xyzw. */
export function jointAt(plan: CharacterPlan, name: string, frame: number): number[] {
  const { skeleton } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const j = skeleton.names.indexOf(name);
  const q = [...rotations.subarray(j * 4, j * 4 + 4)];
  const sign = (q.find((v) => Math.abs(v) > 0.3) ?? 1) < 0 ? -1 : 1;
  return [...positions.subarray(j * 3, j * 3 + 3), ...q.map((v) => v * sign)];
}
