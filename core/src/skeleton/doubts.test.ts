import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { figureSkeleton } from '../testing/figure';
import { findDoubts } from './doubts';
import type { Role } from './roles';
import type { Skeleton } from './skeleton';
import { makeSkeleton } from './skeleton';
import { evenly } from '../testing/evenly';

const figure = figureSkeleton();

const withRoles = (change: (role: Role | null) => Role | null): Skeleton =>
  makeSkeleton({ ...figure, parents: [...figure.parents], roles: figure.roles.map(change) });

const swap = (role: Role | null): Role | null =>
  role &&
  ((role.startsWith('left')
    ? `right${role.slice(4)}`
    : role.startsWith('right')
      ? `left${role.slice(5)}`
      : role) as Role);

const rolesOf = (skeleton: Skeleton): string[] => findDoubts(skeleton).map((d) => skeleton.roles[d.joint]!);

describe('what speaks against roles', () => {
  it('is nothing where they are right, whichever way the body faces and however large it is', () => {
    fc.assert(
      fc.property(evenly(-3, 3), evenly(0.1, 9), (turn, size) => {
        const [s, c] = [Math.sin(turn), Math.cos(turn)];
        const translations = figure.restTranslations.slice();
        for (let i = 0; i < translations.length; i += 3) {
          const [x, y, z] = [translations[i]!, translations[i + 1]!, translations[i + 2]!];
          translations.set([size * (c * x + s * z), size * y, size * (c * z - s * x)], i);
        }
        const turned = makeSkeleton({
          ...figure,
          parents: [...figure.parents],
          restTranslations: translations,
        });
        expect(findDoubts(turned)).toEqual([]);
      }),
    );
  });

  it('names arms that were swapped, and nothing else', () => {
    const found = rolesOf(withRoles((r) => (r && /Arm|Hand/.test(r) ? swap(r) : r)));
    expect(new Set(found.map((r) => r.replace(/^(left|right)/, '')))).toEqual(
      new Set(['UpperArm', 'LowerArm']),
    );
  });

  it('tells from the toes that all sides were swapped', () => {
    const doubts = findDoubts(withRoles(swap));
    expect(doubts.length).toBeGreaterThan(8);
    expect(new Set(doubts.map((d) => d.code))).toEqual(new Set(['facing']));
  });

  it('names a shin and a thigh that were taken for one another', () => {
    const other: Partial<Record<Role, Role>> = { leftUpperLeg: 'leftLowerLeg', leftLowerLeg: 'leftUpperLeg' };
    const codes = findDoubts(withRoles((r) => (r && other[r]) ?? r)).map((d) => d.code);
    expect(codes).toContain('order');
    expect(codes).toContain('height');
  });

  it('says which joint it does not hang on', () => {
    const skeleton = withRoles((r) =>
      r === 'leftLowerArm' ? null : r === 'rightLowerArm' ? 'leftLowerArm' : r,
    );
    const doubt = findDoubts(skeleton).find((d) => d.code === 'order');
    expect(doubt?.message).toMatch(/left lower arm does not hang on the left upper arm/);
  });
});
