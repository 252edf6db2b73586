import { describe, expect, it } from '@jest/globals';
import { VRMAnimationLoaderPlugin } from '@pixiv/three-vrm-animation';
import type { VRMAnimation } from '@pixiv/three-vrm-animation';
import type { Clip } from '@warper/core';
import {
  InputError,
  bake,
  compile,
  defined,
  evaluate,
  humanoidClip,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
} from '@warper/core';
import validator from 'gltf-validator';
import { Quaternion, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { assemble, load, turn, walk } from '../cues/testing';
import { joinBytes } from '../joinBytes';
import { readMotionFile } from '../read';
import { vrmaParts } from './write';

/** What a VRM library makes of a file (three-vrm-animation). */
async function readVrma(bytes: Uint8Array): Promise<VRMAnimation> {
  const loader = new GLTFLoader();
  loader.register((parser) => new VRMAnimationLoaderPlugin(parser));
  const { userData } = await loader.parseAsync(bytes.slice().buffer, '');
  return defined((userData.vrmAnimations as VRMAnimation[])[0]);
}

/** Places and turns of the bones of a T-pose humanoid at a time, as the library's tracks move it. */
function posed(
  animation: VRMAnimation,
  { skeleton }: Clip,
  seconds: number,
): Map<string, { p: Vector3; q: Quaternion }> {
  const bones = new Map<string, { p: Vector3; q: Quaternion }>();
  skeleton.names.forEach((name, j) => {
    const track = animation.humanoidTracks.rotation.get(name as never);
    const q = new Quaternion();
    if (track)
      q.fromArray(defined(track.InterpolantFactoryMethodLinear(new Float32Array(4)).evaluate(seconds)));
    const p = new Vector3().fromArray(skeleton.restTranslations, j * 3);
    const up = bones.get(skeleton.names[skeleton.parents[j]!] ?? '');
    if (up) {
      p.applyQuaternion(up.q).add(up.p);
      q.premultiply(up.q);
    } else {
      const hips = defined(animation.humanoidTracks.translation.get('hips'));
      p.fromArray(defined(hips.InterpolantFactoryMethodLinear(new Float32Array(3)).evaluate(seconds)));
    }
    bones.set(name, { p, q });
  });
  return bones;
}

const cast = [
  ['Keeper', await assemble([walk, turn], { body: 'keeper.glb' })],
  ['Visitor', await assemble([walk, turn], { name: 'Visitor', body: 'visitor.glb' })],
] as const;

describe('a VRM animation', () => {
  it.each(cast)(
    'of the %s is read by a VRM library with every bone where it was',
    async (_, { scene, library }) => {
      const plan = compile(scene, library);
      const character = defined(plan.characters[0]);
      const { skeleton } = character;
      const clip = bake(character, plan.rate);
      const bytes = joinBytes(await vrmaParts([{ name: 'take', clip }]));
      const { issues } = await validator.validateBytes(bytes);
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
      const animation = await readVrma(bytes);
      expect(animation.duration).toBeCloseTo((clip.frames - 1) / 30, 5);
      const human = humanoidClip(clip);
      const hips = animation.restHipsPosition;
      expect(hips.y).toBeCloseTo(human.skeleton.restTranslations[1]!, 6);
      for (let i = 0; i < 20; i++) {
        const frame = Math.round(((clip.frames - 1) * i) / 19);
        const pose = evaluate(character, character.start + frame, makePoseBuffer(skeleton));
        const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
        const bones = posed(animation, human, frame / 30);
        for (const [role, { p }] of bones) {
          const j = skeleton.roles.indexOf(role as never);
          const off = Math.hypot(...p.toArray().map((v, k) => v - positions[j * 3 + k]!));
          expect(off).toBeLessThan(1e-4);
        }
        // Turns away from the T-pose are those away from the rest pose, but for limbs that rest otherwise.
        for (const role of ['hips', 'head'] as const) {
          const j = skeleton.roles.indexOf(role);
          const world = poseToWorld(skeleton, pose, makeWorldPose(skeleton)).rotations;
          const rest = new Quaternion().fromArray(skeleton.rest.rotations, j * 4).invert();
          const away = new Quaternion().fromArray(world, j * 4).multiply(rest);
          expect((away.angleTo(defined(bones.get(role)).q) * 180) / Math.PI).toBeLessThan(0.05);
        }
      }
    },
  );

  it('stands in T-pose at rest: arms to the sides, legs down, nothing turned', async () => {
    for (const [, { scene, library }] of cast) {
      const plan = compile(scene, library);
      const { skeleton } = humanoidClip(bake(defined(plan.characters[0]), plan.rate, { from: 0, to: 2 }));
      const at = (role: string): Vector3 =>
        new Vector3().fromArray(skeleton.rest.positions, skeleton.names.indexOf(role) * 3);
      for (const [side, x] of [
        ['left', 1],
        ['right', -1],
      ] as const) {
        for (const [a, b] of [
          ['UpperArm', 'LowerArm'],
          ['LowerArm', 'Hand'],
        ])
          expect(
            at(`${side}${b}`)
              .sub(at(`${side}${a}`))
              .normalize().x,
          ).toBeCloseTo(x, 5);
        for (const [a, b] of [
          ['UpperLeg', 'LowerLeg'],
          ['LowerLeg', 'Foot'],
        ])
          expect(
            at(`${side}${b}`)
              .sub(at(`${side}${a}`))
              .normalize().y,
          ).toBeCloseTo(-1, 5);
        expect(at(`${side}Toes`).z).toBeGreaterThan(at(`${side}Foot`).z);
      }
      expect([...skeleton.restRotations].every((v, i) => v === (i % 4 === 3 ? 1 : 0))).toBe(true);
    }
  });

  it('holds several takes, and reduced keys, and is read as the glTF that it is', async () => {
    const [[, { scene, library }]] = cast;
    const plan = compile(scene, library);
    const clip = bake(defined(plan.characters[0]), plan.rate);
    const takes = [
      { name: 'a', clip },
      { name: 'b', clip },
    ];
    let keys = 0;
    const parts = await vrmaParts(takes, {
      keys: { errorMetres: 0.001 },
      onTracks: (t) => (keys += t.keys / t.of),
    });
    expect(keys).toBeLessThan(1);
    const { clips, bodies } = await readMotionFile(joinBytes(parts), 'takes.vrma');
    expect(clips.map((c) => [c.name, c.frames])).toEqual([
      ['a', clip.frames],
      ['b', clip.frames],
    ]);
    expect(bodies[0]?.skeleton.roles).toEqual(bodies[0]?.skeleton.names);
  });

  it('is refused for a body with four legs, with what is missing', async () => {
    const { clips } = await readMotionFile(await load('dog-walk.glb'), 'dog-walk.glb');
    await expect(vrmaParts([{ name: 'x', clip: defined(clips[0]) }])).rejects.toThrow(InputError);
    await expect(vrmaParts([{ name: 'x', clip: defined(clips[0]) }])).rejects.toThrow(
      /no humanoid.*UpperArm/,
    );
  });
});
