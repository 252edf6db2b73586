import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import type { LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { library, two } from '../testing/arranging';
import { stagedLibrary, stagedScene } from '../testing/staged';
import { applyEdit } from './edit';
import type { Push } from './pushEdit';
import { pushEdit } from './pushEdit';

const push: Push = {
  character: 'c',
  by: 'd',
  frame: 100,
  frames: 12,
  distance: 0.3,
  heading: null,
  ids: { marker: 'm1', layer: 'push', door: 'swing' },
};

const rootOf = (scene: Scene, character: string, frame: number): number[] => {
  const plan = compile(scene, library).characters.find((c) => c.character.id === character)!;
  return [...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root];
};

const pushed = (values: Partial<Push> = {}): Scene =>
  applyEdit(two, pushEdit(compile(two, library), { ...push, ...values }), library);

describe('a push', () => {
  it('takes somebody so far away from who pushes, and leaves them there', () => {
    const scene = pushed();
    const [before, other] = [rootOf(two, 'c', 100), rootOf(two, 'd', 100)] as [number[], number[]];
    const away = Math.atan2(before[0]! - other[0]!, before[1]! - other[1]!);
    for (const frame of [112, 125, 160]) {
      const [was, is] = [rootOf(two, 'c', frame), rootOf(scene, 'c', frame)] as [number[], number[]];
      const [x, z] = [is[0]! - was[0]!, is[1]! - was[1]!];
      expect(Math.hypot(x, z)).toBeCloseTo(0.3, 6);
      expect(Math.atan2(x, z)).toBeCloseTo(away, 6);
    }
    expect(rootOf(scene, 'c', 99)).toEqual(rootOf(two, 'c', 99));
    expect(scene.markers).toEqual([
      { id: 'm1', name: 'Visitor hits Keeper', frame: 100, end: null, impact: ['d', 'c'] },
    ]);
  });

  it('slows down evenly: half the time, three quarters of the way', () => {
    const scene = pushed({ heading: 90 });
    const way = (frame: number): number => rootOf(scene, 'c', frame)[0]! - rootOf(two, 'c', frame)[0]!;
    expect(way(106)).toBeCloseTo(0.225, 6);
    expect(way(112)).toBeCloseTo(0.3, 6);
  });

  it('swings the leaf of a door against who stands before it, and follows', () => {
    const scene = stagedScene();
    const door: Scene = {
      ...scene,
      characters: {
        ...scene.characters,
        p: {
          ...scene.characters.p!,
          name: 'Door',
          start: { x: 0, z: 0, heading: 0 },
          prop: { shape: 'door', size: [0.9, 2, 0.05], colour: '#6d4c33', raised: 0 },
        },
      },
    };
    const plan = compile(door, stagedLibrary);
    const made = pushEdit(plan, { ...push, by: 'p' });
    // The crate of this scene has no leaf: nothing swings.
    expect(applyEdit(door, made, stagedLibrary).lanes.swing).toBeUndefined();
    const withLeaf = {
      ...plan,
      characters: plan.characters.map((c) =>
        c.character.id === 'p'
          ? {
              ...c,
              skeleton: {
                ...c.skeleton,
                names: ['frame', 'leaf'],
                restTranslations: Float64Array.of(0, 0, 0, 0.45, 0, 0),
              },
            }
          : c,
      ),
    };
    const edits = pushEdit(withLeaf, { ...push, by: 'p', frame: 20 });
    const layer = (edits as unknown as { edits: { layer?: LayerLane }[] }).edits.find(
      (e) => e.layer?.id === 'swing',
    )?.layer;
    const keys = layer?.keys.leaf ?? [];
    expect(keys.map((k) => k.frame)).toEqual([8, 20, 32]);
    const angles = keys.map((k) => 2 * Math.asin(k.rotation[1]));
    expect(angles[0]).toBe(0);
    expect(Math.abs(angles[1]!)).toBeGreaterThan(0.2);
    expect(Math.abs(angles[2]!)).toBeGreaterThan(Math.abs(angles[1]!));
  });

  it('is refused for nobody', () => {
    expect(() => pushed({ character: 'zz' })).toThrow(/nobody of that name/);
  });
});
