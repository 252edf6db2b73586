import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { InputError } from '../math/errors';
import type { LayerLane } from '../scene/lane';
import { mutedSegments } from '../scene/group';
import { parseScene } from '../scene/schema';
import { after, anyEdit, backAndAgain, carryOut, library, one, spans, two, walk } from '../testing/arranging';
import { sceneOf, segmentOf } from '../testing/scenes';
import { copySegments, parseCopied } from './clipboard';
import type { Edit } from './edit';
import { applyEdit } from './edit';
import { layOut } from '../timeline/lane';

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
    [
      'comes before another one, and the lane closes up',
      { type: 'reorder', segment: 'c', lane: 'l', before: 'b' },
      'a[0,90) c[90,150) b[142,182)',
    ],
    [
      'comes first of all',
      { type: 'reorder', segment: 'b', lane: 'l', before: 'a' },
      'b[0,40) a[16,106) c[98,158)',
    ],
    ['switches off and closes up', { type: 'switch', segment: 'b', off: true }, 'a[0,90) c[82,142)'],
  ])('%s', (_, change, expected) => {
    expect(spans(after(change))).toBe(expected);
  });

  it('a part that lies beyond the samples of its clip can still be trimmed', () => {
    const long = sceneOf([segmentOf(walk, { id: 'a', repeat: 3 })]);
    const cut = after({ type: 'cut', segment: 'a', frame: 40, id: 'n' }, long);
    expect(cut.segments.n!.in).toBeGreaterThan(walk.frames);
    const trimmed = after({ type: 'trim', segment: 'n', edge: 'end', frame: 50 }, cut);
    expect(() => parseScene(JSON.parse(JSON.stringify(trimmed)))).not.toThrow();
    expect(spans(trimmed)).toBe('a[0,40) n[40,50)');
  });

  it('slipping shows another part, no further than the clip goes', () => {
    expect(after({ type: 'slip', segment: 'b', samples: 7 }).segments.b).toMatchObject({ in: 17, out: 57 });
    expect(after({ type: 'slip', segment: 'b', samples: 99 }).segments.b).toMatchObject({ in: 20, out: 60 });
    expect(after({ type: 'slip', segment: 'a', samples: 37 }).segments.a!.phase).toBeCloseTo(7, 9);
  });

  it('a segment that was switched off comes back where it was', () => {
    const off = after({ type: 'switch', segment: 'b', off: true });
    const on = applyEdit(off, { type: 'switch', segment: 'b', off: false }, library);
    expect(on.lanes.l!.segments).toEqual(['a', 'b', 'c']);
    const first = after({ type: 'switch', segment: 'a', off: true });
    expect(spans(first)).toBe('b[0,40) c[32,92)');
    expect(spans(applyEdit(first, { type: 'switch', segment: 'a', off: false }, library))).toMatch(
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
    const text = JSON.stringify(copySegments(two, ['b', 'c', 'f'], library));
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
    for (const rows of [null, [null], [{ lane: 'l' }], [{ ...copied.rows[0], segments: {} }]])
      expect(() => parseCopied(JSON.stringify({ ...copied, rows }))).toThrow(/damaged.*rows/);
    expect(() => parseCopied(JSON.stringify({ ...copied, rate: 'fast' }))).toThrow(InputError);
  });

  it('a locked lane goes along with another rate, and with a lead-in of its scene', () => {
    const locked = after({ type: 'change lane', lane: 'l', values: { locked: true } }, two);
    expect(after({ type: 'rate', rate: 60, keep: 'seconds' }, locked).segments.b!.start).toBe(
      2 * two.segments.b!.start,
    );
    expect(after({ type: 'lead-in', character: 'd', frames: 40 }, locked).segments.b!.start).toBeGreaterThan(
      two.segments.b!.start,
    );
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

describe('what is new', () => {
  const taken: readonly Edit[] = [
    { type: 'place', lane: 'l', segment: one.segments.b!, at: 'end' },
    { type: 'duplicate', segment: 'a', id: 'b' },
    { type: 'cut', segment: 'a', frame: 20, id: 'b' },
    { type: 'freeze', segment: 'a', frame: 20, frames: 5, id: 'b' },
    { type: 'paste', lane: 'l', segments: [one.segments.b!], at: 300, rate: 30 },
    { type: 'group', id: 'b', name: 'both', segments: ['a', 'c'] },
    { type: 'add character', character: two.characters.d!, lane: 'free' },
    { type: 'add layer', layer: two.lanes.y as LayerLane },
  ];

  it.each(taken.map((e) => [e.type, e] as const))('never takes the place of something else: %s', (_, e) => {
    expect(() => applyEdit(two, e, library)).toThrow(/already/);
  });
});

describe('the whole scene', () => {
  it('at another rate keeps its seconds: cuts stay cuts, seams seams', () => {
    const cut = applyEdit(one, { type: 'widen seam', segment: 'c', overlap: 0 }, library);
    const film = after({ type: 'rate', rate: 24, keep: 'seconds' }, cut);
    const placed = layOut(film, film.lanes.l!, library);
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
  });

  it('characters change places with their lanes', () => {
    const ordered = after({ type: 'order character', character: 'd', to: 0 }, two);
    expect(ordered.characterOrder).toEqual(['d', 'c']);
    expect(ordered.laneOrder).toEqual(['m', 'y', 'l']);
  });

  it('markers and the play range are kept in order', () => {
    const marked = after({
      type: 'marker',
      marker: { id: 'q', name: 'turn', frame: 90, end: null, impact: [] },
    });
    const both = applyEdit(
      marked,
      { type: 'marker', marker: { id: 'p', name: '', frame: 12, end: 10, impact: [] } },
      library,
    );
    expect(both.markers.map((m) => [m.name, m.frame, m.end])).toEqual([
      ['frame 12', 12, 13],
      ['turn', 90, null],
    ]);
    const ranged = applyEdit(both, { type: 'range', range: { from: 30, to: 20 } }, library);
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
    expect([...mutedSegments(muted)].sort()).toEqual(['b', 'c', 'e']);
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

describe('laws', () => {
  it('200 edits of any kind leave a valid scene; undone they give the very document, done again the very end', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 200, maxLength: 200 }), (edits) => {
        const { scene, done } = carryOut(edits);
        expect(done.length).toBeGreaterThan(20);
        const { back, again } = backAndAgain({ scene, done });
        expect(back).toEqual(two);
        expect(again).toEqual(scene);
      }),
      { numRuns: 14 },
    );
  });
});
