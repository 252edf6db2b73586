import type { Clip } from '@warper/core';
import {
  bake,
  compile,
  evaluate,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  fixedLibrary,
} from '@warper/core';
import { readBvh } from '@warper/formats';
import { readFileSync } from 'node:fs';
import { AnimationClip, AnimationMixer, Object3D, QuaternionKeyframeTrack, VectorKeyframeTrack } from 'three';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { benchBaking, benchTwoCores } from './baking';
import { benchFarming } from './farming';
import { benchCompile } from './compiling';
import { benchMatching } from './matching';
import { benchContinuity, benchFollowing } from './measuring';
import { compare } from './measure';
import { benchFullPose } from './fullPose';
import { benchArranging } from './arranging';
import { benchCurves } from './curves';
import { benchReducing } from './reducing';
import { benchStarting } from './starting';
import { benchStaging } from './staging';
import { benchSearching } from './searching';
import { sceneOf, segmentOf } from './scenes';
import { makeMotion, makeRig } from './rig';

const JOINTS = 65;
const FRAMES = 400;
const POSES = 2000;
const skeleton = makeRig(JOINTS);
const a = makeMotion(skeleton, FRAMES, 0, 'a');
const b = makeMotion(skeleton, FRAMES, 1.3, 'b');

/** The same clip in three. */
function threeClip(clip: Clip): AnimationClip {
  const times = Float32Array.from({ length: clip.frames }, (_, f) => f / clip.rate);
  const tracks = skeleton.names.map((name, j) => {
    const values = new Float32Array(clip.frames * 4);
    for (let f = 0; f < clip.frames; f++)
      values.set(clip.rotations.subarray((f * JOINTS + j) * 4, (f * JOINTS + j) * 4 + 4), f * 4);
    return new QuaternionKeyframeTrack(`${name}.quaternion`, times, values);
  });
  return new AnimationClip(clip.id, -1, [
    ...tracks,
    new VectorKeyframeTrack('hips.position', times, clip.translations),
  ]);
}

const plan = compile(
  sceneOf([segmentOf(a, 'a', 0), segmentOf(b, 'b', 1)]),
  fixedLibrary({ clip: (id) => (id === 'a' ? a : b), body: () => skeleton }),
);
const character = plan.characters[0]!;
const buffer = makePoseBuffer(skeleton);
const world = makeWorldPose(skeleton);

const objects = skeleton.names.map((name, i) => {
  const object = new Object3D();
  object.name = name;
  object.position.fromArray(skeleton.restTranslations, i * 3);
  return object;
});
objects.forEach((o, i) => skeleton.parents[i]! >= 0 && objects[skeleton.parents[i]!]!.add(o));
const mixer = new AnimationMixer(objects[0]!);
const actions = [a, b].map((clip) => mixer.clipAction(threeClip(clip)).play());

compare(
  `Crossfade of two clips, ${JOINTS} joints, aligned roots, world transforms`,
  'pose',
  POSES,
  () => {
    for (let i = 0; i < POSES; i++) {
      poseToWorld(skeleton, evaluate(character, 2 + (i % (FRAMES - 4)) + 0.3, buffer), world);
    }
  },
  {
    name: 'three mixer',
    run: () => {
      for (let i = 0; i < POSES; i++) {
        const w = (i % FRAMES) / FRAMES;
        actions[0]!.setEffectiveWeight(1 - w);
        actions[1]!.setEffectiveWeight(w);
        mixer.setTime((2 + (i % (FRAMES - 4)) + 0.3) / 30);
        objects[0]!.updateMatrixWorld(true);
      }
    },
  },
);

const capture = new Uint8Array(readFileSync('formats/fixtures/cmu-01-01-excerpt.bvh'));
const captureText = new TextDecoder().decode(capture);
compare(
  'Reading BVH: 1,200 frames of capture, 31 joints',
  'frame',
  1200,
  () => void readBvh(capture, 'capture.bvh', { hash: 'known' }),
  {
    name: 'three BVHLoader',
    run: () => void new BVHLoader().parse(captureText),
  },
);

const since = performance.now();
const seconds = 600;
bake(character, plan.rate, { from: 0, to: seconds * 30 });
const took = (performance.now() - since) / 1000;
console.log(
  `Baking ${seconds} s at 30 frames a second, ${JOINTS} joints\n  ${(seconds / took).toFixed(0)} times as fast as it plays\n`,
);

benchFullPose(skeleton, a, b);
benchBaking(skeleton, a, b);
await benchTwoCores();
await benchReducing();
benchMatching();
benchCompile(skeleton);
await benchContinuity();
await benchFollowing();
await benchSearching();
await benchArranging();
await benchCurves();
await benchStaging();
await benchStarting();
await benchFarming();
