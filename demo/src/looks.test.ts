import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, LayerLane, Look, Scene } from '@warper/core';
import {
  PLAIN_LAYER,
  PLAIN_LOOK,
  applyEdit,
  compile,
  createCompiler,
  defined,
  evaluate,
  fixedLibrary,
  jointOfRole,
  makePoseBuffer,
  makeWorldPose,
  measureSeam,
  measureSeams,
  poseToWorld,
  seamWithLayers,
} from '@warper/core';
import { quatConjugate, quatRotate } from '@warper/core/kernels';
import fc from 'fast-check';
import { skeletonOf } from './build';
import { KEEPER, keeperClips, visitorClips } from './demonstration';
import { sceneOf, segmentOf } from './testing';
import { visitorSkeleton } from './visitor';

const skeleton = skeletonOf(KEEPER);
const visitor = visitorSkeleton();
const keeper = keeperClips(skeleton).map((c) => c.clip);
const others = visitorClips(visitor).map((c) => c.clip);
const named = (name: string) => defined([...keeper, ...others].find((c) => c.name === name));
const [idle, walk, turn] = [named('Idle'), named('Walk'), named('Turn round')];
const theirs = defined(others.find((c) => c.name !== 'Walk' && c.frames > 20));
const library = fixedLibrary({
  clip: (id) => [...keeper, ...others].find((c) => c.id === id),
  body: (id) => (id === 'visitor' ? visitor : skeleton),
});

const layerAt = (look: Look | null, character = 'c', values: Partial<LayerLane> = {}): LayerLane => ({
  ...PLAIN_LAYER,
  id: `look-${character}`,
  character,
  name: 'look',
  look,
  ...values,
});

/** The Keeper, and the Visitor 3 m before him, with a layer each that looks at something. */
function sceneWith(clip: typeof idle, layers: readonly LayerLane[], place = { x: 0, z: 3 }): Scene {
  const base = sceneOf([segmentOf(clip, 'a')]);
  const one = defined(base.characters.c);
  const start = { ...place, heading: 180 };
  const d = { ...one, id: 'd', name: 'Visitor', body: 'visitor', start };
  return {
    ...base,
    characters: { c: one, d },
    characterOrder: ['c', 'd'],
    lanes: {
      ...base.lanes,
      m: { ...defined(base.lanes.l), id: 'm', character: 'd', segments: ['v'] },
      ...Object.fromEntries(layers.map((l) => [l.id, l])),
    },
    laneOrder: ['l', 'm', ...layers.map((l) => l.id)],
    segments: { ...base.segments, v: segmentOf(theirs, 'v') },
  };
}
const planOf = (scene: Scene, index = 0): CharacterPlan => defined(compile(scene, library).characters[index]);

/** Where a head is, and where it faces: +z of its rest, turned with it. */
function headAt(plan: CharacterPlan, frame: number): { place: number[]; forward: number[] } {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const { positions, rotations } = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
  const head = jointOfRole(plan.skeleton, 'head');
  const inverse = quatConjugate(plan.skeleton.rest.rotations, head * 4, new Float64Array(4), 0);
  const forward = quatRotate(inverse, 0, Float64Array.of(0, 0, 1), 0, new Float64Array(3), 0);
  quatRotate(rotations, head * 4, forward, 0, forward, 0);
  return { place: [...positions.slice(head * 3, head * 3 + 3)], forward: [...forward] };
}
const angleBetween = (a: readonly number[], b: readonly number[]): number => {
  const dot = a.reduce((sum, v, k) => sum + v * defined(b[k]), 0);
  return (Math.acos(Math.min(1, dot / (Math.hypot(...a) * Math.hypot(...b)))) * 180) / Math.PI;
};
const towards = (from: readonly number[], to: readonly number[]): number[] =>
  to.map((v, k) => v - defined(from[k]));
const offOf = (plan: CharacterPlan, frame: number, to: readonly number[]): number => {
  const { place, forward } = headAt(plan, frame);
  return angleBetween(forward, towards(place, to));
};
const look = (at: Look['at'], values: Partial<Look> = {}): Look => ({ ...PLAIN_LOOK, lag: 0, at, ...values });
const jointsOf = (plan: CharacterPlan, frame: number): Float64Array =>
  evaluate(plan, frame, makePoseBuffer(plan.skeleton)).rotations.slice();

describe('a look of a character and of its segments', () => {
  const point = [6, 1.6, 12] as const;
  const away = [-6, 1.2, 12] as const;
  /** Idle, a walk and another Idle, with what each looks at. */
  const lane = (own: Look | null, looks: readonly (Look | null)[], overlap = 10): Scene => {
    const from = idle.frames - overlap;
    const base = sceneOf([
      segmentOf(idle, 'a'),
      segmentOf(walk, 'b', { start: from, loop: true, repeat: 3 }),
      segmentOf(idle, 'e', { start: from + 90 - overlap }),
    ]);
    const segments = Object.values(base.segments).map((s, i) => ({ ...s, look: looks[i] ?? null }));
    return {
      ...base,
      characters: { c: { ...defined(base.characters.c), look: own } },
      segments: Object.fromEntries(segments.map((s) => [s.id, s])),
    };
  };
  const plain = planOf(lane(null, []));
  const [, middle, after] = plain.segments.map(({ start, end }) => ({ start, end }));

  it('of the character is the very same as one of a layer over all of it', () => {
    const base = lane(null, []);
    const layer = layerAt(look({ point }));
    const layered = planOf({
      ...base,
      lanes: { ...base.lanes, [layer.id]: layer },
      laneOrder: [...base.laneOrder, layer.id],
    });
    const own = planOf(lane(look({ point }), []));
    for (let f = -3; f < plain.end + 3; f += 0.5) expect(jointsOf(own, f)).toEqual(jointsOf(layered, f));
  });

  it('of a segment is there while it plays, comes and goes without a hitch, and leaves all else to the bit', () => {
    const plan = planOf(lane(null, [null, look({ point })]));
    const { start, end } = defined(middle);
    // It begins to come between the frame before and its first.
    for (let f = 0; f < start; f += 0.5)
      if (f <= start - 1) expect(jointsOf(plan, f)).toEqual(jointsOf(plain, f));
    for (let f = end; f < plain.end; f += 0.5) expect(jointsOf(plan, f)).toEqual(jointsOf(plain, f));
    expect(offOf(plan, (start + end) / 2, point)).toBeLessThan(0.01);
    for (let f = start - 3; f < end + 3; f += 0.25)
      expect(angleBetween(headAt(plan, f).forward, headAt(plan, f + 0.25).forward)).toBeLessThan(2);
  });

  it('comes and goes in its own time where the segment is cut in and out', () => {
    const [cut, bare] = [lane(null, [null, look({ point })], 0), lane(null, [], 0)].map((s) => planOf(s));
    const { start, end } = defined(defined(cut).segments[1]);
    const turned = (f: number): number =>
      angleBetween(headAt(defined(cut), f).forward, headAt(defined(bare), f).forward);
    expect(turned((start + end) / 2)).toBeGreaterThan(15);
    for (let f = start - 3; f < end + 3; f += 0.25)
      expect(Math.abs(turned(f + 0.25) - turned(f))).toBeLessThan(2);
    for (const f of [start - 1, end]) expect(turned(f)).toBe(0);
  });

  it('goes over from what one segment looks at to what the next does, and is one where they look at the same', () => {
    const plan = planOf(lane(null, [look({ point }), look({ point }), look({ point: away })]));
    const { start, end } = defined(after);
    for (let f = 0; f < start - 1; f++) expect(offOf(plan, f, point)).toBeLessThan(0.01);
    expect(offOf(plan, start + 20, away)).toBeLessThan(0.01);
    expect(offOf(plan, end - 1, away)).toBeLessThan(0.01);
    for (let f = start - 3; f < start + 25; f += 0.25)
      expect(angleBetween(headAt(plan, f).forward, headAt(plan, f + 0.25).forward)).toBeLessThan(2.5);
  });

  it('stands in place of what the character looks at', () => {
    const plan = planOf(lane(look({ point: away }), [null, look({ point })]));
    const { start, end } = defined(middle);
    expect(offOf(plan, start - 2, away)).toBeLessThan(0.01);
    expect(offOf(plan, (start + end) / 2, point)).toBeLessThan(0.01);
    expect(offOf(plan, end + 1, away)).toBeLessThan(0.01);
  });

  it('is no fault of the seams, which are measured without it and tell of it beside', () => {
    const plan = planOf(lane(null, [null, look({ point })]));
    expect(measureSeams(plan, 30)).toEqual(measureSeams(plain, 30));
    // Where nothing else moves, a head that is turned would be all there is to measure.
    const still = (to: Look | null): CharacterPlan => {
      const base = sceneOf([
        segmentOf(idle, 'a'),
        segmentOf(idle, 'b', { start: idle.frames - 1, look: to }),
      ]);
      return planOf(base);
    };
    const turned = still(look({ point: [6, 1.6, 2] }));
    expect(measureSeam(turned, 0, 30)).toEqual(measureSeam(still(null), 0, 30));
    expect(seamWithLayers(turned, 0, 30)?.surgeCm).toBeGreaterThan(measureSeam(turned, 0, 30).surgeCm + 0.2);
    expect(seamWithLayers(plain, 0, 30)).toBeNull();
    expect(seamWithLayers(plan, 0, 30)).not.toBeNull();
  });

  it('of a character who is removed, or at oneself, is none', () => {
    const at = { character: 'd' };
    const both = sceneWith(idle, []);
    const changed = applyEdit(
      applyEdit(both, { type: 'change', segment: 'a', values: { look: look(at) } }, library),
      { type: 'change character', character: 'c', values: { look: look(at) } },
      library,
    );
    expect(jointsOf(planOf(changed), 5)).not.toEqual(jointsOf(planOf(both), 5));
    const alone = applyEdit(changed, { type: 'remove character', character: 'd' }, library);
    expect([alone.segments.a?.look, alone.characters.c?.look]).toEqual([null, null]);
    const own = look({ character: 'c' });
    for (const edit of [
      { type: 'change', segment: 'a', values: { look: own } },
      { type: 'change character', character: 'c', values: { look: own } },
    ] as const)
      expect(() => applyEdit(both, edit, library)).toThrow(/cannot look at themselves/);
    const pasted = { ...both, segments: { ...both.segments, a: { ...defined(both.segments.a), look: own } } };
    expect(jointsOf(planOf(pasted), 5)).toEqual(jointsOf(planOf(both), 5));
  });
});

describe('a head that looks at a place', () => {
  it('faces it within a hundredth of a degree, wherever it lies within the limits, and feet and hands keep their joints', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -70, max: 70 }),
        fc.integer({ min: -35, max: 35 }),
        fc.integer({ min: 10, max: 60 }),
        fc.integer({ min: 0, max: idle.frames - 1 }),
        (side, rise, tenths, frame) => {
          const plain = planOf(sceneWith(idle, []));
          const { place } = headAt(plain, frame);
          const [a, b] = [(side * Math.PI) / 180, (rise * Math.PI) / 180];
          const [x = 0, y = 0, z = 0] = place;
          const point = [
            x + (tenths / 10) * Math.sin(a) * Math.cos(b),
            y + (tenths / 10) * Math.sin(b),
            z + (tenths / 10) * Math.cos(a) * Math.cos(b),
          ] as const;
          const plan = planOf(sceneWith(idle, [layerAt(look({ point }))]));
          expect(offOf(plan, frame, point)).toBeLessThan(0.01);
          const [p, q] = [jointsOf(plain, frame), jointsOf(plan, frame)];
          for (const role of ['hips', 'leftUpperLeg', 'leftFoot', 'rightLowerLeg', 'leftHand'] as const) {
            const j = jointOfRole(skeleton, role) * 4;
            expect([...q.slice(j, j + 4)]).toEqual([...p.slice(j, j + 4)]);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('keeps on it while it walks, and turns by its limit only, without tilting to a side', () => {
    const point = [0, 0.4, 4] as const;
    const plan = planOf(sceneWith(walk, [layerAt(look({ point }))]));
    for (let f = 0; f < walk.frames; f += 3) expect(offOf(plan, f, point)).toBeLessThan(0.01);
    const limited = planOf(sceneWith(idle, [layerAt(look({ point: [5, 1.6, 0.01] }, { turn: 40 }))]));
    const { forward } = headAt(limited, 10);
    expect((Math.atan2(defined(forward[0]), defined(forward[2])) * 180) / Math.PI).toBeCloseTo(40, 0);
  });

  it('shares its turn between chest, neck and head as it is told', () => {
    const turned = (chest: number): number => {
      const scene = sceneWith(idle, [layerAt(look({ point: [3, 1.6, 3] }, { chest }))]);
      const j = jointOfRole(skeleton, 'upperChest') * 4;
      const [p, q] = [jointsOf(planOf(sceneWith(idle, [])), 10), jointsOf(planOf(scene), 10)];
      return [0, 1, 2, 3].reduce((sum, k) => sum + Math.abs(defined(p[j + k]) - defined(q[j + k])), 0);
    };
    expect(turned(0)).toBe(0);
    expect(turned(0.4)).toBeGreaterThan(turned(0.2) * 1.5);
  });

  it('changes nothing without weight, to the bit, and goes with it', () => {
    const point = [3, 1.6, 3] as const;
    const plain = planOf(sceneWith(idle, []));
    const off = planOf(sceneWith(idle, [layerAt(look({ point }), 'c', { weight: [[0, 0]] })]));
    expect([...jointsOf(off, 12)]).toEqual([...jointsOf(plain, 12)]);
    const at = (w: number): number =>
      offOf(planOf(sceneWith(idle, [layerAt(look({ point }), 'c', { weight: [[0, w]] })])), 12, point);
    expect(at(0.25)).toBeGreaterThan(at(0.5));
    expect(at(0.5)).toBeGreaterThan(at(0.9));
  });

  it('never flips: what passes behind is let go of, and found again on the other side', () => {
    const steps: number[] = [];
    let before: readonly number[] | null = null;
    for (let degrees = 0; degrees <= 360; degrees += 2) {
      const a = (degrees * Math.PI) / 180;
      const point = [4 * Math.sin(a), 1.5, 4 * Math.cos(a)] as const;
      const { forward } = headAt(planOf(sceneWith(idle, [layerAt(look({ point }))])), 10);
      if (before) steps.push(angleBetween(before, forward));
      before = forward;
    }
    // Letting go is quicker than following, but no jump: under three times as fast as the target goes round.
    expect(Math.max(...steps)).toBeLessThan(6);
  });
});

describe('a head that looks at somebody', () => {
  const other = (scene: Scene, frame: number): number[] => headAt(planOf(scene, 1), frame).place;

  it('faces their head, who may look back', () => {
    const scene = sceneWith(idle, [
      layerAt(look({ character: 'd' })),
      layerAt(look({ character: 'c' }), 'd'),
    ]);
    // The place that is looked at is that before the other's own look, which moves a head by some millimetres.
    expect(offOf(planOf(scene), 20, other(scene, 20))).toBeLessThan(0.5);
    expect(offOf(planOf(scene, 1), 20, headAt(planOf(scene), 20).place)).toBeLessThan(0.5);
  });

  it('follows somebody who walks past, as far behind as it is told', () => {
    const place = { x: 1.5, z: 3 };
    const follow = (lag: number) => {
      const base = sceneWith(idle, [layerAt(look({ character: 'd' }, { lag }))], place);
      const v = segmentOf(walk, 'v');
      return { ...base, segments: { ...base.segments, v: { ...v, otherLegs: true } } };
    };
    const frame = walk.frames - 2;
    const exact = follow(0);
    expect(offOf(planOf(exact), frame, other(exact, frame))).toBeLessThan(0.01);
    for (const lag of [4, 10]) {
      const scene = follow(lag);
      const plan = planOf(scene);
      // A target that moves evenly is followed where it was a lag ago.
      const best = Array.from({ length: 30 }, (_, d) => [
        offOf(plan, frame, other(scene, frame - d)),
        d,
      ]).sort(([a = 0], [b = 0]) => a - b);
      expect(Math.abs(defined(defined(best[0])[1]) - lag)).toBeLessThanOrEqual(2);
    }
  });

  it('is told of changes of the other, to the bit, and only then made anew', () => {
    const scene = sceneWith(turn, [layerAt(look({ character: 'd' }, { lag: 5 }))]);
    const compiler = createCompiler(library);
    const first = compiler.compile(scene).characters[0];
    expect(compiler.compile({ ...scene, name: 'other' }).characters[0]).toBe(first);
    const moved = applyEdit(
      scene,
      { type: 'start character', character: 'd', start: { x: 1, z: 3, heading: 180 } },
      library,
    );
    const [kept, fresh] = [defined(compiler.compile(moved).characters[0]), planOf(moved)];
    expect(kept).not.toBe(first);
    for (const f of [0, 11, 20.5]) expect([...jointsOf(kept, f)]).toEqual([...jointsOf(fresh, f)]);
    expect([...jointsOf(kept, 11)]).not.toEqual([...jointsOf(defined(first), 11)]);
  });

  it('looks at nobody once they are gone, and is refused at themselves and at strangers', () => {
    const scene = sceneWith(idle, [layerAt(look({ character: 'd' }))]);
    const gone = applyEdit(scene, { type: 'remove character', character: 'd' }, library);
    expect(gone.lanes['look-c']).toMatchObject({ look: null });
    const at = (character: string): Scene =>
      applyEdit(
        scene,
        { type: 'change layer', layer: 'look-c', values: { look: look({ character }) } },
        library,
      );
    expect(() => at('c')).toThrow('cannot look at themselves');
    expect(() => at('x')).toThrow('no character x');
  });
});
