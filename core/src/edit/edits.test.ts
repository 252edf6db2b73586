import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { InputError } from '../math/errors';
import { parseScene } from '../scene/schema';
import type { Scene } from '../scene/scene';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import type { Edit } from './edit';
import { describeEdit } from './edit';
import { applyDifferences, applyEdit, edit } from './edit';
import { layOut } from '../timeline/lane';
import { evenly } from '../testing/evenly';

const walk = figureClip(
  31,
  (f) => ({ x: 0, z: (1.3 * f) / 30, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const turn = figureClip(40, (f) => ({ x: 0, z: 0, turn: f * 0.05, joints: strideJoints(f / 9) }), {
  id: 'turn',
  rate: 24,
});
const library = libraryOf(walk, turn);
const start = sceneOf([
  segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
  segmentOf(turn, { id: 'b', start: 82 }),
  segmentOf(walk, { id: 'c', start: 124, loop: true, repeat: 2 }),
]);
const spans = (scene: Scene): string =>
  layOut(scene, scene.lanes.l!, library)
    .map((p) => `${p.segment.id}[${p.start},${p.end})`)
    .join(' ');

describe('edits', () => {
  it('start from a lane that is laid out as expected', () => {
    expect(spans(start)).toBe('a[0,90) b[82,132) c[124,184)');
  });

  it.each<[string, Edit, string]>([
    ['moves', { type: 'move', segment: 'c', start: 300 }, 'a[0,90) b[82,132) c[300,360)'],
    [
      'moves into a crossfade, never over both ends',
      { type: 'move', segment: 'c', start: 91 },
      'a[0,90) b[82,132) c[91,151)',
    ],
    [
      'moves no further than a third segment allows',
      { type: 'move', segment: 'c', start: 60 },
      'a[0,90) b[82,132) c[90,150)',
    ],
    [
      'trims the end of a loop to part of a cycle',
      { type: 'trim', segment: 'c', edge: 'end', frame: 169 },
      'a[0,90) b[82,132) c[124,169)',
    ],
    [
      'trims the start and keeps the end',
      { type: 'trim', segment: 'b', edge: 'start', frame: 87 },
      'a[0,90) b[87,132) c[124,184)',
    ],
    [
      'repeats and pushes the rest on',
      { type: 'change', segment: 'a', values: { repeat: 4 } },
      'a[0,120) b[112,162) c[154,214)',
    ],
    ['lengthens an overlap', { type: 'overlap', segment: 'b', frames: 12 }, 'a[0,90) b[78,128) c[120,180)'],
    ['makes a cut', { type: 'overlap', segment: 'b', frames: 0 }, 'a[0,90) b[90,140) c[132,192)'],
    ['removes and closes', { type: 'remove', segment: 'b', close: true }, 'a[0,90) c[82,142)'],
    ['removes and leaves the gap', { type: 'remove', segment: 'b', close: false }, 'a[0,90) c[124,184)'],
    [
      'duplicates without an overlap between repeats of a loop',
      { type: 'duplicate', segment: 'a', id: 'd' },
      'a[0,90) d[90,180) b[172,222) c[214,274)',
    ],
    [
      'adds at the end with as long an overlap as unlike motions ask for',
      { type: 'place', lane: 'l', at: 'end', segment: segmentOf(turn, { id: 'd' }) },
      'a[0,90) b[82,132) c[124,184) d[160,210)',
    ],
    [
      'inserts after the segment it is dropped on',
      { type: 'place', lane: 'l', at: 20, segment: segmentOf(turn, { id: 'd' }) },
      'a[0,90) d[66,116) b[108,158) c[150,210)',
    ],
  ])('%s', (_, change, expected) => {
    expect(spans(applyEdit(start, change, library))).toBe(expected);
  });

  it('match frames: both sides are trimmed so that the pair meets in the middle of the overlap', () => {
    const matched = applyEdit(start, { type: 'match', segment: 'c', out: 30, in: 0 }, library);
    // b plays 24 samples a second: 4 frames of overlap before its end are 3.2 samples.
    expect(matched.segments.b).toMatchObject({ in: 0, out: 33 });
    expect(matched.segments.c).toMatchObject({ in: 0, loop: true, repeat: 2 });
    expect(spans(matched)).toBe('a[0,90) b[82,123) c[115,175)');
    const loop = applyEdit(start, { type: 'match', segment: 'b', out: 11, in: 6 }, library);
    // Sample 11 and half the overlap: the phase of half a cycle, three cycles on.
    expect(loop.segments.a!.repeat).toBeCloseTo(3.5, 9);
    expect(loop.segments.b!.in).toBe(3);
  });

  it('refuse what does not exist and numbers that cannot be', () => {
    expect(() => applyEdit(start, { type: 'move', segment: 'nobody', start: 1 }, library)).toThrow(
      InputError,
    );
    expect(() => applyEdit(start, { type: 'change', segment: 'a', values: { repeat: 0 } }, library)).toThrow(
      InputError,
    );
  });

  it('are named for undo', () => {
    expect(describeEdit({ type: 'trim', segment: 'b', edge: 'end', frame: 1 }, start)).toBe('trim of turn');
  });
});

const frame = fc.integer({ min: -50, max: 400 });
const id = fc.constantFrom('a', 'b', 'c', 'n1', 'n2', 'n3');
const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({ type: fc.constant('move' as const), segment: id, start: frame }),
  fc.record({
    type: fc.constant('trim' as const),
    segment: id,
    edge: fc.constantFrom('start' as const, 'end' as const),
    frame,
  }),
  fc.record({
    type: fc.constant('change' as const),
    segment: id,
    values: fc.oneof(
      fc.record({ repeat: fc.integer({ min: 1, max: 5 }) }),
      fc.record({ speed: evenly(0.3, 3), length: fc.constant(null) }),
      fc.record({ length: fc.integer({ min: 1, max: 200 }) }),
      fc.record({ in: fc.integer({ min: 0, max: 12 }), out: fc.integer({ min: 13, max: 60 }) }),
      fc.record({ loop: fc.boolean() }),
      fc.record({ travel: fc.constantFrom('recorded' as const, 'in place' as const) }),
    ),
  }),
  fc.record({ type: fc.constant('overlap' as const), segment: id, frames: fc.integer({ min: -5, max: 60 }) }),
  fc.record({ type: fc.constant('remove' as const), segment: id, close: fc.boolean() }),
  fc.record({
    type: fc.constant('match' as const),
    segment: id,
    out: fc.integer({ min: 0, max: 40 }),
    in: fc.integer({ min: 0, max: 40 }),
  }),
  fc.record({ type: fc.constant('duplicate' as const), segment: id, id: fc.constantFrom('n1', 'n2', 'n3') }),
  fc.record({
    type: fc.constant('place' as const),
    lane: fc.constant('l'),
    at: fc.oneof(
      frame.filter((f) => f >= 0),
      fc.constant('end' as const),
    ),
    segment: fc.constantFrom('n1', 'n2', 'n3').map((n) => segmentOf(n === 'n1' ? walk : turn, { id: n })),
  }),
  fc.record({
    type: fc.constant('seam' as const),
    segment: id,
    values: fc.record({ fit: fc.constantFrom('hips' as const, 'free' as const) }),
  }),
);

/** Edits that can be carried out: those of ids that are there, or are new where a new one is wanted. */
const possible = (scene: Scene, e: Edit): boolean => {
  if (e.type === 'place') return !scene.segments[e.segment.id];
  if (e.type === 'duplicate') return scene.segments[e.segment] !== undefined && !scene.segments[e.id];
  return !('segment' in e) || scene.segments[e.segment] !== undefined;
};

describe('laws of edits', () => {
  it('any edits leave a valid scene, undone they give the very document, done again the very end', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 60 }), (edits) => {
        const history: {
          patches: Parameters<typeof applyDifferences>[1];
          inverse: Parameters<typeof applyDifferences>[1];
        }[] = [];
        let scene = start;
        for (const e of edits) {
          if (!possible(scene, e)) continue;
          const done = edit(scene, e, library);
          history.push(done);
          scene = done.scene;
          parseScene(JSON.parse(JSON.stringify(scene)));
          const placed = layOut(scene, scene.lanes.l!, library);
          placed.forEach((p, i) => {
            const next = placed[i + 1];
            expect(p.overlap).toBeLessThanOrEqual(p.timing.frames);
            if (next) {
              expect(next.start).toBeGreaterThan(p.start);
              expect(p.overlap + next.overlap).toBeLessThanOrEqual(p.timing.frames);
            }
          });
        }
        let back = scene;
        for (const h of [...history].reverse()) back = applyDifferences(back, h.inverse);
        expect(back).toEqual(start);
        let again = start;
        for (const h of history) again = applyDifferences(again, h.patches);
        expect(again).toEqual(scene);
      }),
      { numRuns: 200 },
    );
  });

  it('trimming and giving back changes nothing', () => {
    fc.assert(
      fc.property(fc.integer({ min: 85, max: 131 }), (to) => {
        const trimmed = applyEdit(start, { type: 'trim', segment: 'b', edge: 'end', frame: to }, library);
        const back = applyEdit(trimmed, { type: 'trim', segment: 'b', edge: 'end', frame: 132 }, library);
        expect(spans(back)).toBe(spans(start));
        expect(back.segments.b).toMatchObject({ in: 0, out: 40 });
      }),
    );
  });
});
