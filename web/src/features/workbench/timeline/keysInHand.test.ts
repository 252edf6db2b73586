import { describe, expect, it } from '@jest/globals';
import type { LayerLane, ValueKey } from '@warper/core';
import { PLAIN_LAYER } from '@warper/core';
import { KEY_ROW } from './geometry';
import {
  allKeys,
  chosenOf,
  keptChosen,
  keysInBox,
  later,
  movedKeys,
  scaledKeys,
  toggled,
} from './keysInHand';

const key = (frame: number): ValueKey => ({ frame, value: 1, curve: 'flat', tangent: null, into: null });
const layer: LayerLane = {
  ...PLAIN_LAYER,
  id: 'y',
  character: 'c',
  name: 'bow',
  rootKeys: { up: [key(10), key(30)] },
  dialKeys: { lean: [key(10)], crouch: [key(50)] },
};
const all = allKeys(layer);

describe('the keys in hand of a layer', () => {
  it('are kept as plain lists, of one layer', () => {
    const kept = keptChosen('y', all);
    expect(kept).toEqual({
      layer: 'y',
      lists: { 'rootKeys up': [10, 30], 'dialKeys lean': [10], 'dialKeys crouch': [50] },
    });
    expect(chosenOf(kept, 'y')).toEqual(all);
    expect(chosenOf(kept, 'z').size).toBe(0);
    expect(keptChosen('y', new Map([['rootKeys up', new Set<number>()]]))).toBeNull();
  });

  it('are taken and let go one by one', () => {
    const less = toggled(all, 'rootKeys up', 30);
    expect([...(less.get('rootKeys up') ?? [])]).toEqual([10]);
    expect(toggled(less, 'rootKeys up', 30).get('rootKeys up')).toEqual(all.get('rootKeys up'));
  });

  it('are those that a box touches, beside those chosen before', () => {
    const ppf = 2;
    const rows = (from: number, to: number) => [from * KEY_ROW + 2, to * KEY_ROW - 2] as const;
    const [top, bottom] = rows(0, 2);
    expect(keysInBox(layer, new Map(), [40, bottom], [0, top], ppf)).toEqual(
      new Map([
        ['rootKeys up', new Set([10])],
        ['dialKeys lean', new Set([10])],
      ]),
    );
    const before = new Map([['dialKeys crouch', new Set([50])]]);
    expect(keysInBox(layer, before, [0, 2], [100, 5], ppf)).toEqual(before);
    expect(keysInBox(layer, before, [0, 2], [100, KEY_ROW - 2], ppf)).toEqual(
      new Map([...before, ['rootKeys up', new Set([10, 30])]]),
    );
  });

  it('stay in hand where they come to stand', () => {
    expect(movedKeys(layer, all, 7).chosen).toEqual(later(all, 7));
    expect(movedKeys(layer, all, 0).edit).toBeNull();
    expect(scaledKeys(layer, all, 2)).toMatchObject({
      edit: { type: 'layer keys', label: 'scaling of keys' },
      chosen: new Map([
        ['rootKeys up', new Set([10, 50])],
        ['dialKeys lean', new Set([10])],
        ['dialKeys crouch', new Set([90])],
      ]),
    });
  });
});
