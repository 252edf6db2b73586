import { shortestTurn } from '../math/floorMove';
import { quatConjugate, quatMultiply, quatNormalize, quatTurn, quatTwistY } from '../math/quaternion';
import { smoothGaussian, unwrapAngles } from '../math/smoothing';
import { jointToLocal, restHeading } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import type { Clip, TravelBone } from './clip';
import type { ScenePose } from './pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from './pose';
import { HEADING_SIGMA_SECONDS, rawHeadings } from './root';

/** Metres on the floor within which a joint stays under the body that it carries. */
const UNDER_BODY = 0.5;
/** Metres by which a joint has moved, and by which the body may move over one that has not, and still be carried by it. */
const MOVES = { joint: 0.001, body: 0.15 };
/** A joint that carries the turn as well never looks further away from where the body faces. */
const ALONG_BODY = Math.PI / 3;

/**
 * The clip with the joint that carries its travel, where its skeleton has one: the topmost joint above the root bone that the
 * clip moves, and that stays under the body all the time. Its place on the floor, not the hips', is then the root; its
 * turn is the heading, if it turns with the body.
 */
export function withTravelBone(clip: Clip): Clip {
  const { skeleton, translated } = clip;
  const above: number[] = [];
  for (let j = skeleton.parents[skeleton.rootBone]!; j >= 0; j = skeleton.parents[j]!)
    if (translated.includes(j)) above.unshift(j);
  for (const joint of above) {
    const travelBone = travelBoneAt(clip, joint);
    if (travelBone) return { ...clip, travelBone };
  }
  return clip;
}

function travelBoneAt(clip: Clip, joint: number): TravelBone | null {
  const { skeleton, frames } = clip;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const rest = new Float64Array(4);
  const q = new Float64Array(4);
  quatConjugate(skeleton.rest.rotations, joint * 4, rest, 0);
  const root = new Float64Array(frames * 3);
  const turns = new Float64Array(frames);
  const moved = { joint: 0, body: 0 };
  for (let f = 0; f < frames; f++) {
    poseToWorld(skeleton, samplePose(clip, f, buffer), world);
    const at = (j: number, k: number): number => world.positions[j * 3 + k]!;
    if (
      Math.hypot(at(joint, 0) - at(skeleton.rootBone, 0), at(joint, 2) - at(skeleton.rootBone, 2)) >
      UNDER_BODY
    )
      return null;
    root.set([at(joint, 0), at(joint, 2)], f * 3);
    moved.joint = Math.max(moved.joint, Math.hypot(root[f * 3]! - root[0]!, root[f * 3 + 1]! - root[1]!));
    const body = clip.translations;
    const stride = clip.translated.length * 3;
    moved.body = Math.max(
      moved.body,
      Math.hypot(body[f * stride]! - body[0]!, body[f * stride + 2]! - body[2]!),
    );
    quatMultiply(world.rotations, joint * 4, rest, 0, q, 0);
    turns[f] = quatTwistY(q, 0) + restHeading(skeleton);
  }
  if (moved.joint < MOVES.joint && moved.body > MOVES.body) return null;
  const body = rawHeadings(clip);
  const turned = turns.every((t, f) => Math.abs(shortestTurn(t - body[f]!)) < ALONG_BODY);
  const headings = turned ? unwrapAngles(turns) : smoothGaussian(body, HEADING_SIGMA_SECONDS * clip.rate);
  for (let f = 0; f < frames; f++) root[f * 3 + 2] = headings[f]!;
  return { joint, turned, root };
}

/**
 * Puts the joint that carries the travel where a pose's root stands, as high and as upright as at rest; the root bone
 * below it stays where it is in the scene.
 *
 * @param turned whether it turns with the body; else it keeps the direction of its rest pose
 */
export function placeTravelBone(skeleton: Skeleton, joint: number, turned: boolean, pose: ScenePose): void {
  const rest = skeleton.rest;
  const { rotations, translations, root } = pose;
  for (let k = 0; k < 4; k++) rotations[joint * 4 + k] = rest.rotations[joint * 4 + k]!;
  if (turned) {
    quatTurn(rotations, joint * 4, root[2]! - restHeading(skeleton));
    quatNormalize(rotations, joint * 4);
  }
  translations[joint * 3] = root[0]!;
  translations[joint * 3 + 1] = rest.positions[joint * 3 + 1]!;
  translations[joint * 3 + 2] = root[1]!;
  jointToLocal(skeleton, joint, rotations, translations);
}
