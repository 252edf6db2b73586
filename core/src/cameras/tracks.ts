import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatRotate } from '../math/quaternion';
import { unwrapAngles } from '../math/smoothing';
import { derivation } from '../memory/memory';
import type { CharacterPlan } from '../plan/plan';
import { jointNamed } from '../skeleton/jointNamed';
import { restHeight } from '../skeleton/skeleton';

/** Numbers of a place of a track: x, y, z in metres, and the heading of the root in radians without jumps. */
export const TRACK = 4;

/**
 * Where a joint is, and how its root faces, at each whole frame [from, to]: (to - from + 1) x TRACK. Without a joint it is the root on
 * the floor.
 */
export const jointTrack = derivation(
  'joint track',
  24,
  (_, plan: CharacterPlan, joint: string | null, from: number, to: number): Float64Array => {
    const { skeleton } = plan;
    const index = joint === null ? -1 : jointNamed(skeleton, joint);
    const buffer = makePoseBuffer(skeleton);
    const world = makeWorldPose(skeleton);
    const frames = to - from + 1;
    const out = new Float64Array(frames * TRACK);
    const headings = new Float64Array(frames);
    for (let f = 0; f < frames; f++) {
      const pose = evaluate(plan, from + f, buffer);
      headings[f] = pose.root[2]!;
      if (index < 0) {
        out[f * TRACK] = pose.root[0]!;
        out[f * TRACK + 2] = pose.root[1]!;
      } else
        out.set(poseToWorld(skeleton, pose, world).positions.subarray(index * 3, index * 3 + 3), f * TRACK);
    }
    unwrapAngles(headings);
    for (let f = 0; f < frames; f++) out[f * TRACK + 3] = headings[f]!;
    return out;
  },
);

/** A figure at each whole frame. */
export interface FigureTrack {
  /** Joints, and the tips of those that end a chain. */
  readonly points: number;
  /** frames x points x 3, metres. */
  readonly places: Float32Array;
  /** Metres by which its skin is around them. */
  readonly skin: number;
}

/** How far skin is around joints, in the height of the body. */
const SKIN = 0.035;

/** Where all of a figure is at each whole frame [from, to]. */
export const figureTrack = derivation(
  'figure track',
  3,
  (_, plan: CharacterPlan, from: number, to: number): FigureTrack => {
    const { skeleton } = plan;
    const joints = skeleton.names.length;
    const tips = skeleton.names.flatMap((_name, j) => (skeleton.ends[j] ? [j] : []));
    const points = joints + tips.length;
    const buffer = makePoseBuffer(skeleton);
    const world = makeWorldPose(skeleton);
    const places = new Float32Array((to - from + 1) * points * 3);
    for (let f = 0; f <= to - from; f++) {
      poseToWorld(skeleton, evaluate(plan, from + f, buffer), world);
      const o = f * points * 3;
      places.set(world.positions, o);
      tips.forEach((j, i) => {
        const tip = Float64Array.from(skeleton.ends[j]!);
        quatRotate(world.rotations, j * 4, tip, 0, tip, 0);
        for (let k = 0; k < 3; k++) places[o + (joints + i) * 3 + k] = world.positions[j * 3 + k]! + tip[k]!;
      });
    }
    return { points, places, skin: SKIN * restHeight(skeleton) };
  },
);
