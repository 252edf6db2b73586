import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { InputError } from '../../math/errors';
import type { LayerLane } from '../../scene/lane';
import { PLAIN_LAYER } from '../../scene/lane';
import { parseScene } from '../../scene/schema';
import { PLAIN_HOLD } from '../../scene/tether';
import { PLAIN_MARKER } from '../../scene/marker';
import type { Scene } from '../../scene/scene';
import { alternateInHand, withoutAlternates } from '../../scene/versions';
import { anyEdit, library, two } from '../../testing/arranging';
import { takeScope } from './takeScope';
import { scene, after, version, both, scopeOf, tried } from '../../testing/alternated';

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
