import { describe, expect, it } from '@jest/globals';
import { PLAIN_LAYER } from '../../scene/lane';
import { PLAIN_MARKER } from '../../scene/marker';
import type { Scene } from '../../scene/scene';
import { alternated } from '../../testing/alternateExamples';
import { two, walk } from '../../testing/arranging';
import { segmentOf } from '../../testing/scenes';
import type { Edit } from '../edit';
import { scene, after, version, both, scopeOf } from '../../testing/alternated';

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
