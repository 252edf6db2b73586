import { describe, expect, it } from '@jest/globals';
import type { RoleMap } from '@warper/core';
import { chooseRoles, makeSkeleton, roleWords } from '@warper/core';
import { boneRows, giveRole, restingBones } from './boneRows';

const names = ['Hips', 'LeftUpLeg', 'LeftLeg', 'LeftFoot', 'RightUpLeg', 'RightLeg', 'RightFoot', 'Lamp'];
const parents = [-1, 0, 1, 2, 0, 4, 5, 0];
const places = [0, 1, 0, 0.1, 0, 0, 0, -0.4, 0, 0, -0.4, 0, -0.1, 0, 0, 0, -0.4, 0, 0, -0.4, 0, 0, 0.5, 0];
const skeleton = (own: RoleMap = {}, called = names) =>
  makeSkeleton({
    names: called,
    parents,
    restTranslations: places,
    roles: chooseRoles(called, parents, own),
  });
const target = skeleton();

describe('the bones of a mapping', () => {
  it('are mapped by role, and else by name', () => {
    const rows = boneRows(skeleton(), target, {});
    expect(rows.map((r) => r.state)).toEqual(names.map(() => 'mapped'));
    expect(rows.map((r) => r.partner)).toEqual(names.map((_, i) => i));
    expect(rows[7]).toMatchObject({ role: null, byHand: false });
  });

  it('tell what is not mapped, what is doubtful, and what rests', () => {
    const own: RoleMap = { LeftUpLeg: 'rightUpperLeg', RightUpLeg: 'leftUpperLeg', Bulb: 'head' };
    const source = skeleton(own, [...names.slice(0, 7), 'Bulb']);
    const rows = boneRows(source, target, own);
    expect(rows[7]).toMatchObject({ role: 'head', byHand: true, partner: -1, state: 'unmapped' });
    expect(rows[1]).toMatchObject({ state: 'doubtful', partner: 4 });
    expect(rows[1]!.doubt).toMatch(/other side/);
    expect(restingBones(source, target)).toEqual(['Lamp']);
  });

  it('lose a role to the one that it is given to', () => {
    const own = giveRole({}, target, 'Lamp', 'leftFoot');
    expect(own).toEqual({ Lamp: 'leftFoot', LeftFoot: null });
    expect(chooseRoles(names, parents, own)[7]).toBe('leftFoot');
    expect(giveRole(own, skeleton(own), 'LeftFoot', 'leftFoot')).toEqual({
      Lamp: null,
      LeftFoot: 'leftFoot',
    });
  });

  it('are called by words', () => {
    expect(roleWords('leftIndexProximal')).toBe('left index proximal');
  });
});
