import { describe, expect, it } from '@jest/globals';
import type { Tether } from '@warper/core';
import { PLAIN_HOLD, PLAIN_REACH } from '@warper/core';
import { tetherTracks, trackCount } from './tetherTracks';

const hold = (id: string, start: number, end: number | null, child = 'p'): Tether => ({
  ...PLAIN_HOLD,
  id,
  name: id,
  child,
  parent: 'c',
  start,
  end,
});

describe('the ribbons of tethers', () => {
  const tethers = {
    c: hold('c', 44, 90),
    a: hold('a', 10, 50),
    b: hold('b', 50, null),
    d: hold('d', 0, 20, 'v'),
    e: { ...PLAIN_REACH, id: 'e', name: 'e', child: 'p', parent: 'c', start: 60, end: 70, limb: 'leftHand' },
  } satisfies Record<string, Tether>;

  it('lie one below the other where they overlap, and side by side where they follow each other', () => {
    expect(tetherTracks(tethers, 'p').map(({ tether, track }) => [tether.id, track])).toEqual([
      ['a', 0],
      ['c', 1],
      ['b', 0],
      ['e', 2],
    ]);
    expect([trackCount(tethers, 'p'), trackCount(tethers, 'v'), trackCount(tethers, 'c')]).toEqual([3, 1, 0]);
  });
});
