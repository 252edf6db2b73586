import { describe, expect, it } from '@jest/globals';
import { ROLES, findRoles } from './roles';

/** Roles of a flat list of names; all hang from the first. */
const roles = (names: readonly string[]): Record<string, string | null> => {
  const parents = names.map((_, i) => (i === 0 ? -1 : 0));
  return Object.fromEntries(findRoles(names, parents).map((r, i) => [names[i]!, r]));
};

describe('roles from names', () => {
  // VRM Consortium, VRMC_vrm-1.0, humanoid: the names themselves.
  it('takes every VRM 1.0 name for itself', () => {
    expect(
      findRoles(
        ROLES,
        ROLES.map((_, i) => (i === 0 ? -1 : 0)),
      ),
    ).toEqual([...ROLES]);
  });

  // ISO/IEC 19774-1 (H-Anim), joint names.
  it('knows the joints of H-Anim', () => {
    expect(
      roles([
        'humanoid_root',
        'sacroiliac',
        'vl5',
        'vt10',
        'vt1',
        'vc4',
        'skullbase',
        'l_hip',
        'l_knee',
        'l_talocrural',
        'r_hip',
        'l_sternoclavicular',
        'l_shoulder',
        'l_elbow',
        'l_radiocarpal',
        'r_shoulder',
      ]),
    ).toMatchObject({
      sacroiliac: 'hips',
      l_hip: 'leftUpperLeg',
      l_knee: 'leftLowerLeg',
      l_talocrural: 'leftFoot',
      r_hip: 'rightUpperLeg',
      l_shoulder: 'leftUpperArm',
      l_elbow: 'leftLowerArm',
      l_radiocarpal: 'leftHand',
      r_shoulder: 'rightUpperArm',
      skullbase: 'head',
      vc4: 'neck',
    });
  });

  // Names of the CMU Graphics Lab Motion Capture Database in BVH.
  // ISO/IEC 19774-1, level of articulation three: the thumb is 1.
  it('knows the fingers of H-Anim', () => {
    expect(
      roles([
        'sacroiliac',
        'l_carpometacarpal_1',
        'l_metacarpophalangeal_1',
        'l_carpal_interphalangeal_1',
        'r_metacarpophalangeal_2',
        'r_carpal_proximal_interphalangeal_3',
        'r_carpal_distal_interphalangeal_5',
      ]),
    ).toEqual({
      sacroiliac: 'hips',
      l_carpometacarpal_1: 'leftThumbMetacarpal',
      l_metacarpophalangeal_1: 'leftThumbProximal',
      l_carpal_interphalangeal_1: 'leftThumbDistal',
      r_metacarpophalangeal_2: 'rightIndexProximal',
      r_carpal_proximal_interphalangeal_3: 'rightMiddleIntermediate',
      r_carpal_distal_interphalangeal_5: 'rightLittleDistal',
    });
  });

  it('knows capture names in which LeftLeg is the shin', () => {
    expect(
      roles([
        'Hips',
        'LHipJoint',
        'LeftUpLeg',
        'LeftLeg',
        'LeftFoot',
        'LeftToeBase',
        'LowerBack',
        'Spine',
        'Spine1',
        'Neck',
        'Head',
        'LeftShoulder',
        'LeftArm',
        'LeftForeArm',
        'LeftHand',
        'RightUpLeg',
        'RightLeg',
      ]),
    ).toMatchObject({
      Hips: 'hips',
      LHipJoint: null,
      LeftUpLeg: 'leftUpperLeg',
      LeftLeg: 'leftLowerLeg',
      LeftFoot: 'leftFoot',
      LeftToeBase: 'leftToes',
      LeftShoulder: 'leftShoulder',
      LeftArm: 'leftUpperArm',
      LeftForeArm: 'leftLowerArm',
      LeftHand: 'leftHand',
      RightLeg: 'rightLowerLeg',
    });
  });

  it.each([
    ['actor:LeftUpLeg', 'leftUpperLeg'],
    ['thigh.L', 'leftUpperLeg'],
    ['upper_arm_r', 'rightUpperArm'],
    ['R_Foot', 'rightFoot'],
    ['forearm.L', 'leftLowerArm'],
    ['LeftToes', 'leftToes'],
    ['calf_l', 'leftLowerLeg'],
    ['Pelvis', 'hips'],
    ['cape', null],
  ])('reads %s as %s', (name, role) => {
    expect(findRoles(['root', name], [-1, 0])[1]).toBe(role);
  });

  it('takes the joint over both thighs for the hips where none is named so', () => {
    expect(findRoles(['base', 'Left Thigh', 'Right Thigh'], [-1, 0, 0])[0]).toBe('hips');
  });
});
