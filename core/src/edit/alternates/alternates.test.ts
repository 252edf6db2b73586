import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Patch } from 'immer';
import { applyPatches } from 'immer';
import { InputError } from '../../math/errors';
import type { LayerLane } from '../../scene/lane';
import { PLAIN_LAYER } from '../../scene/lane';
import { parseScene } from '../../scene/schema';
import { PLAIN_HOLD } from '../../scene/tether';
import { PLAIN_MARKER } from '../../scene/marker';
import type { Scene } from '../../scene/scene';
import { differences } from '../../scene/differences';
import { alternateInHand, alternatesOf, versionOf, withoutAlternates } from '../../scene/versions';
import { alternated, anyAlternateEdit } from '../../testing/alternateExamples';
import { anyEdit, carryOut, library, slow, spans, two, walk } from '../../testing/arranging';
import { holdsThroughEdits } from '../../testing/manyEdits';
import { segmentOf } from '../../testing/scenes';
import type { Edit, EditOptions } from '../edit';
import { applyDifferences, applyEdit, edit } from '../edit';
import { takeScope } from './takeScope';

const scene: Scene = { ...two, ...alternated };

const after = (edits: readonly Edit[], from = scene, options?: EditOptions): Scene =>
  edits.reduce((s, change) => applyEdit(s, change, library, options), from);

/** An alternate as a scene of its own. */
const version = (of: Scene, id: string): Scene => versionOf(of, of.alternates[id]!);

/** Where the segments of the Keeper are in the scene in hand, and in an alternate. */
const both = (of: Scene, other = 'slow'): string[] => [spans(of), spans(version(of, other))];

/** The scope of an alternate. */
const scopeOf = (of: Scene, id: string): [number, number] | null => {
  const scope = of.alternates[id]?.scope;
  return scope ? [scope.from, scope.to] : null;
};

describe('what leads from one scene to another', () => {
  it('leads there, and is nothing between equal ones', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 6 }), (edits) => {
        for (const { scene: next } of carryOut(edits).done) {
          const there = differences(two, next);
          expect(applyPatches(two, there as unknown as Patch[])).toEqual(next);
          expect(applyDifferences(next, differences(next, two) as unknown as Patch[])).toEqual(two);
          expect(differences(next, JSON.parse(JSON.stringify(next)))).toEqual([]);
        }
      }),
      { numRuns: 100 },
    );
  });
});

describe('alternates', () => {
  it('stay scenes that can be in hand through any edits, all of which can be taken back', () => {
    holdsThroughEdits(scene, fc.oneof(anyEdit, anyEdit, anyAlternateEdit), (now) => {
      const all = alternatesOf(now);
      expect(all.length === 0 || alternateInHand(now)).toBeTruthy();
      for (const one of all) expect(versionOf(now, one).alternateOrder).toEqual([]);
    });
  });

  it('are each what they were after a swap, whichever is taken in hand, and after one back', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(anyEdit, anyAlternateEdit), { maxLength: 6 }), (edits) => {
        let now = scene;
        for (const change of edits) now = tried(now, change);
        for (const { id, differences: own } of alternatesOf(now)) {
          if (!own) continue;
          const swapped = after([{ type: 'swap alternate', alternate: id }], now);
          expect(withoutAlternates(swapped)).toEqual(version(now, id));
          for (const other of now.alternateOrder)
            expect(version(swapped, other)).toEqual(version(now, other));
          const inHand = alternateInHand(now)!;
          const back = after([{ type: 'swap alternate', alternate: inHand.id }], swapped);
          expect(withoutAlternates(back)).toEqual(withoutAlternates(now));
          expect(alternateInHand(back)).toEqual(inHand);
          const only = after([{ type: 'keep alternate', alternate: id }], now);
          expect(only).toEqual(version(now, id));
        }
      }),
      { numRuns: 100 },
    );
  });

  it('are each changed as if they were alone, or not at all', () => {
    fc.assert(
      fc.property(anyEdit, fc.constantFrom('by place', 'all'), (change, alternates) => {
        const before = version(scene, 'slow');
        let now: Scene;
        try {
          now = applyEdit(scene, change, library, { alternates });
        } catch {
          return;
        }
        expect(withoutAlternates(now)).toEqual(tried(two, change));
        expect(withoutAlternates(applyEdit(scene, change, library, { alternates: 'left' }))).toEqual(
          withoutAlternates(now),
        );
        const other = version(now, 'slow');
        const alone = tried(before, change);
        if (alternates === 'all' && now !== scene) expect(other).toEqual(alone);
        else expect([before, alone]).toContainEqual(other);
      }),
      { numRuns: 500 },
    );
  });
});

/** A scene after an edit, or as it was where that cannot be. */
function tried(before: Scene, change: Edit): Scene {
  try {
    return edit(before, change, library).scene;
  } catch {
    return before;
  }
}

describe('an edit beside what differs', () => {
  it('shows in all: what comes later is moved along in each', () => {
    const shorter = after([{ type: 'change', segment: 'a', values: { repeat: 2 } }]);
    expect(both(shorter)).toEqual(['a[0,60) b[52,92) c[84,144)', 'a[0,60) b[52,132) c[124,184)']);
    expect([scopeOf(shorter, 'plain'), scopeOf(shorter, 'slow')]).toEqual([
      [56, 88],
      [56, 128],
    ]);
    const turned = after([{ type: 'change', segment: 'c', values: { mirror: true } }], shorter);
    expect(version(turned, 'slow').segments.c?.mirror).toBe(true);
    const other = after([{ type: 'move', segment: 'e', start: 26 }], turned);
    expect(version(other, 'slow').segments.e?.start).toBe(26);
  });

  it('shows in all where it adds at its edges, which stay beside it', () => {
    const added = after([
      { type: 'place', lane: 'l', at: 'end', overlap: 0, segment: segmentOf(walk, { id: 'n' }) },
    ]);
    expect(both(added)).toEqual([
      'a[0,90) b[82,122) c[114,174) n[174,205)',
      'a[0,90) b[82,162) c[154,214) n[214,245)',
    ]);
    expect(scopeOf(added, 'plain')).toEqual([86, 118]);
  });

  it('shows in all also where it puts something down between what differs and what follows', () => {
    const place = (at: number): Edit => ({
      type: 'place',
      lane: 'l',
      at,
      segment: segmentOf(walk, { id: 'n' }),
    });
    const behind = after([place(110)]);
    expect(behind.lanes.l?.segments).toEqual(['a', 'b', 'n', 'c']);
    expect(version(behind, 'slow').lanes.l?.segments).toEqual(['a', 'b', 'n', 'c']);
    const b = behind.segments.b!.start;
    expect(scopeOf(behind, 'plain')?.[0]).toBe(86);
    expect(scopeOf(behind, 'plain')![1]).toBeLessThanOrEqual(b + 40);
    const before = after([place(40)]);
    expect(version(before, 'slow').lanes.l?.segments).toEqual(['a', 'n', 'b', 'c']);
    const moved = before.segments.b!.start - 82;
    expect(scopeOf(before, 'plain')![1]).toBe(118 + moved);
  });

  it('cannot be carried out in one that lacks what it is about, and leaves that one as it is', () => {
    const without = after([
      { type: 'swap alternate', alternate: 'slow' },
      { type: 'change alternate', alternate: 'slow', values: { scope: null } },
      { type: 'remove', segment: 'c', close: true },
      { type: 'swap alternate', alternate: 'plain' },
    ]);
    const changed = after([{ type: 'change', segment: 'c', values: { mirror: true } }], without);
    expect(both(changed)).toEqual(['a[0,90) b[82,122) c[114,174)', 'a[0,90) b[82,162)']);
  });

  it('of what is nobody’s and of all clips is shared also where the whole scene may differ', () => {
    const whole = after([{ type: 'change alternate', alternate: 'plain', values: { scope: null } }]);
    const steps: Edit = { type: 'steps', clip: 'walk', joint: 'leftFoot', spans: [[3, 9]] };
    const now = after([steps, { type: 'rate', rate: 60, keep: 'seconds' }], whole);
    expect(version(now, 'slow').steps).toEqual({ walk: { leftFoot: [[3, 9]] } });
    expect(both(now)[1]).toBe('a[0,180) b[164,324) c[308,428)');
    expect(
      after([{ type: 'lead-in', character: 'c', frames: 10 }], whole).alternates.slow?.differences,
    ).toContainEqual(expect.objectContaining({ path: ['characters', 'c', 'leadIn'], value: 0 }));
  });

  it('of a marker or a sound is shared where the scope is one of somebody, and not where it is one of all', () => {
    const mark: Edit = { type: 'marker', marker: { ...PLAIN_MARKER, id: 'q', name: 'look', frame: 100 } };
    expect(version(after([mark]), 'slow').markers).toHaveLength(1);
    const all: Edit = {
      type: 'change alternate',
      alternate: 'plain',
      values: { scope: { from: 86, to: 118, characters: null } },
    };
    expect(version(after([all, mark]), 'slow').markers).toHaveLength(0);
    const later: Edit = { ...mark, marker: { ...mark.marker, frame: 118 } };
    expect(version(after([all, later]), 'slow').markers).toHaveLength(1);
  });
});

describe('an edit of what may differ', () => {
  it('is the own one of the alternate in hand, whose scope follows it', () => {
    const longer = after([{ type: 'change', segment: 'b', values: { speed: 0.8 } }]);
    expect(both(longer)).toEqual(['a[0,90) b[82,132) c[124,184)', 'a[0,90) b[82,162) c[154,214)']);
    expect(scopeOf(longer, 'plain')).toEqual([86, 128]);
    const parted = after([{ type: 'cut', segment: 'b', frame: 100, id: 'n' }], longer);
    expect(version(parted, 'slow').segments.n).toBeUndefined();
    expect(scopeOf(parted, 'plain')).toEqual([86, 128]);
    const replaced = after(
      [{ type: 'replace', segment: 'n', by: { clip: 'slow', name: 'other', loop: false } }],
      parted,
    );
    expect(both(replaced)[1]).toBe('a[0,90) b[82,162) c[154,214)');
    expect(slow.id).toBe('slow');
  });

  it('is of both segments that meet, where it is one of their seam', () => {
    const seam: Edit = { type: 'seam', segment: 'c', values: { fit: 'hips' } };
    expect(version(after([seam]), 'slow').segments.c?.seam.fit).not.toBe('hips');
    const before: Edit = { type: 'seam', segment: 'f', values: { fit: 'hips' } };
    expect(version(after([before]), 'slow').segments.f?.seam.fit).toBe('hips');
  });

  it('adds a layer to the alternate in hand alone, and changes one that all have in all of them', () => {
    const layer = { ...PLAIN_LAYER, id: 'hand', name: 'hand', character: 'c' };
    const everywhere = after([{ type: 'add layer', layer }], two);
    expect(version(after([{ type: 'add layer', layer }]), 'slow').lanes.hand).toBeUndefined();
    const given = { ...everywhere, ...alternated };
    const weighed: Edit = { type: 'change layer', layer: 'hand', values: { name: 'right hand' } };
    expect(version(after([weighed], given), 'slow').lanes.hand).toMatchObject({ name: 'right hand' });
    const keyed = (frame: number): Edit => ({
      type: 'key',
      layer: 'hand',
      joint: 'leftHand',
      key: { frame, rotation: [0, 0, 0, 1], curve: 'smooth', tangent: null, into: null },
    });
    const layerOf = (edits: Edit[]): unknown => version(after(edits, given), 'slow').lanes.hand;
    expect(layerOf([keyed(100)])).toMatchObject({ keys: {} });
    expect(layerOf([keyed(40)])).toMatchObject({ keys: { leftHand: [{ frame: 40 }] } });
  });

  it('of another alternate is left to that one where it differs there already', () => {
    const third = after([
      {
        type: 'alternate',
        alternate: 'third',
        name: 'Third',
        scope: { from: 30, to: 60, characters: ['d'] },
        kept: null,
      },
      { type: 'change', segment: 'b', values: { lift: 0.1 } },
    ]);
    expect(version(third, 'plain').segments.b?.lift).toBe(0.1);
    expect(version(third, 'slow').segments.b?.lift).toBe(0);
  });

  it('is shared where another differs beside its scope, as it does by joins that were chosen there', () => {
    const { plain, slow } = alternated.alternates;
    const lifted = { op: 'replace', path: ['segments', 'c', 'lift'], value: 0.3 } as const;
    const differing = { ...slow!, differences: [...slow!.differences!, lifted] };
    const given: Scene = { ...two, ...alternated, alternates: { plain: plain!, slow: differing } };
    const mirrored = after([{ type: 'change', segment: 'c', values: { mirror: true } }], given);
    expect(version(mirrored, 'slow').segments.c).toMatchObject({ mirror: true, lift: 0.3 });
  });

  it('is carried out in all of them where that is asked for', () => {
    const change: Edit = { type: 'change', segment: 'b', values: { lift: 0.1 } };
    expect(version(after([change]), 'slow').segments.b?.lift).toBe(0);
    const all = after([change], scene, { alternates: 'all' });
    expect(version(all, 'slow').segments.b).toMatchObject({ lift: 0.1, speed: 0.5 });
    const mixed: Edit = {
      type: 'several',
      label: 'both',
      edits: [change, { type: 'change', segment: 'a', values: { lift: 0.2 } }],
    };
    const { segments } = version(after([mixed]), 'slow');
    expect([segments.a?.lift, segments.b?.lift]).toEqual([0.2, 0]);
  });
});

describe('merging an alternate back', () => {
  it('makes the scene in hand the very alternate, but for its name', () => {
    const now = after([
      { type: 'change', segment: 'a', values: { repeat: 2 } },
      { type: 'change', segment: 'b', values: { lift: 0.1 } },
      { type: 'alternate', alternate: 'third', name: 'Third', scope: null, kept: null },
    ]);
    const wanted = version(now, 'slow');
    const merged = after([{ type: 'merge alternate', alternate: 'slow' }], now);
    expect(withoutAlternates(merged)).toEqual(wanted);
    expect(alternateInHand(merged)?.name).toBe('Third');
    expect(version(merged, 'plain')).toEqual(version(now, 'plain'));
    expect(merged.alternateOrder).toEqual(['plain', 'third']);
  });

  it('takes what may differ in it alone: what is one’s own in the scene in hand stays', () => {
    const third = after([
      {
        type: 'alternate',
        alternate: 'third',
        name: 'Third',
        scope: { from: 0, to: 86, characters: ['c'] },
        kept: null,
      },
      { type: 'change', segment: 'a', values: { repeat: 2 } },
    ]);
    expect(both(third)).toEqual(['a[0,60) b[52,92) c[84,144)', 'a[0,90) b[82,162) c[154,214)']);
    const merged = after([{ type: 'merge alternate', alternate: 'slow' }], third);
    // Beat b of the one, at the end of beat a of the other.
    expect(both(merged, 'plain')).toEqual(['a[0,60) b[52,132) c[124,184)', 'a[0,90) b[82,122) c[114,174)']);
    expect(merged.segments.a).toEqual(third.segments.a);
    expect(merged.alternateOrder).toEqual(['plain', 'third']);
    expect(scopeOf(merged, 'third')).toEqual([0, 56]);
  });

  it('takes layers, tethers and all else that lies there, and takes away what does not', () => {
    const layer = (id: string, span: [number, number]): LayerLane => ({
      ...PLAIN_LAYER,
      id,
      name: id,
      character: 'c',
      segments: [],
      span: { start: span[0], end: span[1], fadeIn: 0, fadeOut: 0 },
    });
    const held = { ...PLAIN_HOLD, id: 't', name: 't', child: 'd', parent: 'c', start: 90, end: 100 };
    const own: Scene = {
      ...two,
      lanes: { ...two.lanes, mine: layer('mine', [90, 110]), early: layer('early', [10, 30]) },
      laneOrder: ['l', 'mine', 'early', 'm', 'y'],
      markers: [{ ...PLAIN_MARKER, id: 'p', name: 'mine', frame: 95 }],
    };
    const wanted: Scene = {
      ...two,
      lanes: { ...two.lanes, theirs: layer('theirs', [95, 105]), early: layer('early', [10, 30]) },
      laneOrder: ['l', 'theirs', 'early', 'm', 'y'],
      tethers: { t: held },
    };
    const scope = { from: 86, to: 118, characters: null };
    const merged = takeScope({ scene: own, scope }, { scene: wanted, scope }, library);
    expect(merged).toEqual({ ...wanted, laneOrder: ['l', 'early', 'theirs', 'm', 'y'] });
    const keeper = { ...scope, characters: ['c'] };
    const some = takeScope({ scene: own, scope: keeper }, { scene: wanted, scope: keeper }, library);
    expect([Object.keys(some.lanes).sort(), some.markers.length]).toEqual([
      ['early', 'l', 'm', 'theirs', 'y'],
      1,
    ]);
  });

  it('is refused where what is next to it is not there, and says what', () => {
    const without = after([
      { type: 'change alternate', alternate: 'plain', values: { scope: null } },
      { type: 'remove', segment: 'c', close: false },
    ]);
    expect(() => after([{ type: 'merge alternate', alternate: 'slow' }], without)).toThrow(
      /walk is elsewhere in the scene in hand/,
    );
  });

  it('gives the very alternate after any edits that reach both, or is refused', () => {
    let merges = 0;
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 4 }), (edits) => {
        const now = edits.reduce(tried, scene);
        const other = version(now, 'slow');
        let merged: Scene;
        try {
          merged = after([{ type: 'merge alternate', alternate: 'slow' }], now);
        } catch (error) {
          expect(error).toBeInstanceOf(InputError);
          return;
        }
        expect(parseScene(JSON.parse(JSON.stringify(merged)))).toEqual(merged);
        // Taken into itself, nothing changes.
        const { scope } = now.alternates.slow!;
        expect(takeScope({ scene: other, scope }, { scene: other, scope }, library)).toEqual(other);
        merges++;
      }),
      { numRuns: 300 },
    );
    expect(merges).toBeGreaterThan(100);
  });

  it('is refused for the one in hand, which is not thrown away either', () => {
    expect(() => after([{ type: 'merge alternate', alternate: 'plain' }])).toThrow(/Plain is in hand/);
    expect(() => after([{ type: 'remove alternate', alternate: 'plain' }])).toThrow(/Plain is in hand/);
    expect(() => after([{ type: 'swap alternate', alternate: 'plain' }])).toThrow(/in hand already/);
  });
});

describe('a new alternate', () => {
  it('keeps the scene in hand under a name, and is the one in hand from then on', () => {
    const first: Edit = {
      type: 'alternate',
      alternate: 'n',
      name: 'Hand over the eyes',
      scope: null,
      kept: { id: 'k', name: 'Over the rail' },
    };
    const now = after([first], two);
    expect(now.alternateOrder).toEqual(['k', 'n']);
    expect(alternateInHand(now)?.id).toBe('n');
    expect(version(now, 'k')).toEqual(two);
    expect(() => after([{ ...first, kept: null }], two)).toThrow(/no name to be kept under/);
    expect(() => after([{ ...first, alternate: 'k' }], two)).toThrow(/no name/);
  });

  it('is one of twelve at most', () => {
    const more = (i: number): Edit => ({
      type: 'alternate',
      alternate: `x${i}`,
      name: `${i}`,
      scope: null,
      kept: null,
    });
    const full = after(Array.from({ length: 10 }, (_, i) => more(i)));
    expect(full.alternateOrder).toHaveLength(12);
    expect(() => after([more(11)], full)).toThrow(/12 alternates at most/);
  });
});
