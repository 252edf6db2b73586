import { describe, expect, it } from '@jest/globals';
import {
  AnimationClip,
  AnimationMixer,
  Object3D,
  Quaternion,
  QuaternionKeyframeTrack,
  Vector3,
  VectorKeyframeTrack,
} from 'three';
import { figureClip, strideJoints } from '../testing/figure';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from './pose';

const clip = figureClip(31, (f) => ({
  x: 0.02 * f,
  z: 0.04 * f,
  turn: 0.02 * f,
  joints: strideJoints((f / 30) * 2 * Math.PI),
}));

describe('sampling', () => {
  // Peer: three's AnimationMixer (MIT), linear keys at the same times.
  it('agrees with three at any time', () => {
    const { skeleton } = clip;
    const objects = skeleton.names.map((name, i) => {
      const o = new Object3D();
      o.name = name;
      o.position.fromArray(skeleton.restTranslations, i * 3);
      return o;
    });
    objects.forEach((o, i) => skeleton.parents[i]! >= 0 && objects[skeleton.parents[i]!]!.add(o));
    const times = Array.from({ length: 31 }, (_, i) => i / 30);
    const joints = skeleton.names.length;
    const tracks = skeleton.names.map((name, j) => {
      const values = times.flatMap((_, f) => [
        ...clip.rotations.slice((f * joints + j) * 4, (f * joints + j) * 4 + 4),
      ]);
      return new QuaternionKeyframeTrack(`${name}.quaternion`, times, values);
    });
    const move = new VectorKeyframeTrack('hips.position', times, [...clip.translations]);
    const mixer = new AnimationMixer(objects[0]!);
    mixer.clipAction(new AnimationClip('walk', 1, [...tracks, move])).play();
    const pose = makePoseBuffer(skeleton);
    const world = makeWorldPose(skeleton);
    for (const t of [0, 0.01, 1 / 3, 0.5, 0.777, 0.99]) {
      mixer.setTime(t);
      objects[0]!.updateMatrixWorld(true);
      poseToWorld(skeleton, samplePose(clip, t * 30, pose), world);
      objects.forEach((o, j) => {
        // three keeps keys as 32-bit floats, and we blend neighbours linearly within 0.01 degree.
        expect(
          o.getWorldPosition(new Vector3()).distanceTo(new Vector3().fromArray(world.positions, j * 3)),
        ).toBeLessThan(1e-4);
        expect(
          o.getWorldQuaternion(new Quaternion()).angleTo(new Quaternion().fromArray(world.rotations, j * 4)),
        ).toBeLessThan(3e-4);
      });
    }
  });

  it('holds the first and last sample beyond the ends', () => {
    const pose = makePoseBuffer(clip.skeleton);
    const last = samplePose(clip, 30, makePoseBuffer(clip.skeleton));
    expect(samplePose(clip, 99, pose).translations).toEqual(last.translations);
    const first = samplePose(clip, 0, makePoseBuffer(clip.skeleton));
    expect(samplePose(clip, -3, pose).rotations).toEqual(first.rotations);
  });
});
