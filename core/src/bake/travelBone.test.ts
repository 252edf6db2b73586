import { describe, expect, it } from '@jest/globals';
import type { Clip } from '../clip/clip';
import { withTravelBone } from '../clip/travelBone';
import { mirrorClip } from '../steps/variants';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { straightenTravel } from '../travel/travel';
import { compile } from '../compile/compile';
import { quatAngle, quatTurn } from '../math/quaternion';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { bake } from './bake';

const HALF = Math.SQRT1_2;
/** The small person below a root bone that lies on the floor and has its own axes, Z up, as skeletons made for games have. */
const skeleton = (() => {
  const person = figureSkeleton();
  return makeSkeleton({
    names: ['root', ...person.names],
    parents: [-1, ...Array.from(person.parents, (p) => p + 1)],
    // The hips' rest offset (0, 0.95, 0) and rotation, seen from the root bone's axes.
    restTranslations: [0, 0, 0, 0, 0, 0.95, ...person.restTranslations.subarray(3)],
    restRotations: [-HALF, 0, 0, HALF, HALF, 0, 0, HALF, ...person.restRotations.subarray(4)],
  });
})();

const TURN = 0.02;
const STEP = 0.04;
/** Place and heading of the root bone: it walks an arc, while the hips sway beside it. */
const place = (f: number) => {
  const turn = 0.3 + TURN * f;
  const radius = STEP / TURN;
  return { x: radius * (Math.cos(0.3) - Math.cos(turn)), z: radius * (Math.sin(turn) - Math.sin(0.3)), turn };
};

function walkOnBone(frames: number, moving = true, turning = true): Clip {
  const phase = (f: number): number => (2 * Math.PI * f) / 30;
  const body = figureClip(frames, (f) => {
    const { x, z, turn } = place(moving ? f : 0);
    const [aside, back] = [0.03 * Math.sin(phase(f)), -0.02];
    const [s, c] = [Math.sin(turn), Math.cos(turn)];
    return {
      x: x + aside * c + back * s,
      z: z - aside * s + back * c,
      turn,
      joints: strideJoints(phase(f)),
    };
  });
  const joints = skeleton.names.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 6);
  const q = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    const { x, z, turn } = place(moving ? f : 0);
    q.set(skeleton.restRotations.subarray(0, 4));
    if (turning) quatTurn(q, 0, turn);
    rotations.set(q, f * joints * 4);
    rotations.set(
      body.rotations.subarray(f * (joints - 1) * 4, (f + 1) * (joints - 1) * 4),
      (f * joints + 1) * 4,
    );
    translations.set(body.translations.subarray(f * 3, f * 3 + 3), f * 6);
    translations.set([x, 0, z], f * 6 + 3);
  }
  return withTravelBone({
    ...body,
    id: `bone${frames}${moving}${turning}`,
    skeleton,
    rotations,
    translated: Int32Array.of(1, 0),
    translations,
  });
}

/** World places of all joints at a sample, and the root bone's world rotation. */
function worldOf(clip: Clip, sample: number) {
  return poseToWorld(
    clip.skeleton,
    samplePose(clip, sample, makePoseBuffer(clip.skeleton)),
    makeWorldPose(clip.skeleton),
  );
}

const planOf = (...segments: Parameters<typeof segmentOf>[]) => {
  const list = segments.map(([clip, values]) => segmentOf(clip, values));
  return compile(sceneOf(list), libraryOf(...segments.map(([clip]) => clip)));
};

describe('a root bone that carries the travel', () => {
  const walk = walkOnBone(61);

  it('is the root: the hips sway beside it', () => {
    expect(walk.travelBone?.joint).toBe(0);
    const root = rootTrack(walk);
    for (const f of [0, 20, 60]) {
      const { x, z, turn } = place(f);
      expect(root[f * 3]).toBeCloseTo(x, 6);
      expect(root[f * 3 + 1]).toBeCloseTo(z, 6);
      expect(root[f * 3 + 2]).toBeCloseTo(turn, 6);
    }
  });

  it('comes out of a bake as it was, with the body where it was', () => {
    const plan = planOf([walk]);
    const baked = bake(plan.characters[0]!, plan.rate);
    for (const f of [0, 7, 33, 60]) {
      const [a, b] = [worldOf(walk, f), worldOf(baked, f)];
      a.positions.forEach((v, i) => expect(b.positions[i]).toBeCloseTo(v, 5));
      expect(quatAngle(a.rotations, 0, b.rotations, 0)).toBeLessThan(1e-4);
    }
    expect(rootTrack(baked)).toEqual(baked.travelBone!.root);
  });

  it('runs on through the cycles of a loop, one step as long as the other, and stands in place', () => {
    const plan = planOf([walk, { loop: true, repeat: 3 }]);
    const bone = (clip: Clip): number[][] =>
      Array.from({ length: clip.frames }, (_, f) => Array.from(worldOf(clip, f).positions.subarray(0, 3)));
    const places = bone(bake(plan.characters[0]!, plan.rate));
    for (let f = 1; f < places.length; f++) {
      const [dx, dz] = [places[f]![0]! - places[f - 1]![0]!, places[f]![2]! - places[f - 1]![2]!];
      expect(Math.hypot(dx, dz)).toBeCloseTo(STEP, 4);
      expect(places[f]![1]).toBeCloseTo(0, 9);
    }
    const still = bone(bake(plan.characters[0]!, plan.rate, { travel: 'in place' }));
    for (const p of still) {
      expect(p[0]).toBeCloseTo(still[0]![0]!, 6);
      expect(p[2]).toBeCloseTo(still[0]![2]!, 6);
    }
  });

  it('goes along with what is made of a clip', () => {
    const mirrored = mirrorClip(walk);
    const straight = straightenTravel(walk, 0, 61, null);
    for (const f of [0, 30, 60]) {
      const { x, z, turn } = place(f);
      expect(Array.from(rootTrack(mirrored).subarray(f * 3, f * 3 + 3))).toEqual([
        expect.closeTo(-x, 5),
        expect.closeTo(z, 5),
        expect.closeTo(-turn, 5),
      ]);
      // Beside the root the hips stay as far away as they were.
      const beside = (clip: Clip): number => {
        const root = rootTrack(clip);
        return Math.hypot(
          clip.translations[f * 6]! - root[f * 3]!,
          clip.translations[f * 6 + 2]! - root[f * 3 + 1]!,
        );
      };
      expect(beside(straight)).toBeCloseTo(beside(walk), 5);
      expect(beside(mirrored)).toBeCloseTo(beside(walk), 5);
    }
    const root = rootTrack(straight);
    expect(root[182]! - root[2]!).toBeCloseTo(0, 6);
  });

  it('may stand under a body that stays, and may leave the turning to the hips', () => {
    const still = walkOnBone(31, false);
    expect(still.travelBone?.joint).toBe(0);
    // The sway is no travel then.
    expect(rootTrack(still)[3 * 8]).toBeCloseTo(0, 6);
    const unturned = walkOnBone(31, true, false);
    expect(unturned.travelBone?.turned).toBe(true);
    const turnedFar = walkOnBone(91, true, false);
    expect(turnedFar.travelBone?.turned).toBe(false);
    expect(rootTrack(turnedFar)[3 * 45 + 2]).toBeCloseTo(place(45).turn, 2);
  });

  it('is none where it stays behind', () => {
    const left = { ...walk, travelBone: undefined, translations: walk.translations.slice() };
    for (let f = 0; f < left.frames; f++) left.translations.set([0, 0, 0], f * 6 + 3);
    expect(withTravelBone(left).travelBone).toBeUndefined();
  });
});
