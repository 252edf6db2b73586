import { describe, expect, it } from '@jest/globals';
import type { Clip } from '../clip/clip';
import { compile } from '../compile/compile';
import { measureSeam } from '../continuity/measureSeam';
import { applyEdit } from '../edit/edit';
import type { Edit } from '../edit/edit';
import type { SegmentValues } from '../edit/edits/change';
import { PLAIN_LIMITS } from '../scene/choice';
import type { ChoiceLimits } from '../scene/choice';
import type { Scene } from '../scene/scene';
import { PLAIN_STEP } from '../scene/seam';
import { makeSkeleton } from '../skeleton/skeleton';
import { layOut } from '../timeline/lane';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf, seamOf } from '../testing/scenes';
import { findBridges } from './bridges';
import { chooseJoin, joinCost } from './chooseJoin';
import { chooseJoins } from './chooseJoins';
import { followersOf } from './followers';
import { madeJoins } from './madeJoins';
import { matchJoin } from './matchJoin';
import { boundsOf, pairOf } from './pairOnLane';
import { plainJoin } from './plainJoin';

const SPEED = 1.2 / 30;
const stride = (f: number) => strideJoints((2 * Math.PI * f) / 30);
/** Walks for four seconds; `phase` says where in its stride it begins. */
const walkFrom = (phase: number, id: string) =>
  figureClip(121, (f) => ({ x: 0, y: 0.93, z: SPEED * f, turn: 0, joints: stride(f + phase) }), { id });
const walk = walkFrom(0, 'walk');
const other = walkFrom(11, 'other');
const stand = figureClip(121, () => ({ x: 0, y: 0.93, z: 0, turn: 0, joints: strideJoints(0) }), {
  id: 'stand',
});
const start = figureClip(
  121,
  (f) => {
    const u = Math.min(1, Math.max(0, (f - 30) / 60));
    const gone = f < 30 ? 0 : f < 90 ? (SPEED * (f - 30) * u) / 2 : SPEED * (30 + f - 90);
    return { x: 0, y: 0.93, z: gone, turn: 0, joints: strideJoints(u * u * ((2 * Math.PI * (f - 30)) / 30)) };
  },
  { id: 'start' },
);
const library = libraryOf(walk, other, stand, start);
const twoOf = (a = walk, b = other): Scene =>
  sceneOf([
    segmentOf(a, { id: 'a' }),
    segmentOf(b, { id: 'b', start: a.frames - 8, seam: seamOf({ fit: 'planted foot', auto: true }) }),
    segmentOf(walk, { id: 'c', start: a.frames + b.frames - 16, seam: seamOf({ fit: 'planted foot' }) }),
  ]);
const limited = (values: Partial<ChoiceLimits>): ChoiceLimits => ({ ...PLAIN_LIMITS, ...values });
const spans = (scene: Scene): string =>
  layOut(scene, scene.lanes.l!, library)
    .map((p) => `${p.segment.id}[${p.start},${p.end})`)
    .join(' ');
const framesOf = (scene: Scene, id: string): number =>
  layOut(scene, scene.lanes.l!, library).find((p) => p.segment.id === id)!.timing.frames;
const costIn = (scene: Scene): number => joinCost(measureSeam(compile(scene, library).characters[0]!, 0, 30));
const chosen = (scene: Scene, limits = PLAIN_LIMITS, id = 'b') => {
  const choice = chooseJoin(scene, id, library, limits)!;
  return { choice, after: applyEdit(scene, choice.edit, library) };
};

describe('the choice of a join', () => {
  it('finds where two takes of one walk are in the same stride', () => {
    const { choice, after } = chosen(twoOf());
    expect(choice.before.grade).not.toBe('good');
    expect(choice.measures.grade).toBe('good');
    const { out, in: into, kind, why } = after.segments.b!.seam.chosen!;
    expect(kind).toBe('crossfade');
    // The other take is eleven samples ahead.
    expect((out - into - 11 + 60) % 30).toBe(0);
    expect(why).toMatch(/^Frame \d+ onto \d+, .* planted.*, \d+ frames: .*; as dropped .*\.$/);
    expect(after.segments.b!.seam.auto).toBe(true);
    // What was measured for the choice is what the scene measures.
    expect(costIn(after)).toBeCloseTo(joinCost(choice.measures), 6);
  });

  it('takes a step where no two moments are alike', () => {
    const { choice } = chosen(twoOf(stand, walk));
    expect(choice.measures.kind).toBe('step');
    expect(joinCost(choice.measures)).toBeLessThan(joinCost(choice.before));
    expect(chosen(twoOf(stand, walk), limited({ steps: false })).choice.measures.kind).not.toBe('step');
  });

  it('moves either end by no more than it may, and leaves a second of each clip', () => {
    for (const within of [0, 0.2, 0.7]) {
      const { after } = chosen(twoOf(), limited({ within }));
      expect(Math.abs(framesOf(after, 'a') - 121)).toBeLessThanOrEqual(within * 30);
      expect(Math.abs(framesOf(after, 'b') - 121)).toBeLessThanOrEqual(within * 30);
    }
    const short = sceneOf([
      segmentOf(walk, { id: 'a', in: 85 }),
      segmentOf(other, { id: 'b', out: 34, start: 28, seam: seamOf() }),
    ]);
    expect(boundsOf(pairOf(short, 'b', library)!, library, PLAIN_LIMITS)).toEqual({
      filled: { least: 30, most: 36 },
      lost: { least: 0, most: 4 },
    });
  });

  it('looks no further than forty seconds, however far it may', () => {
    const long = figureClip(3000, (f) => ({ x: 0, y: 0.93, z: SPEED * f, turn: 0, joints: stride(f) }), {
      id: 'long',
    });
    const clips = libraryOf(long);
    const scene = sceneOf([
      segmentOf(long, { id: 'a' }),
      segmentOf(long, { id: 'b', start: 2992, seam: seamOf() }),
    ]);
    expect(boundsOf(pairOf(scene, 'b', clips)!, clips, limited({ within: 3600 }))).toEqual({
      filled: { least: 1800, most: 3000 },
      lost: { least: 0, most: 1200 },
    });
  });

  it('makes no step for a body without legs', () => {
    const box = makeSkeleton({
      names: ['box', 'lid', 'latch'],
      parents: [-1, 0, 1],
      restTranslations: [0, 0, 0, 0, 0.5, 0, 0.1, 0.2, 0],
    });
    const prop = (id: string, lid: number): Clip => ({
      ...figureClip(60, (f) => ({ x: 0.01 * f, y: 0, z: 0, turn: lid }), { skeleton: box, id }),
    });
    const clips = libraryOf(prop('open', 0), prop('shut', 1));
    const scene = sceneOf([
      segmentOf(clips.clip('open')!, { id: 'a' }),
      segmentOf(clips.clip('shut')!, { id: 'b', start: 52, seam: seamOf() }),
    ]);
    expect(chooseJoin(scene, 'b', clips, PLAIN_LIMITS)!.measures.kind).not.toBe('step');
  });

  it('keeps the ends, or the length, where it is asked to', () => {
    expect(framesOf(chosen(twoOf(), limited({ keepEnd: true })).after, 'a')).toBe(121);
    expect(framesOf(chosen(twoOf(), limited({ keepStart: true })).after, 'b')).toBe(121);
    const end = (scene: Scene): string => spans(scene).replace(/.* c/, 'c');
    const before = twoOf();
    expect(end(chosen(before, limited({ keepLength: true })).after)).toBe(end(before));
    expect(end(chosen(before).after)).not.toBe(end(before));
  });

  it('matches only like feet where it is asked to', () => {
    const { after } = chosen(twoOf(walk, walk), limited({ sameFeet: true }));
    const { out, in: into } = after.segments.b!.seam.chosen!;
    expect((out - into + 60) % 30).toBe(0);
  });

  it('leaves a motion alone that was cut in two', () => {
    const whole = sceneOf([segmentOf(walk, { id: 'a' })]);
    const cut = applyEdit(whole, { type: 'cut', segment: 'a', frame: 50, id: 'b' }, library);
    expect(chooseJoin(cut, 'b', library, PLAIN_LIMITS)).toBeNull();
    expect(plainJoin(cut, 'b', library)).toBeNull();
  });

  it('does not depend on how the join was before', () => {
    const set = (values: object, overlap: number): Scene =>
      [
        { type: 'seam', segment: 'b', values },
        { type: 'overlap', segment: 'b', frames: overlap },
      ].reduce((s, e) => applyEdit(s, e as Edit, library), twoOf());
    const first = chosen(twoOf()).after;
    const nudged = set({ fit: 'hips', facing: false, nudge: { x: 0.4, z: 0, turn: 20 } }, 3);
    for (const scene of [nudged, set({ fit: 'whole body' }, 20)]) expect(chosen(scene).after).toEqual(first);
  });

  it('is the same again, and is taken back whole', () => {
    const before = twoOf();
    const { after } = chosen(before);
    expect(chosen(after).after.segments).toEqual(after.segments);
    const plain = applyEdit(after, plainJoin(after, 'b', library)!, library);
    expect(spans(plain)).toBe(spans(before));
    for (const id of ['a', 'b', 'c'])
      expect(plain.segments[id]).toMatchObject({
        in: before.segments[id]!.in,
        out: before.segments[id]!.out,
      });
    expect(plain.segments.b!.seam).toMatchObject({ auto: false, chosen: null, fit: 'planted foot' });
  });

  it('does not blend bodies that face away from each other', () => {
    // The second walk goes backwards: its body fits the first, but only turned round.
    const back = figureClip(121, (f) => ({ x: 0, y: 0.93, z: -SPEED * f, turn: 0, joints: stride(-f) }), {
      id: 'back',
    });
    const clips = libraryOf(walk, back);
    const scene = sceneOf([
      segmentOf(walk, { id: 'a' }),
      segmentOf(back, {
        id: 'b',
        start: 113,
        seam: seamOf({ fit: 'free', nudge: { x: 0, z: 0, turn: 170 } }),
      }),
    ]);
    const choice = chooseJoin(scene, 'b', clips, limited({ steps: false }))!;
    const after = applyEdit(scene, choice.edit, clips);
    const [a, b] = compile(after, clips).characters[0]!.segments;
    expect(Math.abs(b!.move[2]! - a!.move[2]!)).toBeLessThan(Math.PI);
  });

  it('passes over what has nothing before it, goes on with its loop, or comes after a gap', () => {
    const loop = { loop: true, repeat: 2, out: 31 };
    const scene = sceneOf([
      segmentOf(walk, { id: 'a', ...loop }),
      segmentOf(walk, { id: 'b', ...loop, start: 60 }),
      segmentOf(other, { id: 'c', start: 200 }),
    ]);
    for (const id of ['a', 'b', 'c']) expect(chooseJoin(scene, id, library, PLAIN_LIMITS)).toBeNull();
  });
});

describe('joins that an edit has made', () => {
  const scene = twoOf();
  const auto = (s: Scene): Scene =>
    applyEdit(s, { type: 'seam', segment: 'c', values: { auto: true } }, library);
  const madeBy = (edit: Edit, before = scene): string[] =>
    madeJoins(before, applyEdit(before, edit, library), library);

  it('are those of new neighbours, whoever set the join to the former one', () => {
    const segment = segmentOf(stand, { id: 'd', seam: seamOf({ auto: true }) });
    for (const before of [scene, auto(scene)]) {
      expect(madeBy({ type: 'remove', segment: 'b', close: true }, before)).toEqual(['c']);
      expect(madeBy({ type: 'place', lane: 'l', segment, at: 'end' }, before)).toEqual(['d']);
      expect(madeBy({ type: 'place', lane: 'l', segment, at: 20 }, before)).toEqual(['d', 'b']);
      expect(madeBy({ type: 'rename scene', name: 'x' }, before)).toEqual([]);
      expect(madeBy({ type: 'trim', segment: 'c', edge: 'end', frame: 300 }, before)).toEqual([]);
    }
  });

  it('are those of another motion, unless they are set by hand', () => {
    const by = { clip: 'stand', name: 'Stand', loop: false };
    expect(madeBy({ type: 'replace', segment: 'c', by })).toEqual([]);
    expect(madeBy({ type: 'replace', segment: 'c', by }, auto(scene))).toEqual(['c']);
    expect(madeBy({ type: 'replace', segment: 'b', by }, auto(scene))).toEqual(['b', 'c']);
    const set = (values: SegmentValues): string[] =>
      madeBy({ type: 'change', segment: 'b', values }, auto(scene));
    expect(set({ mirror: true })).toEqual(['b', 'c']);
    expect(set({ reverse: true })).toEqual(['b', 'c']);
    expect(set({ travel: 'in place' })).toEqual(['b', 'c']);
    expect([...set({ speed: 2 }), ...set({ length: 90 }), ...set({ lift: 0.1 })]).toEqual([]);
  });

  it('are kept where a neighbour is only disabled, where one is split, and within what is pasted', () => {
    const disable = { type: 'switch', segment: 'b', off: true } as const;
    expect(madeBy(disable)).toEqual([]);
    expect(madeBy(disable, auto(scene))).toEqual(['c']);
    expect(madeBy({ ...disable, off: false }, applyEdit(scene, disable, library))).toEqual(['b']);
    for (const before of [scene, auto(scene)]) {
      expect(madeBy({ type: 'cut', segment: 'b', frame: 170, id: 'd' }, before)).toEqual([]);
      expect(madeBy({ type: 'duplicate', segment: 'b', id: 'd' }, before)).toEqual(['d']);
    }
    const segments = [scene.segments.b!, scene.segments.c!].map((s) => ({ ...s, id: `${s.id}2` }));
    expect(madeBy({ type: 'paste', lane: 'l', segments, at: 300, rate: 30 })).toEqual(['b2']);
  });

  it('become the user’s own once they are set by hand', () => {
    const { after } = chosen(scene);
    for (const edit of [
      { type: 'seam', segment: 'b', values: { fit: 'hips' } },
      { type: 'overlap', segment: 'b', frames: 6 },
      { type: 'widen seam', segment: 'b', overlap: 6 },
      { type: 'shift seam', segment: 'b', frames: 2 },
      { type: 'match', segment: 'b', out: 90, in: 20 },
      { type: 'trim', segment: 'a', edge: 'end', frame: framesOf(after, 'a') - 4 },
      { type: 'trim', segment: 'b', edge: 'start', frame: after.segments.b!.start + 4 },
    ] as const)
      expect([edit.type, applyEdit(after, edit, library).segments.b!.seam]).toEqual([
        edit.type,
        expect.objectContaining({ auto: false, chosen: null }),
      ]);
  });

  it('are chosen one after the other, each in what the ones before have made', () => {
    const { scene: after, edits } = chooseJoins(auto(scene), ['b', 'c'], library);
    expect(edits.map((e) => e.type)).toEqual(['join', 'join']);
    expect(edits.reduce((s, e) => applyEdit(s, e, library), auto(scene))).toEqual(after);
    for (const i of [0, 1])
      expect(measureSeam(compile(after, library).characters[0]!, i, 30).grade).toBe('good');
  });
});

describe('what comes between, and after', () => {
  it('is a clip that leads from the one to the other', () => {
    // From standing into full stride nothing leads but the start, where no step may be made.
    const scene = { ...twoOf(stand, walk), choice: limited({ steps: false }) };
    let n = 0;
    const [bridge] = findBridges(scene, 'b', [start, other, stand], library, () => `x${n++}`);
    expect(bridge!.clip.id).toBe('start');
    const after = applyEdit(scene, bridge!.edit, library);
    expect(after.lanes.l!.segments).toHaveLength(4);
    expect(layOut(after, after.lanes.l!, library)[1]!.segment.clip).toBe('start');
    expect(bridge!.seconds).toBeGreaterThan(0);
    // Where the two join well, nothing comes between.
    expect(findBridges(twoOf(), 'b', [start, stand], library, () => `y${n++}`)).toEqual([]);
  });

  it('is ranked by how well it follows', () => {
    const [first, second] = followersOf(walk, 120, [stand, other, start], 2, library.memory);
    expect(first!.clip.id).toBe('other');
    expect(first!.pair.distanceCm).toBeLessThan(second!.pair.distanceCm);
    expect(followersOf(stand, 120, [walk, start], 1, library.memory)[0]!.clip.id).toBe('start');
  });
});

it('a match meets in the middle of the overlap that the join has, even or odd, and moves no loop', () => {
  for (const overlap of [0, 5, 8]) {
    const scene = applyEdit(twoOf(), { type: 'overlap', segment: 'b', frames: overlap }, library);
    const after = applyEdit(scene, matchJoin(scene, 'b', 40, library)!, library);
    const [a, b] = layOut(after, after.lanes.l!, library);
    expect(b!.overlap).toBe(overlap);
    // The other take is eleven samples ahead: at any frame of the overlap both are in the same stride.
    expect((b!.start - a!.start - b!.segment.in - 11 + 120) % 30).toBe(0);
  }
  const loop = { loop: true, out: 31, repeat: 3 };
  const looped = sceneOf([
    segmentOf(walk, { id: 'a', ...loop }),
    segmentOf(other, { id: 'b', start: 82, seam: seamOf() }),
  ]);
  expect(matchJoin(looped, 'b', 20, library)!.before).toBe(90);
});

it('a step that is asked for has its join measured as one', () => {
  const scene = applyEdit(
    twoOf(stand, walk),
    { type: 'seam', segment: 'b', values: {}, join: PLAIN_STEP },
    library,
  );
  expect(measureSeam(compile(scene, library).characters[0]!, 0, 30).kind).toBe('step');
});
