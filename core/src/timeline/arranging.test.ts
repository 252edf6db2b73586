import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePose } from '../clip/pose';
import { compile } from '../evaluate/compile';
import { evaluate } from '../evaluate/evaluate';
import { InputError } from '../math/errors';
import type { Scene, Segment } from '../scene/scene';
import { PLAIN_CHARACTER, PLAIN_LANE, PLAIN_LAYER } from '../scene/scene';
import { parseScene } from '../scene/schema';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { copySegments, parseCopied } from './clipboard';
import { describeEdit } from './describeEdit';
import type { Edit } from './edits';
import { applyDifferences, applyEdit, edit } from './edits';
import { layOut } from './lane';
import { canStand } from './moveSeveral';

const walk = figureClip(
  31,
  (f) => ({ x: 0, z: (1.3 * f) / 30, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const turn = figureClip(
  60,
  (f) => ({ x: 0.1 * Math.sin(f / 20), z: 0.01 * f, turn: f * 0.03, joints: strideJoints(f / 9) }),
  { id: 'turn' },
);
const slow = figureClip(40, (f) => ({ x: 0, z: 0.02 * f, turn: 0, joints: strideJoints(f / 7) }), {
  id: 'slow',
  rate: 24,
});
const library = libraryOf(walk, turn, slow);
const clips = library.clip;
const one = sceneOf([
  segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
  segmentOf(turn, { id: 'b', start: 82, in: 10, out: 50 }),
  segmentOf(walk, { id: 'c', start: 114, loop: true, repeat: 2 }),
]);
/** Two characters, the second with a gap and a layer. */
const two: Scene = {
  ...one,
  characters: { ...one.characters, d: { ...PLAIN_CHARACTER, id: 'd', name: 'Visitor', body: 'body' } },
  characterOrder: ['c', 'd'],
  lanes: {
    ...one.lanes,
    m: { ...PLAIN_LANE, id: 'm', kind: 'body', character: 'd', segments: ['e', 'f'] },
    y: { ...PLAIN_LAYER, id: 'y', name: 'wave', character: 'd', segments: ['g'], weight: [[10, 1]] },
  },
  laneOrder: ['l', 'm', 'y'],
  segments: {
    ...one.segments,
    e: segmentOf(turn, { id: 'e', start: 20, out: 40 }),
    f: segmentOf(slow, { id: 'f', start: 70 }),
    g: segmentOf(slow, { id: 'g', start: 5, out: 30 }),
  },
};
const spans = (scene: Scene, lane = 'l'): string =>
  layOut(scene, scene.lanes[lane]!, clips)
    .map((p) => `${p.segment.id}[${p.start},${p.end})`)
    .join(' ');
const after = (change: Edit, scene = one): Scene => applyEdit(scene, change, clips);
const poses = (scene: Scene, character = 0) => {
  const plan = compile(scene, library).characters[character]!;
  const pose = makePose(plan.skeleton);
  return (frame: number): number[] => {
    evaluate(plan, frame, pose);
    return [...pose.root, ...pose.translations, ...pose.rotations];
  };
};
const furthest = (a: readonly number[], b: readonly number[]): number =>
  Math.max(...a.map((v, i) => Math.abs(v - b[i]!)));

describe('cutting', () => {
  it('makes two of one, at the frame', () => {
    const cut = after({ type: 'cut', segment: 'b', frame: 100, id: 'n' });
    expect(spans(cut)).toBe('a[0,90) b[82,100) n[100,122) c[114,174)');
    expect(cut.segments.b).toMatchObject({ in: 10, out: 28 });
    expect(cut.segments.n).toMatchObject({ in: 28, out: 50 });
  });

  it('a loop cut within a cycle goes on in its phase', () => {
    const cut = after({ type: 'cut', segment: 'a', frame: 40, id: 'n' });
    expect(spans(cut)).toBe('a[0,40) n[40,90) b[82,122) c[114,174)');
    expect(cut.segments.n!.phase).toBeCloseTo(10, 9);
  });

  it('keeps clear of seams, and refuses what is too short for two', () => {
    const cut = after({ type: 'cut', segment: 'b', frame: 84, id: 'n' });
    expect(spans(cut)).toBe('a[0,90) b[82,91) n[91,122) c[114,174)');
    const short = sceneOf([segmentOf(walk, { id: 'a', out: 1 })]);
    expect(() => after({ type: 'cut', segment: 'a', frame: 0, id: 'n' }, short)).toThrow(/too short/);
  });

  it('shows what was shown before, for any segment and any frame', () => {
    const values = fc.record({
      reverse: fc.boolean(),
      hold: fc.record({ start: fc.nat(6), end: fc.nat(6) }),
      speed: fc.constantFrom(1, 0.5, 1.7),
      loop: fc.boolean(),
      repeat: fc.constantFrom(1, 2.4),
      // Half samples before the first and behind the last one are not in the clip.
      in: fc.integer({ min: 1, max: 5 }),
      clip: fc.constantFrom('walk', 'turn'),
    });
    fc.assert(
      fc.property(values, fc.double({ min: 0, max: 1, noNaN: true }), ({ loop, repeat, clip, ...v }, at) => {
        const source = clip === 'walk' ? walk : turn;
        const scene = sceneOf([
          segmentOf(source, {
            id: 'a',
            out: source.frames - 1,
            ...v,
            ...(loop && clip === 'walk' ? { loop, repeat } : {}),
          }),
        ]);
        const frames = layOut(scene, scene.lanes.l!, clips)[0]!.timing.frames;
        const frame = Math.round(at * frames);
        const cut = after({ type: 'cut', segment: 'a', frame, id: 'n' }, scene);
        const [before, now] = [poses(scene), poses(cut)];
        for (let f = 0; f < frames; f++) expect(furthest(before(f), now(f))).toBeLessThan(2e-4);
        expect(layOut(cut, cut.lanes.l!, clips).at(-1)!.end).toBe(frames);
      }),
      { numRuns: 60 },
    );
  });
});

describe('edits of one segment', () => {
  it.each<[string, Edit, string]>([
    [
      'freezes a frame and pushes the rest on',
      { type: 'freeze', segment: 'b', frame: 99, frames: 20, id: 'n' },
      'a[0,90) b[82,120) n[120,142) c[134,194)',
    ],
    [
      'stretches to a frame',
      { type: 'stretch', segment: 'c', edge: 'end', frame: 200 },
      'a[0,90) b[82,122) c[114,200)',
    ],
    [
      'repeats to whole cycles and parts of them',
      { type: 'repeat', segment: 'c', edge: 'end', frame: 219 },
      'a[0,90) b[82,122) c[114,219)',
    ],
    [
      'replaces a clip and keeps its place and length',
      { type: 'replace', segment: 'a', by: { clip: 'turn', name: 'turn', loop: true } },
      'a[0,90) b[82,122) c[114,174)',
    ],
    [
      'replaces by one that is too short, and what follows comes nearer',
      { type: 'replace', segment: 'a', by: { clip: 'turn', name: 'turn', loop: false } },
      'a[0,60) b[52,92) c[84,144)',
    ],
    ['slips', { type: 'slip', segment: 'b', samples: 7 }, 'a[0,90) b[82,122) c[114,174)'],
    [
      'swaps neighbours, and keeps where it all ends',
      { type: 'swap', segment: 'a' },
      'b[0,40) a[32,122) c[114,174)',
    ],
    ['moves a seam', { type: 'shift seam', segment: 'b', frames: 6 }, 'a[0,96) b[88,122) c[114,174)'],
    [
      'moves a seam as far as the clip has samples',
      { type: 'shift seam', segment: 'c', frames: 40 },
      'a[0,90) b[82,132) c[124,174)',
    ],
    [
      'makes a seam longer out of unused frames',
      { type: 'widen seam', segment: 'b', overlap: 14 },
      'a[0,93) b[79,122) c[114,174)',
    ],
    [
      'makes a seam a cut without moving anything else',
      { type: 'widen seam', segment: 'b', overlap: 0 },
      'a[0,86) b[86,122) c[114,174)',
    ],
    ['switches off and closes up', { type: 'switch', segment: 'b', off: true }, 'a[0,90) c[82,142)'],
  ])('%s', (_, change, expected) => {
    expect(spans(after(change))).toBe(expected);
  });

  it('slipping shows another part, no further than the clip goes', () => {
    expect(after({ type: 'slip', segment: 'b', samples: 7 }).segments.b).toMatchObject({ in: 17, out: 57 });
    expect(after({ type: 'slip', segment: 'b', samples: 99 }).segments.b).toMatchObject({ in: 20, out: 60 });
    expect(after({ type: 'slip', segment: 'a', samples: 37 }).segments.a!.phase).toBeCloseTo(7, 9);
  });

  it('trimming the start of a loop leaves what is shown', () => {
    const trimmed = after({ type: 'trim', segment: 'c', edge: 'start', frame: 118 });
    const [before, now] = [poses(one), poses(trimmed)];
    const joints = (p: number[]): number[] => p.slice(3 + 3);
    for (let f = 123; f < 174; f++) expect(furthest(joints(before(f)), joints(now(f)))).toBeLessThan(0.2);
    expect(trimmed.segments.c!.phase).toBeCloseTo(4, 9);
  });

  it('a segment that was switched off comes back where it was', () => {
    const off = after({ type: 'switch', segment: 'b', off: true });
    const on = applyEdit(off, { type: 'switch', segment: 'b', off: false }, clips);
    expect(on.lanes.l!.segments).toEqual(['a', 'b', 'c']);
    const first = after({ type: 'switch', segment: 'a', off: true });
    expect(spans(first)).toBe('b[0,40) c[32,92)');
    expect(spans(applyEdit(first, { type: 'switch', segment: 'a', off: false }, clips))).toMatch(
      /^a\[0,90\)/,
    );
  });

  it('what is switched off refuses to be trimmed, and says so', () => {
    const off = after({ type: 'switch', segment: 'b', off: true });
    expect(() => after({ type: 'trim', segment: 'b', edge: 'end', frame: 1 }, off)).toThrow(/switched off/);
  });
});

describe('several segments', () => {
  it('move as one, as far as all of them can', () => {
    const moved = after({ type: 'move several', segments: ['b', 'c'], frames: -20 });
    expect(spans(moved)).toBe('a[0,90) b[62,102) c[94,154)');
    const both = after({ type: 'move several', segments: ['a', 'b', 'c', 'e'], frames: -9 }, two);
    expect(both).toEqual(two);
    const on = after({ type: 'move several', segments: ['b', 'c', 'f'], frames: 30 }, two);
    expect(spans(on)).toBe('a[0,90) b[112,152) c[144,204)');
    expect(spans(on, 'm')).toBe('e[20,60) f[100,150)');
  });

  it('go to another lane together', () => {
    const moved = after({ type: 'move several', segments: ['b', 'c'], frames: 60, lane: 'm' }, two);
    expect(spans(moved)).toBe('a[0,90)');
    expect(spans(moved, 'm')).toBe('e[20,60) f[70,120) b[142,182) c[174,234)');
  });

  it('are copied and pasted, also at another rate', () => {
    const text = JSON.stringify(copySegments(two, ['b', 'c', 'f'], clips));
    const copied = parseCopied(text)!;
    expect(copied.rows.map((r) => [r.character, r.segments.map((s) => s.start)])).toEqual([
      ['Keeper', [12, 44]],
      ['Visitor', [0]],
    ]);
    const named = copied.rows[0]!.segments.map((s) => ({ ...s, id: `${s.id}2` }));
    const pasted = after({ type: 'paste', lane: 'l', segments: named, at: 300, rate: 30 });
    expect(spans(pasted)).toBe('a[0,90) b[82,122) c[114,174) b2[300,340) c2[332,392)');
    const between = after({ type: 'paste', lane: 'm', segments: named, at: 30, rate: 30 }, two);
    expect(spans(between, 'm')).toMatch(/^e\[20,60\) b2\[\d+,\d+\) c2\[\d+,(\d+)\) f\[\1,/);
    const slower = { ...one, rate: 15 };
    expect(spans(after({ type: 'paste', lane: 'l', segments: named, at: 300, rate: 30 }, slower))).toMatch(
      /b2\[300,320\) c2\[316,346\)$/,
    );
    expect(parseCopied('a text')).toBeNull();
    expect(() => parseCopied(text.replace('"in":10', '"in":-10'))).toThrow(InputError);
  });

  it('locked lanes refuse, whatever the edit is', () => {
    const locked = after({ type: 'change lane', lane: 'l', values: { locked: true } }, two);
    for (const change of [
      { type: 'move', segment: 'a', start: 300 },
      { type: 'remove', segment: 'b', close: true },
      { type: 'move several', segments: ['c', 'f'], frames: 10 },
      { type: 'remove character', character: 'c' },
    ] as Edit[])
      expect(() => after(change, locked)).toThrow(/Keeper is locked/);
    expect(after({ type: 'move', segment: 'f', start: 300 }, locked).segments.f!.start).toBe(300);
  });
});

describe('the whole scene', () => {
  it('at another rate keeps its seconds: cuts stay cuts, seams seams', () => {
    const cut = applyEdit(one, { type: 'widen seam', segment: 'c', overlap: 0 }, clips);
    const film = after({ type: 'rate', rate: 24, keep: 'seconds' }, cut);
    const placed = layOut(film, film.lanes.l!, clips);
    expect(placed.map((p) => [p.overlap > 0, p.gap])).toEqual([
      [false, 0],
      [true, 0],
      [false, 0],
    ]);
    expect(placed.at(-1)!.end / 24).toBeCloseTo(174 / 30, 0.05);
  });

  it('at another rate keeps its frames, and plays faster', () => {
    const fast = after({ type: 'rate', rate: 60, keep: 'frames' });
    expect(spans(fast)).toBe(spans(one));
    expect(fast.segments.a!.speed).toBe(2);
  });

  it('a lead-in pushes every character on, so that they stay together', () => {
    const led = after({ type: 'lead-in', character: 'c', frames: 50 }, two);
    expect(spans(led)).toBe('a[50,140) b[132,172) c[164,224)');
    expect(spans(led, 'm')).toBe('e[70,110) f[120,170)');
    expect(led.lanes.y).toMatchObject({ weight: [[60, 1]] });
    expect(compile(led, library).characters[0]!.start).toBe(0);
  });

  it('characters change places with their lanes', () => {
    const ordered = after({ type: 'order character', character: 'd', to: 0 }, two);
    expect(ordered.characterOrder).toEqual(['d', 'c']);
    expect(ordered.laneOrder).toEqual(['m', 'y', 'l']);
  });

  it('markers and the play range are kept in order', () => {
    const marked = after({ type: 'marker', marker: { id: 'q', name: 'turn', frame: 90, end: null } });
    const both = applyEdit(
      marked,
      { type: 'marker', marker: { id: 'p', name: '', frame: 12, end: 10 } },
      clips,
    );
    expect(both.markers.map((m) => [m.name, m.frame, m.end])).toEqual([
      ['frame 12', 12, 13],
      ['turn', 90, null],
    ]);
    const ranged = applyEdit(both, { type: 'range', range: { from: 30, to: 20 } }, clips);
    expect(ranged.range).toEqual({ from: 30, to: 31 });
  });
});

describe('groups', () => {
  const grouped = after({ type: 'group', id: 'G', name: 'pair', segments: ['b', 'c', 'e'] }, two);

  it('nest, and come apart again', () => {
    const outer = after({ type: 'group', id: 'H', name: 'all', segments: ['a', 'b', 'c', 'e'] }, grouped);
    expect(outer.groups.H!.members).toEqual(['a', 'G']);
    const inner = after({ type: 'group', id: 'I', name: 'in', segments: ['b', 'c'] }, outer);
    expect(inner.groups.G!.members).toEqual(['e', 'I']);
    parseScene(JSON.parse(JSON.stringify(inner)));
    const apart = after({ type: 'ungroup', group: 'G' }, inner);
    expect(apart.groups.H!.members).toEqual(['a', 'e', 'I']);
  });

  it('lose what is removed, and vanish when empty', () => {
    let scene = grouped;
    for (const id of ['b', 'c', 'e']) scene = after({ type: 'remove', segment: id, close: false }, scene);
    expect(scene.groups).toEqual({});
  });

  it('take in both parts of a cut', () => {
    expect(after({ type: 'cut', segment: 'b', frame: 100, id: 'n' }, grouped).groups.G!.members).toContain(
      'n',
    );
  });

  it('muted ones are left out and keep their place', () => {
    const muted = after({ type: 'change group', group: 'G', values: { muted: true } }, grouped);
    expect(spans(muted)).toBe(spans(two));
    expect(compile(muted, library).characters.map((c) => c.segments.map((s) => s.id))).toEqual([
      ['a'],
      ['f'],
    ]);
  });

  it('moved as one is the same as moving each member', () => {
    const members = ['b', 'c', 'f'];
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 120 }), (by) => {
        const asOne = after({ type: 'move several', segments: members, frames: by }, two);
        let single = two;
        for (const id of ['c', 'b', 'f'])
          single = after({ type: 'move', segment: id, start: two.segments[id]!.start + by }, single);
        expect(asOne).toEqual(single);
      }),
    );
  });
});

const NEW = ['n1', 'n2', 'n3', 'n4'];
const frame = fc.integer({ min: -50, max: 400 });
const segment = fc.constantFrom('a', 'b', 'c', 'e', 'f', 'g', ...NEW);
const fresh = fc.constantFrom(...NEW);
const lane = fc.constantFrom('l', 'm', 'y');
const someSegments = fc.uniqueArray(segment, { minLength: 1, maxLength: 4 });
const edge = fc.constantFrom('start' as const, 'end' as const);
const is = <T extends string>(type: T): fc.Arbitrary<T> => fc.constant(type);
const newSegment = fresh.map((id): Segment => segmentOf(id < 'n3' ? walk : slow, { id }));
const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({ type: is('move'), segment, start: frame, lane }),
  fc.record({ type: is('trim'), segment, edge, frame }),
  fc.record({ type: fc.constantFrom('stretch' as const, 'repeat' as const), segment, edge, frame }),
  fc.record({ type: is('cut'), segment, frame, id: fresh }),
  fc.record({ type: is('freeze'), segment, frame, frames: fc.integer({ min: 1, max: 30 }), id: fresh }),
  fc.record({ type: is('slip'), segment, samples: fc.integer({ min: -30, max: 30 }) }),
  fc.record({
    type: is('replace'),
    segment,
    by: fc.record({ clip: fc.constantFrom('walk', 'turn', 'slow'), name: is('new'), loop: fc.boolean() }),
  }),
  fc.record({ type: is('shift seam'), segment, frames: fc.integer({ min: -40, max: 40 }) }),
  fc.record({ type: is('widen seam'), segment, overlap: fc.integer({ min: 0, max: 40 }) }),
  fc.record({ type: is('overlap'), segment, frames: fc.integer({ min: 0, max: 40 }) }),
  fc.record({ type: is('swap'), segment }),
  fc.record({ type: is('switch'), segment, off: fc.boolean() }),
  fc.record({ type: is('remove'), segment, close: fc.boolean() }),
  fc.record({ type: is('duplicate'), segment, id: fresh }),
  fc.record({ type: is('place'), lane, at: fc.oneof(fc.nat(300), is('end')), segment: newSegment }),
  fc.record({
    type: is('paste'),
    lane,
    segments: newSegment.map((s) => [s]),
    at: fc.nat(300),
    rate: fc.constantFrom(30, 24),
  }),
  fc.record({
    type: is('move several'),
    segments: someSegments,
    frames: fc.integer({ min: -200, max: 200 }),
  }),
  fc.record({
    type: is('group'),
    id: fc.constantFrom('G', 'H', 'I'),
    name: is('group'),
    segments: someSegments,
  }),
  fc.record({ type: is('ungroup'), group: fc.constantFrom('G', 'H', 'I') }),
  fc.record({
    type: is('change group'),
    group: fc.constantFrom('G', 'H'),
    values: fc.record({ muted: fc.boolean() }),
  }),
  fc.record({
    type: is('change lane'),
    lane,
    values: fc.record({ muted: fc.boolean(), solo: fc.boolean() }),
  }),
  fc.record({ type: is('order character'), character: fc.constantFrom('c', 'd'), to: fc.nat(2) }),
  fc.record({ type: is('lead-in'), character: fc.constantFrom('c', 'd'), frames: fc.nat(60) }),
  fc.record({
    type: is('marker'),
    marker: fc.record({
      id: fc.constantFrom('p', 'q'),
      name: is('mark'),
      frame: fc.nat(300),
      end: fc.constant(null),
    }),
  }),
  fc.record({
    type: is('rate'),
    rate: fc.constantFrom(24, 25, 30, 60),
    keep: fc.constantFrom('seconds' as const, 'frames' as const),
  }),
  fc.record({
    type: is('change'),
    segment,
    values: fc.oneof(
      fc.record({ repeat: fc.constantFrom(1, 2, 2.5) }),
      fc.record({ reverse: fc.boolean(), mirror: fc.boolean() }),
      fc.record({ hold: fc.record({ start: fc.nat(10), end: fc.nat(10) }) }),
      fc.record({ length: fc.integer({ min: 1, max: 90 }) }),
      fc.record({ loop: fc.boolean(), lift: fc.constantFrom(0, 0.1) }),
    ),
  }),
);

/** Whether everything that an edit names is there, and what it makes is not. */
function possible(scene: Scene, e: Edit): boolean {
  if ('id' in e && (scene.segments[e.id] || scene.groups[e.id])) return false;
  if (e.type === 'place') return !scene.segments[e.segment.id];
  if (e.type === 'paste') return !scene.segments[e.segments[0]!.id];
  if (e.type === 'group' || e.type === 'move several') return e.segments.every((s) => scene.segments[s]);
  if ('group' in e && !scene.groups[e.group]) return false;
  return !('segment' in e) || scene.segments[e.segment as string] !== undefined;
}

const allSpans = (scene: Scene): string => scene.laneOrder.map((l) => spans(scene, l)).join(' | ');

/** What is wrong with a scene, null where nothing is. */
function problemOf(scene: Scene): string | null {
  try {
    parseScene(JSON.parse(JSON.stringify(scene)));
  } catch (error) {
    return String(error);
  }
  const wrong = Object.values(scene.lanes).find((l) => !canStand(layOut(scene, l, clips)));
  return wrong ? `segments cannot stand so: ${spans(scene, wrong.id)}` : null;
}

/** Carries out what can be; edits that are refused leave the scene as it is. */
function carryOut(edits: readonly Edit[]): { scene: Scene; done: ReturnType<typeof edit>[] } {
  let scene = two;
  const done: ReturnType<typeof edit>[] = [];
  for (const e of edits) {
    if (!possible(scene, e)) continue;
    try {
      const result = edit(scene, e, clips);
      expect(describeEdit(e, scene).length).toBeGreaterThan(3);
      const problem = problemOf(result.scene);
      if (problem) throw new Error(`${JSON.stringify(e)} of ${allSpans(scene)}: ${problem}`);
      done.push(result);
      scene = result.scene;
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
    }
  }
  return { scene, done };
}

describe('laws', () => {
  it('200 edits of any kind leave a valid scene; undone they give the very document, done again the very end', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 200, maxLength: 200 }), (edits) => {
        const { scene, done } = carryOut(edits);
        expect(done.length).toBeGreaterThan(20);
        let back = scene;
        for (const d of [...done].reverse()) back = applyDifferences(back, d.inverse);
        expect(back).toEqual(two);
        let again = two;
        for (const d of done) again = applyDifferences(again, d.patches);
        expect(again).toEqual(scene);
      }),
      { numRuns: 25 },
    );
  });

  it('after any edits the performance is continuous inside segments', () => {
    const quiet = (segments: readonly { start: number; end: number }[], f: number): boolean =>
      segments.every((s) => Math.abs(f - s.start) > 1 && Math.abs(f - s.end) > 1);
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 30 }), (edits) => {
        const { scene } = carryOut(edits);
        for (const plan of compile(scene, library).characters) {
          const pose = makePose(plan.skeleton);
          let before: Float64Array | null = null;
          for (let f = plan.start; f < Math.min(plan.end, 600); f += 0.5) {
            evaluate(plan, f, pose);
            expect(pose.root.every(Number.isFinite)).toBe(true);
            const step = before ? Math.hypot(pose.root[0]! - before[0]!, pose.root[1]! - before[1]!) : 0;
            // The fastest clip goes 1.3 m a second; stretched to one frame it may show all of it at once.
            const fastest = Math.max(1, ...plan.segments.map((s) => s.time.samplesPerFrame));
            if (quiet(plan.segments, f)) expect(step).toBeLessThan(0.5 * fastest);
            before = pose.root.slice();
          }
        }
      }),
      { numRuns: 30 },
    );
  });
});
