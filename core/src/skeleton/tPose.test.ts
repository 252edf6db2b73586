import { describe, expect, it } from '@jest/globals';
import type { Role } from './roles';
import { makeSkeleton } from './skeleton';
import { missingHumanoidRoles, tPose } from './tPose';

/** A body that looks along +X with its arms hanging, its knees bent and a joint without a role between trunk and head. */
const JOINTS: readonly (readonly [
  role: Role | null,
  parent: number,
  offset: readonly [number, number, number],
])[] = [
  ['hips', -1, [0, 0.9, 0]],
  ['spine', 0, [0, 0.2, 0]],
  [null, 1, [0, 0.2, 0]],
  ['head', 2, [0, 0.2, 0]],
  ['leftUpperLeg', 0, [0, 0, -0.1]],
  ['leftLowerLeg', 4, [0.2, -0.35, 0]],
  ['leftFoot', 5, [-0.2, -0.35, 0]],
  ['rightUpperLeg', 0, [0, 0, 0.1]],
  ['rightLowerLeg', 7, [0.2, -0.35, 0]],
  ['rightFoot', 8, [-0.2, -0.35, 0]],
  ['leftUpperArm', 1, [0, 0.15, -0.2]],
  ['leftLowerArm', 10, [0, -0.3, 0]],
  ['leftHand', 11, [0.1, -0.25, 0]],
  ['rightUpperArm', 1, [0, 0.15, 0.2]],
  ['rightLowerArm', 13, [0, -0.3, 0]],
  ['rightHand', 14, [0.1, -0.25, 0]],
];

const body = makeSkeleton({
  names: JOINTS.map(([role], i) => role ?? `joint ${i}`),
  parents: JOINTS.map(([, parent]) => parent),
  restTranslations: JOINTS.flatMap(([, , offset]) => offset),
  roles: JOINTS.map(([role]) => role),
});

describe('a body in T-pose', () => {
  const { skeleton, joints } = tPose(body);
  const way = (from: Role, to: Role): number[] => {
    const [a, b] = [from, to].map((role) => skeleton.names.indexOf(role));
    return [0, 1, 2].map((k) => skeleton.rest.positions[b! * 3 + k]! - skeleton.rest.positions[a! * 3 + k]!);
  };
  const close = (own: readonly number[], wanted: readonly number[]): void =>
    own.forEach((v, k) => expect(v).toBeCloseTo(wanted[k]!, 9));

  it('has its arms along X, the left one along +X, and its legs down, as long as they are', () => {
    for (const [side, x] of [
      ['left', 1],
      ['right', -1],
    ] as const) {
      close(way(`${side}UpperArm`, `${side}LowerArm`), [x * 0.3, 0, 0]);
      close(way(`${side}LowerArm`, `${side}Hand`), [x * Math.hypot(0.1, 0.25), 0, 0]);
      for (const [a, b] of [
        ['UpperLeg', 'LowerLeg'],
        ['LowerLeg', 'Foot'],
      ] as const)
        close(way(`${side}${a}`, `${side}${b}`), [0, -Math.hypot(0.2, 0.35), 0]);
      // It looks along +Z: its left is along +X.
      close(way('hips', `${side}UpperLeg`), [x * 0.1, 0, 0]);
    }
  });

  it('has only joints with a role, and the trunk as it is', () => {
    expect(skeleton.names).toEqual(JOINTS.flatMap(([role]) => role ?? []));
    expect([...joints]).toEqual(JOINTS.flatMap(([role], i) => (role ? [i] : [])));
    close(way('spine', 'head'), [0, 0.4, 0]);
  });

  it('stands with its feet as high as they are', () => {
    const at = skeleton.names.indexOf('leftFoot') * 3 + 1;
    expect(skeleton.rest.positions[at]).toBeCloseTo(0.2, 9);
    // So that the hips come higher as the knees are stretched.
    expect(skeleton.rest.positions[1]).toBeCloseTo(0.2 + 2 * Math.hypot(0.2, 0.35), 9);
  });

  it('needs the bones of a humanoid', () => {
    expect(missingHumanoidRoles(body)).toEqual([]);
    const handless = makeSkeleton({ ...body, roles: body.roles.map((r) => (r === 'leftHand' ? null : r)) });
    expect(missingHumanoidRoles(handless)).toEqual(['leftHand']);
    const onFour = makeSkeleton({ ...body, roles: body.roles.map((r, i) => (i === 2 ? 'tail' : r)) });
    expect(missingHumanoidRoles(onFour).length).toBeGreaterThan(0);
  });
});
