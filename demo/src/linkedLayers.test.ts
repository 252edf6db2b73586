import { describe, expect, it } from '@jest/globals';
import type { Edit, LayerLane, PoseKey, Scene } from '@warper/core';
import {
  PLAIN_LAYER,
  applyDifferences,
  applyEdit,
  copyLayerEdit,
  defined,
  edit,
  fixedLibrary,
  linkSidesEdit,
  otherSideName,
} from '@warper/core';
import fc from 'fast-check';
import { skeletonOf } from './build';
import { KEEPER, keeperClips } from './demonstration';
import { sceneOf, segmentOf } from './testing';

const skeleton = skeletonOf(KEEPER);
const clips = keeperClips(skeleton).map((c) => c.clip);
const named = (name: string) => defined(clips.find((c) => c.name === name));
const library = fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => skeleton });

const turned: PoseKey = {
  frame: 10,
  rotation: [0.1, 0.2, 0.3, Math.sqrt(0.86)],
  curve: 'smooth',
  tangent: null,
  into: null,
};
const right: LayerLane = {
  ...PLAIN_LAYER,
  id: 'r',
  character: 'c',
  name: 'Right hand fist',
  mask: [{ bone: 'rightHand*', weight: 1 }],
  keys: { rightHand: [turned] },
};
const apply = (scene: Scene, ...edits: readonly Edit[]): Scene =>
  edits.reduce((s, e) => applyEdit(s, e, library), scene);
const base = apply(
  sceneOf([segmentOf(named('Idle'), 'a')]),
  { type: 'add layer', layer: right },
  { type: 'add layer', layer: { ...PLAIN_LAYER, id: 'l2', character: 'c', name: 'Left hand fist' } },
  { type: 'place', lane: 'r', segment: segmentOf(named('Wave'), 'w'), at: 20, exactly: true },
);
const linked = apply(base, { type: 'pair layers', layer: 'r', with: 'l2' });
const layerOf = (scene: Scene, id: string): LayerLane => scene.lanes[id] as LayerLane;
/** What a layer shows, whatever its segments are called. */
const shown = (scene: Scene, id: string): unknown => {
  const layer = { ...layerOf(scene, id), id: '', name: '', pair: null, locked: false, hidden: false };
  return [{ ...layer, segments: [] }, layer.segments.map((s) => ({ ...defined(scene.segments[s]), id: '' }))];
};
/** The same as a mirrored copy of a layer would show. */
const mirrored = (scene: Scene, id: string): unknown => {
  let count = 0;
  const target = { character: 'c', skeleton, mirrored: true, name: 'x' };
  const copy = copyLayerEdit(scene, layerOf(scene, id), skeleton, target, () => `copy${count++}`);
  return shown(applyEdit(scene, copy, library), 'copy0');
};

/** A value with its numbers rounded: keys pass through the samples of a clip on their way to the other side. */
const rounded = (value: unknown): unknown =>
  JSON.parse(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' ? Math.round(v * 1e5) / 1e5 + 0 : v)),
  );

describe('linked layers', () => {
  it('are the left and the right of one thing', () => {
    expect(layerOf(linked, 'l2')).toMatchObject({
      pair: 'r',
      name: 'Left hand fist',
      mask: [{ bone: 'leftHand*', weight: 1 }],
      segments: ['w~'],
    });
    expect(linked.segments['w~']).toMatchObject({ mirror: true, start: 20 });
    expect(shown(linked, 'l2')).toEqual(mirrored(linked, 'r'));
    expect(shown(linked, 'r')).toEqual(shown(base, 'r'));
  });

  it('follow each other through any edits, which are taken back together', () => {
    const side = fc.constantFrom('r', 'l2');
    const id = (lane: string): string => (lane === 'r' ? 'w' : 'w~');
    const anyEdit = fc.oneof(
      side.map((lane): Edit => ({ type: 'change', segment: id(lane), values: { speed: 0.8 } })),
      fc.tuple(side, fc.nat(60)).map(([lane, at]): Edit => ({ type: 'move', segment: id(lane), start: at })),
      fc
        .tuple(side, fc.integer({ min: 2, max: 20 }))
        .map(([lane, to]): Edit => ({ type: 'trim', segment: id(lane), edge: 'end', frame: 30 + to })),
      fc
        .tuple(side, fc.nat(40), fc.constantFrom('leftHand', 'rightHand', 'head'))
        .map(([layer, frame, joint]): Edit => ({ type: 'key', layer, joint, key: { ...turned, frame } })),
      fc
        .tuple(side, fc.constantFrom<LayerLane['blend']>('additive', 'override'))
        .map(([layer, blend]): Edit => ({ type: 'change layer', layer, values: { blend } })),
      side.map((layer): Edit => ({ type: 'change layer', layer, values: { weight: [[5, 0.5]] } })),
      side.map((lane): Edit => ({ type: 'change lane', lane, values: { muted: true } })),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(anyEdit, side), { minLength: 1, maxLength: 8 }), (edits) => {
        let scene = linked;
        const back = [];
        for (const [change] of edits) {
          const done = edit(scene, change, library);
          back.unshift(done.inverse);
          scene = done.scene;
        }
        expect(rounded(shown(scene, 'l2'))).toEqual(rounded(mirrored(scene, 'r')));
        expect(layerOf(scene, 'l2').name).toBe('Left hand fist');
        for (const inverse of back) scene = applyDifferences(scene, inverse);
        expect(scene).toEqual(linked);
      }),
      { numRuns: 60 },
    );
  });

  it('are found by their masks, or made, unless they take both sides', () => {
    const link = (scene: Scene, id: string): Scene => {
      const layer = layerOf(scene, id);
      return applyEdit(
        scene,
        linkSidesEdit(scene, layer, skeleton, () => `new${count++}`),
        library,
      );
    };
    let count = 0;
    const made = link(base, 'r');
    expect(layerOf(made, 'new0')).toMatchObject({ pair: 'r', name: 'Left hand fist', segments: ['w~'] });
    expect(Object.keys(made.segments).sort()).toEqual(['a', 'w', 'w~']);
    const values = { mask: [{ bone: 'leftHand*', weight: 1 }] };
    const masked = apply(base, { type: 'change layer', layer: 'l2', values });
    expect(link(masked, 'r')).toEqual(linked);
    const both = { mask: ['leftHand*', 'rightHand*'].map((bone) => ({ bone, weight: 1 })) };
    const wide = apply(base, { type: 'change layer', layer: 'r', values: both });
    expect(() => link(wide, 'r')).toThrow('Right hand fist takes both sides alike.');
  });

  it('are apart again once they are parted, or one is gone', () => {
    const parted = apply(linked, { type: 'pair layers', layer: 'l2', with: null });
    expect([layerOf(parted, 'r').pair, layerOf(parted, 'l2').pair]).toEqual([null, null]);
    const moved = apply(parted, { type: 'move', segment: 'w', start: 40 });
    expect([moved.segments.w?.start, moved.segments['w~']?.start]).toEqual([40, 20]);
    const alone = apply(linked, { type: 'remove layer', layer: 'r' });
    expect(layerOf(alone, 'l2')).toMatchObject({ pair: null, segments: ['w~'] });
  });

  it('take no id that another layer has, whatever they were linked with before', () => {
    const third = { ...PLAIN_LAYER, id: 'l3', character: 'c', name: 'Third' };
    const again = apply(
      linked,
      { type: 'pair layers', layer: 'r', with: null },
      { type: 'add layer', layer: third },
      { type: 'pair layers', layer: 'r', with: 'l3' },
      { type: 'move', segment: 'w', start: 40 },
    );
    expect([layerOf(again, 'l2').segments, layerOf(again, 'l3').segments]).toEqual([['w~'], ['w~~']]);
    expect([again.segments['w~']?.start, again.segments['w~~']?.start]).toEqual([20, 40]);
    const back = apply(again, { type: 'move', segment: 'w~~', start: 50 });
    expect([back.segments.w?.start, back.segments['w~']?.start]).toEqual([50, 20]);
    expect(layerOf(back, 'r').segments).toEqual(['w']);
    // Two of one stem on one layer have a counterpart each.
    const both = apply(
      back,
      { type: 'pair layers', layer: 'r', with: null },
      { type: 'move', segment: 'w~~', start: 300, lane: 'r' },
      { type: 'pair layers', layer: 'r', with: 'l3' },
    );
    const ids = [...layerOf(both, 'r').segments, ...layerOf(both, 'l3').segments];
    expect([ids.length, new Set([...ids, 'w~']).size]).toEqual([4, 5]);
    expect(ids.filter((id) => both.segments[id] === undefined)).toEqual([]);
  });

  it('refuse what a locked other side would have to follow, and links that cannot be', () => {
    const locked = apply(linked, { type: 'change lane', lane: 'l2', values: { locked: true } });
    expect(() => apply(locked, { type: 'move', segment: 'w', start: 40 })).toThrow(
      'The lane Left hand fist is locked.',
    );
    for (const [segment, lane] of [
      ['w', 'l2'],
      ['w~', 'r'],
    ] as const)
      expect(() => apply(linked, { type: 'move', segment, start: 60, lane })).toThrow(/the two are linked/);
    expect(() => apply(linked, { type: 'pair layers', layer: 'r', with: 'r' })).toThrow(/cannot be linked/);
    expect(() => apply(linked, { type: 'pair layers', layer: 'r', with: 'none' })).toThrow(/no layer none/);
    const bodiless = fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => undefined });
    expect(() => edit(linked, { type: 'move', segment: 'w', start: 40 }, bodiless)).toThrow(
      /has no other side/,
    );
  });

  it.each([
    ['Right hand fist', 'Left hand fist'],
    ['wave, left', 'wave, right'],
    ['Nod', 'Nod mirrored'],
  ])('%s is called %s on the other side', (name, other) => {
    expect(otherSideName(name)).toBe(other);
  });
});
