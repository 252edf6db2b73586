import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile, fixedLibrary } from '../compile/compile';
import { PLAIN_CHARACTER } from '../scene/character';
import type { Prop } from '../scene/prop';
import { stairSteps, treadsOf } from '../scene/treads';
import { makeSkeleton } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip } from '../testing/figure';
import { sceneOf, segmentOf } from '../testing/scenes';
import type { ContinuityItem } from './report';
import { continuityReport } from './report';

const thing = makeSkeleton({ names: ['thing'], parents: [-1], restTranslations: [0, 0, 0] });

/** Somebody who stands still with both soles at a height. */
const standing = (height: number) => figureClip(60, () => ({ x: 0, y: 0.95 + height, z: 0, turn: 0 }));

/** What is told of feet at a height over a prop, whose middle is at a place of the toes' axes: (x, z) in its own, and its facing. */
function told(height: number, prop: Prop, at: readonly [number, number], heading: number): ContinuityItem[] {
  const clip = standing(height);
  // The toes are 13 cm before the root: the prop's point `at` is put there.
  const turn = (heading * Math.PI) / 180;
  const [x, z] = [
    at[0] * Math.cos(turn) + at[1] * Math.sin(turn),
    at[1] * Math.cos(turn) - at[0] * Math.sin(turn),
  ];
  const scene = sceneOf([segmentOf(clip, { id: 'a' })]);
  const library = fixedLibrary({
    clip: (id) => (id === clip.id ? clip : undefined),
    body: (id) => (id === 'thing' ? thing : clip.skeleton),
  });
  const p = {
    ...PLAIN_CHARACTER,
    id: 'p',
    name: 'Thing',
    body: 'thing',
    prop,
    start: { x: -x, z: 0.13 - z, heading },
  };
  const { characters, characterOrder } = scene;
  return continuityReport(
    compile(
      { ...scene, characters: { ...characters, p }, characterOrder: [...characterOrder, 'p'] },
      library,
    ),
  ).filter((i) => i.kind === 'tread' || i.kind === 'float');
}

const heading = evenly(-180, 180);
const propOf = (shape: Prop['shape'], size: Prop['size'], raised = 0): Prop => ({
  shape,
  size,
  raised,
  colour: '#8a6b4a',
});

describe('feet on a stair', () => {
  it('are measured by the tread below them, however it is turned, and not by the floor', () => {
    const size = fc.tuple(evenly(0.8, 2), evenly(0.4, 2), evenly(1.5, 4));
    fc.assert(
      fc.property(
        size,
        evenly(0, 1),
        heading,
        evenly(-0.08, 0.08),
        evenly(0, 1),
        (dims, share, turned, off, raised) => {
          const { count, rise, run } = stairSteps(dims);
          const tread = Math.min(count - 1, Math.floor(share * count));
          // The two feet are 9 cm to either side of the middle: of a tread that is turned they need some room.
          fc.pre(run > 0.25 || Math.abs(Math.sin((turned * Math.PI) / 180)) * 0.09 < run / 2 - 0.01);
          const z = (tread + 0.5) * run - dims[2] / 2;
          const sole = raised + rise * (tread + 1) + off;
          const items = told(sole, propOf('stair', dims, raised), [0, z], turned);
          if (Math.abs(off) < 0.0199) expect(items).toEqual([]);
          else if (Math.abs(off) > 0.0201)
            expect(items).toEqual([
              expect.objectContaining({
                kind: 'tread',
                value: expect.closeTo(100 * off, 2),
                cause: expect.stringMatching(off > 0 ? /cm over Thing/ : /cm in Thing/),
              }),
            ]);
        },
      ),
    );
  });
});

describe('feet beside, below and inside of things', () => {
  it('have the floor under them, or what is next, or nothing', () => {
    const box = propOf('box', [1, 0.25, 1]);
    expect(told(0, box, [0, 0], 0)).toEqual([
      expect.objectContaining({
        kind: 'tread',
        grade: 'bad',
        value: expect.closeTo(-25, 3),
        cause: 'The left foot is 25 cm in Thing',
      }),
    ]);
    expect(told(-0.04, box, [0, 0], 0)).toEqual([
      expect.objectContaining({ kind: 'tread', value: expect.closeTo(-29, 3) }),
    ]);
    expect(told(0, box, [0.7, 0], 0)).toEqual([]);
    // A bench has nothing below its seat, and a box that hangs neither.
    expect(told(0, propOf('bench', [1, 0.25, 1]), [0, 0], 0)).toEqual([]);
    expect(told(0, propOf('box', [1, 0.1, 1], 0.1), [0, 0], 0)).toEqual([]);
    // Far above a thing they stand over the floor.
    expect(told(0.6, box, [0, 0], 0)).toEqual([expect.objectContaining({ kind: 'float' })]);
    expect(told(0.25, propOf('bench', [1, 0.25, 1]), [0, 0], 30)).toEqual([]);
  });
});

describe('treads', () => {
  it('of a stair go up evenly from its front to its full height, side by side', () => {
    fc.assert(
      fc.property(evenly(0.2, 6), evenly(0.2, 8), (height, depth) => {
        const treads = treadsOf(propOf('stair', [1, height, depth]));
        expect(treads.at(-1)!.height).toBeCloseTo(height, 9);
        expect(treads[0]!.z[0]).toBeCloseTo(-depth / 2, 9);
        expect(treads.at(-1)!.z[1]).toBeCloseTo(depth / 2, 9);
        treads.slice(1).forEach((t, i) => {
          expect(t.z[0]).toBeCloseTo(treads[i]!.z[1], 9);
          expect(t.height - treads[i]!.height).toBeCloseTo(treads[0]!.height, 9);
        });
      }),
    );
    expect(treadsOf(propOf('ball', [1, 1, 1]))).toEqual([]);
  });
});
