import { describe, expect, it } from '@jest/globals';
import { compile } from '../compile/compile';
import { applyEdit, edit } from './edit';
import { parseScene } from '../scene/schema';
import type { Tether } from '../scene/tether';
import { PLAIN_REACH } from '../scene/tether';
import { alone } from '../testing/heldPlaces';
import { holdOf, jointAt, stagedLibrary, stagedScene } from '../testing/staged';

describe('tethers of a scene', () => {
  it('are refused where they would close a ring, with the names in it', () => {
    const scene = stagedScene(holdOf({ child: 'v', parent: 'c' }));
    const back = holdOf({ id: 'u', child: 'c', parent: 'p' });
    const one = applyEdit(scene, { type: 'tether', tether: back }, stagedLibrary);
    const closing = holdOf({ id: 'w', child: 'p', parent: 'v' });
    expect(() => edit(one, { type: 'tether', tether: closing }, stagedLibrary)).toThrow(
      /Visitor would be held by Keeper would be held by Crate would be held by Visitor|Keeper would be held by Crate would be held by Visitor would be held by Keeper/,
    );
    expect(() => parseScene({ ...one, tethers: { ...one.tethers, w: closing } })).toThrow(/ring of tethers/);
    const self = holdOf({ id: 'w', child: 'v', parent: 'v' });
    expect(() => edit(one, { type: 'tether', tether: self }, stagedLibrary)).toThrow(
      /cannot hold themselves/,
    );
    expect(() => parseScene({ ...one, tethers: { w: self } })).toThrow(/to itself/);
    // A reach closes none.
    const reaching: Tether = {
      ...PLAIN_REACH,
      id: 'r',
      name: 'r',
      child: 'c',
      parent: 'v',
      start: 0,
      limb: 'leftHand',
    };
    expect(() =>
      compile(applyEdit(one, { type: 'tether', tether: reaching }, stagedLibrary), stagedLibrary),
    ).not.toThrow();
  });

  it('go with whoever is removed, and keep their seconds when the rate changes', () => {
    const scene = stagedScene(holdOf(), holdOf({ id: 'u', child: 'b', parent: 'p' }));
    const gone = applyEdit(scene, { type: 'remove character', character: 'p' }, stagedLibrary);
    expect(gone.tethers).toEqual({});
    const fast = applyEdit(scene, { type: 'rate', rate: 60, keep: 'seconds' }, stagedLibrary);
    expect(fast.tethers.t).toMatchObject({ start: 40, end: 120 });
  });

  it('let a prop be there as long as the scene', () => {
    expect([alone.p!.start, alone.p!.end]).toEqual([0, 90]);
    expect(jointAt(alone.p!, 'crate', 50).slice(0, 3)).toEqual([0.5, 0.8, 0.3]);
  });
});
