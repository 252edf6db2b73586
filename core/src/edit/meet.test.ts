import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { compile } from '../compile/compile';
import { measureSeams } from '../continuity/seamMeasures';
import { evaluate } from '../footlock/evaluate';
import { defined } from '../math/defined';
import { shortestTurn } from '../math/floorMove';
import type { Meeting } from '../scene/meeting';
import type { Scene } from '../scene/scene';
import { library, turn, two } from '../testing/arranging';
import { evenly } from '../testing/evenly';
import { segmentOf } from '../testing/scenes';
import { applyEdit } from './edit';
import type { Edit } from './edit';
import { moveOnFloor } from './floorEdits';

const planOf = (scene: Scene, character: string) =>
  defined(compile(scene, library).characters.find((c) => c.character.id === character));

const rootOf = (scene: Scene, character: string, frame: number): number[] => {
  const plan = planOf(scene, character);
  return [...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root];
};

/** Metres between the roots, and how far each is turned from the other, radians. */
function standing(scene: Scene, frame: number): [distance: number, facing: number, seenFrom: number] {
  const [own, other] = [rootOf(scene, 'c', frame), rootOf(scene, 'd', frame)] as [number[], number[]];
  const [dx, dz] = [other[0]! - own[0]!, other[1]! - own[1]!];
  return [
    Math.hypot(dx, dz),
    shortestTurn(Math.atan2(dx, dz) - own[2]!),
    shortestTurn(Math.atan2(-dx, -dz) - other[2]!),
  ];
}

const meeting: Meeting = { character: 'd', frame: 10, distance: 0.8, angle: 0, turn: 0, joints: null };

const meet = (segment: string, values: Partial<Meeting> = {}, scene = two): Scene =>
  applyEdit(scene, { type: 'meet', segment, meeting: { ...meeting, ...values } }, library);

const RADIANS = Math.PI / 180;

describe('meeting', () => {
  it('stands somebody at a distance from another, facing them, at a frame of the segment or of one behind it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(
          ['a', 0, 40] as const,
          ['b', 82, 18] as const,
          ['b', 82, 60] as const,
          ['c', 114, 16] as const,
        ),
        evenly(0.3, 3),
        evenly(-180, 180),
        evenly(-60, 60),
        ([segment, start, frame], distance, angle, turned) => {
          const scene = meet(segment, { frame, distance, angle, turn: turned });
          const [apart, facing, seenFrom] = standing(scene, start + frame);
          expect(apart).toBeCloseTo(distance, 6);
          expect(shortestTurn(facing + turned * RADIANS)).toBeCloseTo(0, 6);
          expect(shortestTurn(seenFrom - angle * RADIANS)).toBeCloseTo(0, 6);
          // What comes before stays.
          if (segment !== 'a') expect(rootOf(scene, 'c', 20)).toEqual(rootOf(two, 'c', 20));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is kept when beats are inserted before it, on either lane, and when the other is moved', () => {
    const scene = meet('b');
    const edits: readonly Edit[] = [
      { type: 'place', lane: 'l', at: 40, segment: segmentOf(turn, { id: 'n' }) },
      { type: 'repeat', segment: 'a', edge: 'end', frame: 70 },
      { type: 'place', lane: 'm', at: 0, segment: segmentOf(turn, { id: 'o' }) },
      { type: 'start character', character: 'd', start: { x: 3, z: -2, heading: 70 } },
    ];
    let last = scene;
    for (const edit of edits) {
      const before = rootOf(last, 'c', defined(last.segments.b).start + 10);
      last = applyEdit(last, edit, library);
      const { start } = defined(last.segments.b);
      expect(rootOf(last, 'c', start + 10)).not.toEqual(before);
      const [apart, facing, seenFrom] = standing(last, start + 10);
      expect([apart, facing, seenFrom].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0.8, 0, 0]);
    }
  });

  it('brings a joint over a joint of the other', () => {
    const scene = meet('b', { distance: 0, joints: { own: 'rightLowerArm', other: 'head' } });
    const place = (character: string, joint: string): number[] => {
      const plan = planOf(scene, character);
      const { positions } = poseToWorld(
        plan.skeleton,
        evaluate(plan, 92, makePoseBuffer(plan.skeleton)),
        makeWorldPose(plan.skeleton),
      );
      const o = plan.skeleton.names.indexOf(joint) * 3;
      return [positions[o]!, positions[o + 2]!];
    };
    const [own, other] = [place('c', 'rightLowerArm'), place('d', 'head')];
    expect(own[0]).toBeCloseTo(defined(other[0]), 6);
    expect(own[1]).toBeCloseTo(defined(other[1]), 6);
  });

  it('becomes another one where its segment is moved on the floor, and goes along where both are', () => {
    const scene = meet('b', { angle: 30 });
    const move = { x: 0.4, z: 1.1, turn: 0.7 };
    const moved = applyEdit(scene, moveOnFloor(scene, compile(scene, library), ['b'], move, 'move'), library);
    expect(moved.segments.b?.meet).not.toEqual(scene.segments.b?.meet);
    const [before, now] = [rootOf(scene, 'c', 95), rootOf(moved, 'c', 95)];
    const [s, c] = [Math.sin(move.turn), Math.cos(move.turn)];
    expect(now[0]).toBeCloseTo(move.x + before[0]! * c + before[1]! * s, 6);
    expect(now[1]).toBeCloseTo(move.z - before[0]! * s + before[1]! * c, 6);
    const plan = compile(scene, library);
    const together = applyEdit(scene, moveOnFloor(scene, plan, ['b', 'e'], move, 'move'), library);
    expect(together.segments.b?.meet).toEqual(scene.segments.b?.meet);
    expect(standing(together, 92)[0]).toBeCloseTo(0.8, 6);
  });

  it('is refused with oneself, on layers, and in a ring; copies meet nobody, and it ends with who is met', () => {
    expect(() => meet('b', { character: 'c' })).toThrow(/cannot meet themselves/);
    expect(() => meet('g', { character: 'c' })).toThrow(/layers do not move/);
    const ring = meet('e', { character: 'c' }, meet('b'));
    expect(() => compile(ring, library)).toThrow(
      expect.objectContaining({
        code: 'ring',
        message: expect.stringMatching(/Keeper and Visitor and Keeper/),
      }),
    );
    const copied = applyEdit(meet('b'), { type: 'duplicate', segment: 'b', id: 'n' }, library);
    expect([copied.segments.n?.meet, copied.segments.b?.meet?.character]).toEqual([null, 'd']);
    const alone = applyEdit(meet('b'), { type: 'remove character', character: 'd' }, library);
    expect(alone.segments.b?.meet).toBeNull();
  });

  it('is what its seam is measured by: standing elsewhere than its fit would, it glides there', () => {
    const glide = (scene: Scene): number => {
      const plan = planOf(scene, 'c');
      return measureSeams(plan, 30)[0]!.surgeCm;
    };
    expect(glide(meet('b'))).toBeGreaterThan(glide(two) + 5);
  });
});
