import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Edit, LayerLane, Scene } from '@warper/core';
import {
  PLAIN_LAYER,
  applyEdit,
  bentPose,
  bodyPartAt,
  compile,
  defined,
  evaluate,
  handPoseOf,
  handPosed,
  hipsEdit,
  jointOfRole,
  limbBendingAt,
  makePoseBuffer,
  makeWorldPose,
  poseEdit,
  poseToWorld,
  swivelledPose,
} from '@warper/core';
import fc from 'fast-check';
import { keeperClips, KEEPER } from './demonstration';
import { skeletonOf } from './build';
import { HAND_SHAPES } from './hand';
import { handClips } from './handClips';
import { libraryOf, sceneOf, segmentOf } from './testing';

const skeleton = skeletonOf(KEEPER);
const idle = defined(keeperClips(skeleton).find((c) => c.clip.name === 'Idle')).clip;
const hands = handClips(skeleton).map((c) => c.clip);
const library = libraryOf([idle, ...hands], skeleton);
const FRAME = 40;

const layerScene = (values: Partial<LayerLane> = {}): Scene => {
  const base = sceneOf([segmentOf(idle, 'a')], true);
  const span = { start: 20, end: 80, fadeIn: 9, fadeOut: 9 };
  const layer = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'pose', span, ...values };
  return { ...base, lanes: { ...base.lanes, y: layer }, laneOrder: ['l', 'y'] };
};
const planOf = (scene: Scene): CharacterPlan => defined(compile(scene, library).characters[0]);
const layerOf = (scene: Scene): LayerLane => scene.lanes.y as LayerLane;
const placesAt = (plan: CharacterPlan, frame = FRAME): Float64Array =>
  poseToWorld(
    skeleton,
    evaluate(plan, frame, makePoseBuffer(skeleton)),
    makeWorldPose(skeleton),
  ).positions.slice();
const place = (places: Float64Array, role: Parameters<typeof jointOfRole>[1]): number[] => {
  const j = jointOfRole(skeleton, role) * 3;
  return [...places.slice(j, j + 3)];
};
const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));
const after = (scene: Scene, edit: Edit): CharacterPlan => planOf(applyEdit(scene, edit, library));
const by = (metres: number) => fc.integer({ min: -100, max: 100 }).map((v) => (v / 100) * metres);
const TENTH_OF_A_MILLIMETRE = 1e-4;

describe('hips that are brought to a place', () => {
  it('are there, the hands stay, and so do the feet, in override and additive layers', () => {
    fc.assert(
      fc.property(
        by(0.12),
        by(0.1),
        by(0.12),
        fc.constantFrom('override' as const, 'additive' as const),
        (x, y, z, blend) => {
          const scene = layerScene({ blend });
          const plan = planOf(scene);
          const before = placesAt(plan);
          const [hx = 0, hy = 0, hz = 0] = place(before, 'hips');
          const target = Float64Array.of(hx + x, hy - Math.abs(y), hz + z);
          const places = placesAt(after(scene, hipsEdit(plan, layerOf(scene), FRAME, target, true)));
          // Legs that are too short hold the hips back; within these limits they are not.
          expect(apart(place(places, 'hips'), [...target])).toBeLessThan(0.02);
          for (const foot of ['leftFoot', 'rightFoot'] as const)
            expect(apart(place(places, foot), place(before, foot))).toBeLessThan(8e-3);
          const lowered = apart(place(places, 'hips'), [...target]);
          for (const side of ['left', 'right'] as const) {
            const [hand, shoulder] = [place(before, `${side}Hand`), place(places, `${side}UpperArm`)];
            if (apart(hand, shoulder) > 0.999 * (KEEPER.upperArm + KEEPER.lowerArm)) continue;
            const off = apart(place(places, `${side}Hand`), hand);
            expect(off).toBeLessThan(lowered + TENTH_OF_A_MILLIMETRE);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('that were moved once are moved on from there', () => {
    let scene = layerScene();
    for (const down of [0.05, 0.12]) {
      const plan = planOf(scene);
      const [x = 0, , z = 0] = place(placesAt(plan), 'hips');
      const target = Float64Array.of(x, defined(place(placesAt(planOf(layerScene())), 'hips')[1]) - down, z);
      scene = applyEdit(scene, hipsEdit(plan, layerOf(scene), FRAME, target, false), library);
      expect(apart(place(placesAt(planOf(scene)), 'hips'), [...target])).toBeLessThan(TENTH_OF_A_MILLIMETRE);
    }
    expect(layerOf(scene)).toMatchObject({ rootFeet: 'hold', carriesOn: false });
  });
});

describe('a trunk or head that is brought to a place', () => {
  it('bends towards it as far as its length goes, and the hands stay where they are told to', () => {
    fc.assert(
      fc.property(by(0.2), by(0.2), fc.boolean(), (x, z, keepHands) => {
        const scene = layerScene();
        const plan = planOf(scene);
        const before = placesAt(plan);
        const chest = jointOfRole(skeleton, 'upperChest');
        const hips = place(before, 'spine');
        const [cx = 0, cy = 0, cz = 0] = place(before, 'upperChest');
        // On the sphere about the foot of the spine that the chest is on.
        const radius = apart([cx, cy, cz], hips);
        const aim = [cx + x - hips[0]!, cy - hips[1]!, cz + z - hips[2]!];
        const length = Math.hypot(...aim);
        const target = Float64Array.from(aim, (v, k) => hips[k]! + (v / length) * radius);
        const posed = bentPose(plan, FRAME, chest, target, keepHands);
        const places = placesAt(after(scene, poseEdit(plan, layerOf(scene), FRAME, posed)));
        expect(apart(place(places, 'upperChest'), [...target])).toBeLessThan(8e-3);
        expect(apart(place(places, 'hips'), place(before, 'hips'))).toBeLessThan(TENTH_OF_A_MILLIMETRE);
        if (keepHands)
          for (const side of ['left', 'right'] as const) {
            const [hand, shoulder] = [place(before, `${side}Hand`), place(places, `${side}UpperArm`)];
            if (apart(hand, shoulder) > 0.999 * (KEEPER.upperArm + KEEPER.lowerArm)) continue;
            expect(apart(place(places, `${side}Hand`), hand)).toBeLessThan(TENTH_OF_A_MILLIMETRE);
          }
      }),
      { numRuns: 40 },
    );
  });

  it('are the hips, the chest and the head; limbs are none', () => {
    const part = (role: Parameters<typeof jointOfRole>[1]) =>
      bodyPartAt(skeleton, jointOfRole(skeleton, role));
    expect([part('hips'), part('chest'), part('head'), part('leftHand')]).toEqual([
      'hips',
      'trunk',
      'head',
      null,
    ]);
  });
});

it('an elbow swivels about the line from the shoulder to the hand, which stays', () => {
  fc.assert(
    fc.property(by(0.4), by(0.4), by(0.4), (x, y, z) => {
      const scene = layerScene();
      const plan = planOf(scene);
      const before = placesAt(plan);
      const limb = defined(limbBendingAt(skeleton, jointOfRole(skeleton, 'rightLowerArm')) ?? undefined);
      const [ex = 0, ey = 0, ez = 0] = place(before, 'rightLowerArm');
      const target = Float64Array.of(ex + x, ey + y, ez + z);
      const places = placesAt(
        after(scene, poseEdit(plan, layerOf(scene), FRAME, swivelledPose(plan, FRAME, limb, target))),
      );
      expect(apart(place(places, 'rightHand'), place(before, 'rightHand'))).toBeLessThan(
        TENTH_OF_A_MILLIMETRE,
      );
      // No place on its circle is nearer to where it was drawn to.
      const own = apart(place(places, 'rightLowerArm'), [...target]);
      expect(own).toBeLessThanOrEqual(apart(place(before, 'rightLowerArm'), [...target]) + 1e-6);
    }),
    { numRuns: 40 },
  );
});

describe('fingers', () => {
  it('are read as they are held: the hand clips of the library come out as they were made', () => {
    for (const [name, side] of [
      ['Left hand fist', 'left'],
      ['Right hand point', 'right'],
      ['Left hand spread', 'left'],
    ] as const) {
      const clip = defined(hands.find((c) => c.name === name));
      const shape = HAND_SHAPES[name.split(' ').at(-1) as keyof typeof HAND_SHAPES];
      const plan = defined(compile(sceneOf([segmentOf(clip, 'a')]), library).characters[0]);
      const { curls, spread } = handPoseOf(plan, 8, side);
      for (const finger of ['Index', 'Middle', 'Ring', 'Little'] as const) {
        const wanted = (shape.bends[finger][0] * 180) / Math.PI;
        // The clip breathes by three hundredths of the way to a relaxed hand.
        const own = defined(curls[finger.toLowerCase() as 'index']);
        expect(Math.abs(own - wanted)).toBeLessThan(2.5);
      }
      // The line of the knuckles that is found leans by three degrees from the one that the clips were made with.
      expect(Math.abs(spread - (shape.spread * 180) / Math.PI)).toBeLessThan(3.5);
    }
  });

  it('are held as they are told to be, on either side', () => {
    const degrees = by(1).map((v) => 35 + 40 * v);
    const shape = fc.record({
      curls: fc.record({ index: degrees, middle: degrees, ring: degrees, little: degrees, thumb: degrees }),
      spread: by(8),
    });
    fc.assert(
      fc.property(shape, fc.constantFrom('left' as const, 'right' as const), (wanted, side) => {
        const scene = layerScene();
        const plan = planOf(scene);
        const posed = handPosed(plan, side, wanted);
        const { curls, spread } = handPoseOf(
          after(scene, poseEdit(plan, layerOf(scene), FRAME, posed)),
          FRAME,
          side,
        );
        expect(spread).toBeCloseTo(wanted.spread, 3);
        for (const [finger, curl] of Object.entries(wanted.curls))
          expect(curls[finger as keyof typeof curls]).toBeCloseTo(curl, 3);
      }),
      { numRuns: 20 },
    );
  });
});
