import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Edit, LayerLane, Scene, KeptLimbs } from '@warper/core';
import {
  PLAIN_LAYER,
  applyEdit,
  bentPose,
  bodyPartAt,
  breakdownEdit,
  compile,
  copyPose,
  defined,
  evaluate,
  handPoseOf,
  handPosed,
  hipsEdit,
  jointOfRole,
  limbBendingAt,
  makePoseBuffer,
  makeWorldPose,
  pastedPose,
  poseBelow,
  poseEdit,
  poseToWorld,
  swivelledPose,
} from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import fc from 'fast-check';
import { KEEPER, keeperClips, visitorClips } from './demonstration';
import { skeletonOf } from './build';
import { HAND_SHAPES } from './hand';
import { handClips } from './handClips';
import { libraryOf, sceneOf, segmentOf } from './testing';
import { visitorSkeleton } from './visitor';

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
const kept = (hands: boolean): KeptLimbs => ({ leftHand: hands, rightHand: hands, feet: true });

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
          const places = placesAt(after(scene, hipsEdit(plan, layerOf(scene), FRAME, target, kept(true))));
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
      scene = applyEdit(scene, hipsEdit(plan, layerOf(scene), FRAME, target, kept(false)), library);
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
        const posed = bentPose(plan, FRAME, chest, target, kept(keepHands));
        const places = placesAt(after(scene, poseEdit(plan, layerOf(scene), FRAME, posed)));
        expect(apart(place(places, 'upperChest'), [...target])).toBeLessThan(8e-3);
        const directionOf = (own: CharacterPlan): Float64Array =>
          poseToWorld(skeleton, evaluate(own, FRAME, makePoseBuffer(skeleton)), makeWorldPose(skeleton))
            .rotations;
        const bent = after(scene, poseEdit(plan, layerOf(scene), FRAME, posed));
        expect(quatAngle(directionOf(plan), chest * 4, directionOf(bent), chest * 4)).toBeLessThan(1e-3);
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

describe('poses', () => {
  const shown = (plan: CharacterPlan, frame: number): Float64Array =>
    evaluate(plan, frame, makePoseBuffer(skeleton)).rotations.slice();
  const angleOff = (a: Float64Array, b: Float64Array, joints: readonly number[]): number =>
    Math.max(...joints.map((j) => quatAngle(a, j * 4, b, j * 4)));
  const upper = skeleton.names.flatMap((name, j) => (/Leg|Foot|Toes|hips/.test(name) ? [] : [j]));

  it('that are copied are pasted at another frame, and mirrored twice they are themselves', () => {
    const scene = layerScene();
    const plan = planOf(scene);
    const limb = defined(limbBendingAt(skeleton, jointOfRole(skeleton, 'rightLowerArm')) ?? undefined);
    const raised = swivelledPose(plan, 30, limb, Float64Array.of(-0.8, 1.4, 0.5));
    const posed = applyEdit(scene, poseEdit(plan, layerOf(scene), 30, raised), library);
    const copied = copyPose(planOf(posed), 30);
    const paste = (from: Scene, at: number, pose: typeof copied, mirrored: boolean): Scene => {
      const own = planOf(from);
      return applyEdit(
        from,
        poseEdit(own, layerOf(from), at, pastedPose(skeleton, pose, own, 'y', at, mirrored)),
        library,
      );
    };
    const same = planOf(paste(posed, 60, copied, false));
    expect(angleOff(shown(same, 60), shown(planOf(posed), 30), upper)).toBeLessThan(1e-3);
    const once = paste(scene, 50, copied, true);
    const twice = planOf(paste(scene, 50, copyPose(planOf(once), 50), true));
    expect(angleOff(shown(twice, 50), shown(planOf(posed), 30), upper)).toBeLessThan(2e-3);
    // The left arm does what the right one did.
    const hand = (plan: CharacterPlan, at: number, side: 'left' | 'right'): number =>
      defined(place(placesAt(plan, at), `${side}LowerArm`)[1]);
    expect(Math.abs(hand(planOf(once), 50, 'left') - hand(planOf(posed), 30, 'right'))).toBeLessThan(0.02);
  });

  it('are the same on a body with other bones: limbs point where they pointed', () => {
    const scene = layerScene();
    const plan = planOf(scene);
    const visitor = visitorSkeleton();
    const still = defined(visitorClips(visitor)[0]).clip;
    const other = libraryOf([still], visitor);
    const base = { ...sceneOf([segmentOf(still, 'a')]), laneOrder: ['l', 'y'] };
    const layered: Scene = {
      ...base,
      lanes: { ...base.lanes, y: { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'n' } },
    };
    const target = defined(compile(layered, other).characters[0]);
    const posed = pastedPose(skeleton, copyPose(plan, 40), target, 'y', 10, false);
    const after = defined(
      compile(applyEdit(layered, poseEdit(target, layerOf(layered), 10, posed), other), other).characters[0],
    );
    const way = (
      plan: CharacterPlan,
      at: number,
      from: Parameters<typeof jointOfRole>[1],
      to: Parameters<typeof jointOfRole>[1],
    ): number[] => {
      const pose = evaluate(plan, at, makePoseBuffer(plan.skeleton));
      const { positions } = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
      const [a, b] = [from, to].map((role) => jointOfRole(plan.skeleton, role) * 3) as [number, number];
      const v = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!);
      // As the body faces.
      const [sine, cosine] = [Math.sin(pose.root[2]!), Math.cos(pose.root[2]!)];
      const length = Math.hypot(...v);
      return [v[0]! * cosine - v[2]! * sine, v[1]!, v[0]! * sine + v[2]! * cosine].map((c) => c / length);
    };
    for (const [from, to] of [
      ['leftUpperArm', 'leftLowerArm'],
      ['rightLowerArm', 'rightHand'],
      ['spine', 'chest'],
    ] as const)
      expect(apart(way(plan, 40, from, to), way(after, 10, from, to))).toBeLessThan(0.12);
  });

  it('between two keys are as far on the way as is asked for', () => {
    const arm = 'rightUpperArm';
    const turned = (angle: number) => [0, 0, Math.sin(angle / 2), Math.cos(angle / 2)] as const;
    const key = (frame: number, angle: number) =>
      ({ frame, rotation: turned(angle), curve: 'smooth', tangent: null, into: null }) as const;
    const scene = layerScene({ keys: { [arm]: [key(30, 0), key(50, 1)] } });
    for (const share of [0, 0.25, 1]) {
      const edited = applyEdit(
        scene,
        defined(breakdownEdit(layerOf(scene), 40, share) ?? undefined),
        library,
      );
      const made = defined(layerOf(edited).keys[arm]?.find((k) => k.frame === 40));
      expect(
        quatAngle(Float64Array.from(made.rotation), 0, Float64Array.from(turned(share)), 0),
      ).toBeLessThan(1e-6);
    }
    expect(breakdownEdit(layerOf(scene), 55, 0.5)).toBeNull();
  });

  it('reset are those below the layer', () => {
    const scene = layerScene({
      keys: {
        head: [
          { frame: 30, rotation: [0.3, 0, 0, Math.sqrt(0.91)], curve: 'smooth', tangent: null, into: null },
        ],
      },
    });
    const head = skeleton.names.indexOf('head');
    const plan = planOf(scene);
    expect(angleOff(shown(plan, 50), shown(planOf(layerScene()), 50), [head])).toBeGreaterThan(0.2);
    const reset = after(scene, poseEdit(plan, layerOf(scene), 50, poseBelow(plan, 'y', 50, [head])));
    expect(angleOff(shown(reset, 50), shown(planOf(layerScene()), 50), [head])).toBeLessThan(1e-6);
  });
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
