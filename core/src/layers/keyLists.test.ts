import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { PoseKey, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import type { ChosenFrames } from './keyLists';
import {
  chosenSpan,
  copyListKeys,
  keyFrames,
  keyListsOf,
  moveListKeys,
  pasteListKeys,
  removeListKeys,
  scaleListKeys,
} from './keyLists';

const value = (frame: number, at = frame): ValueKey => ({
  frame,
  value: at,
  curve: 'free',
  tangent: 0.5,
  into: null,
});
const pose = (frame: number): PoseKey => ({
  frame,
  rotation: [0, 0, 0, 1],
  curve: 'free',
  tangent: [0.2, 0, 0.4],
  into: null,
});
const layer: LayerLane = {
  ...PLAIN_LAYER,
  id: 'y',
  character: 'c',
  name: 'wave',
  keys: { head: [pose(4), pose(20)], spine: [pose(4)] },
  rootKeys: { forward: [value(9), value(20)], up: [] },
  dialKeys: { lean: [value(9)] },
};
const chosen = (lists: Record<string, readonly number[]>): ChosenFrames =>
  new Map(Object.entries(lists).map(([id, frames]) => [id, new Set(frames)]));
const framesOf = (of: LayerLane): Record<string, number[]> =>
  Object.fromEntries(keyListsOf(of).map(({ id, keys }) => [id, keys.map((k) => k.frame)]));

describe('the lists of keys of a layer', () => {
  it('are those of the root, of dials and of joints that have any', () => {
    expect(framesOf(layer)).toEqual({
      'rootKeys forward': [9, 20],
      'dialKeys lean': [9],
      'keys head': [4, 20],
      'keys spine': [4],
    });
    expect(keyFrames(layer)).toEqual([4, 9, 20]);
    expect(chosenSpan(new Map())).toBeNull();
  });

  it('have chosen keys moved, those on which they come to stand giving way', () => {
    const moved = moveListKeys(layer, chosen({ 'rootKeys forward': [9], 'keys head': [4] }), 11);
    expect(framesOf(moved)).toEqual({ ...framesOf(layer), 'rootKeys forward': [20], 'keys head': [15, 20] });
    expect(moved.rootKeys.forward).toEqual([value(20, 9)]);
    expect(moved.dialKeys).toBe(layer.dialKeys);
  });

  it('lose chosen keys, and with the last one the list', () => {
    const left = removeListKeys(layer, chosen({ 'dialKeys lean': [9], 'keys head': [20] }));
    expect(framesOf(left)).toEqual({ 'rootKeys forward': [9, 20], 'keys head': [4], 'keys spine': [4] });
    expect(left.dialKeys).toEqual({});
  });

  it('are drawn out in time from the first of all chosen keys, slopes with them', () => {
    const all = chosen({ 'rootKeys forward': [9, 20], 'keys head': [4] });
    const { layer: out, chosen: now } = scaleListKeys(layer, all, 2);
    expect(framesOf(out)).toMatchObject({ 'rootKeys forward': [14, 36], 'keys head': [4, 20] });
    expect(out.rootKeys.forward?.[1]).toMatchObject({ value: 20, tangent: 0.25 });
    expect(out.keys.head?.[0]).toMatchObject({ tangent: [0.1, 0, 0.2] });
    expect(now).toEqual(chosen({ 'rootKeys forward': [14, 36], 'keys head': [4] }));
  });

  it('are copied and put in at a frame, in another layer as well', () => {
    const copied = copyListKeys(layer, chosen({ 'rootKeys forward': [20], 'keys head': [4] }));
    const { layer: pasted, chosen: now } = pasteListKeys({ ...layer, keys: {} }, copied, 100.4);
    expect(framesOf(pasted)).toEqual({
      'rootKeys forward': [9, 20, 116],
      'dialKeys lean': [9],
      'keys head': [100],
    });
    expect(now).toEqual(chosen({ 'rootKeys forward': [116], 'keys head': [100] }));
  });

  it('moved there and back over free frames are as they were', () => {
    fc.assert(
      fc.property(fc.integer({ min: -60, max: 60 }), fc.integer({ min: 1, max: 4 }), (by, factor) => {
        const all = chosen(framesOf(layer));
        const moved = moveListKeys(layer, all, by);
        const back = chosen(framesOf(moved));
        expect(moveListKeys(moved, back, -by)).toEqual(layer);
        const scaled = scaleListKeys(layer, all, factor);
        expect(keyFrames(scaleListKeys(scaled.layer, scaled.chosen, 1 / factor).layer)).toEqual(
          keyFrames(layer),
        );
      }),
    );
  });
});
