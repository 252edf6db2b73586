import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile, fixedLibrary } from '../compile/compile';
import type { CharacterPlan } from '../plan/plan';
import { PLAIN_CHARACTER } from '../scene/character';
import { PLAIN_LANE } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { makeSkeleton } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip } from '../testing/figure';
import { sceneOf, segmentOf } from '../testing/scenes';
import { handedSkeleton, holdOf, jointAt } from '../testing/staged';

const RADIUS = 0.25;
const TRACK = 0.4;

const cart = makeSkeleton({
  names: ['cart', 'leftWheel', 'rightWheel'],
  parents: [-1, 0, 0],
  restTranslations: [0, 0, 0, TRACK, RADIUS, 0, -TRACK, RADIUS, 0],
});
const body = handedSkeleton();

/** A cart that is pulled over the floor, by its place and heading, from frame 10 on. */
function pulled(at: (frame: number) => { x: number; z: number; turn: number }): CharacterPlan {
  const clip = figureClip(200, at, { id: 'pull', skeleton: body });
  const one = sceneOf([segmentOf(clip, { id: 'a' })]);
  const scene: Scene = {
    ...one,
    characters: {
      ...one.characters,
      p: {
        ...PLAIN_CHARACTER,
        id: 'p',
        name: 'Cart',
        body: 'cart',
        prop: { shape: 'hand cart', size: [0.8, 0.5, 1.2], colour: '#7e5d3b', raised: 0 },
        start: { x: 0, z: -1, heading: 0 },
      },
    },
    characterOrder: ['c', 'p'],
    lanes: { ...one.lanes, pl: { ...PLAIN_LANE, id: 'pl', kind: 'body', character: 'p', segments: [] } },
    laneOrder: [...one.laneOrder, 'pl'],
    tethers: {
      t: holdOf({
        joint: null,
        start: 10,
        end: 190,
        places: [true, false, true],
        turns: [false, true, false],
      }),
    },
  };
  const library = fixedLibrary({ clip: () => clip, body: (id) => (id === 'cart' ? cart : body) });
  return compile(scene, library).characters[1]!;
}

/** How far a wheel has turned from one frame to another, radians: less than half a turn. */
function turned(plan: CharacterPlan, wheel: string, from: number, to: number): number {
  const roll = (frame: number): number => {
    const [base, own] = ['cart', wheel].map((joint) => jointAt(plan, joint, frame).slice(3));
    // Both are turns about the vertical but for the roll: its own is the twist about x of what is between them.
    const [ax, ay, az, aw] = base!.map((v, k) => (k < 3 ? -v : v)) as [number, number, number, number];
    const [bx, by, bz, bw] = own as [number, number, number, number];
    return 2 * Math.atan2(aw * bx + ax * bw + ay * bz - az * by, aw * bw - ax * bx - ay * by - az * bz);
  };
  const by = roll(to) - roll(from);
  return by - 2 * Math.PI * Math.round(by / (2 * Math.PI));
}

describe('wheels', () => {
  it('stand still until the cart is pulled, and roll by its way straight on, also backwards', () => {
    for (const speed of [0.03, -0.02]) {
      const plan = pulled((f) => ({ x: 0, z: speed * f, turn: 0 }));
      expect(turned(plan, 'leftWheel', 0, 10)).toBe(0);
      for (const f of [12, 37.3, 111])
        for (const wheel of ['leftWheel', 'rightWheel'])
          expect(turned(plan, wheel, f, f + 6)).toBeCloseTo((6 * speed) / RADIUS, 6);
      expect(turned(plan, 'leftWheel', 190, 195)).toBeCloseTo(0, 9);
    }
  });

  it('of one who turns on the spot roll against each other', () => {
    const plan = pulled((f) => ({ x: 0, z: 0, turn: 0.02 * f }));
    // Positive turns are to the left: the cart, a metre behind, is swung round, and its left wheel has the shorter way.
    const [left, right] = ['leftWheel', 'rightWheel'].map((wheel) => turned(plan, wheel, 50, 55));
    expect(left! + right!).toBeCloseTo(0, 6);
    expect(Math.abs(right! - left!)).toBeCloseTo((2 * TRACK * 0.02 * 5) / RADIUS, 3);
  });

  it('touch the floor without slipping along the way, wherever they are pulled', () => {
    fc.assert(
      fc.property(
        evenly(-0.03, 0.03),
        evenly(-0.02, 0.02),
        evenly(12, 60),
        evenly(11, 188),
        (v, w, swing, f) => {
          const plan = pulled((t) => ({ x: 0.3 * Math.sin(t / swing), z: v * t, turn: w * t }));
          for (const wheel of ['leftWheel', 'rightWheel']) {
            const step = 0.25;
            const [a, b] = [f, f + step].map((at) => jointAt(plan, wheel, at));
            const [, qy, , qw] = jointAt(plan, 'cart', f + step / 2).slice(3);
            const heading = 2 * Math.atan2(qy!, qw!);
            const way = (b![0]! - a![0]!) * Math.sin(heading) + (b![2]! - a![2]!) * Math.cos(heading);
            expect(Math.abs(turned(plan, wheel, f, f + step) * RADIUS - way)).toBeLessThan(1e-4);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are turned the same whatever was asked for before', () => {
    const way = (f: number) => ({ x: 0.2 * Math.sin(f / 9), z: 0.02 * f, turn: 0.01 * f });
    const [one, other] = [pulled(way), pulled(way)];
    const at = [150, 20, 101.5, 99.99, 100, 3];
    const first = at.map((f) => jointAt(one, 'leftWheel', f));
    expect([...at].reverse().map((f) => jointAt(other, 'leftWheel', f))).toEqual(first.reverse());
  });
});
