import type { Skeleton } from '@warper/core';
import type { Build, Joint } from './build';
import type { Vec3 } from './pose';
import type { Bind, Ring } from './surface';
import { Kit } from './kit';
import { hand } from './mannequinHand';
import type { Surface } from './surface';

/** The two materials of a mannequin: its limbs, and the joints between them. */
export interface Mannequin {
  readonly limbs: Surface;
  readonly joints: Surface;
}

/** A jointed mannequin in the rest pose: limbs as turned pieces, balls between them, a face that shows where it looks. */
export function makeMannequin(b: Build, skeleton: Skeleton): Mannequin {
  const kit = new Kit(b.height, skeleton);
  torso(kit);
  head(kit);
  for (const side of ['left', 'right'] as const) {
    arm(kit, b, side);
    leg(kit, b, side);
    foot(kit, b, side);
  }
  return { limbs: kit.limbs, joints: kit.joints };
}

function torso(kit: Kit): void {
  const hips = kit.bind(['hips', 1]);
  kit.limbs.loft(
    [
      kit.level(0.866, 0.03, 0.04, hips),
      kit.level(0.876, 0.075, 0.078, hips),
      kit.level(0.905, 0.132, 0.1, hips),
      kit.level(0.945, 0.16, 0.112, hips, -0.006),
      kit.level(0.985, 0.158, 0.108, hips, -0.004),
      kit.level(1.015, 0.144, 0.097, hips),
      kit.level(1.032, 0.118, 0.078, hips),
      kit.level(1.037, 0.06, 0.04, hips),
    ],
    20,
  );
  const low = kit.bind(['hips', 0.6], ['spine', 0.4]);
  const mid = kit.bind(['spine', 0.75], ['chest', 0.25]);
  const high = kit.bind(['spine', 0.2], ['chest', 0.8]);
  kit.joints.loft(
    [
      kit.level(0.99, 0.1, 0.07, hips),
      kit.level(1.02, 0.122, 0.084, low),
      kit.level(1.07, 0.124, 0.088, mid),
      kit.level(1.12, 0.125, 0.09, high),
      kit.level(1.17, 0.118, 0.086, kit.bind(['chest', 1])),
      kit.level(1.2, 0.08, 0.06, kit.bind(['chest', 1])),
    ],
    20,
  );
  const chest = kit.bind(['chest', 1]);
  const both = kit.bind(['chest', 0.5], ['upperChest', 0.5]);
  const upper = kit.bind(['upperChest', 1]);
  kit.limbs.loft(
    [
      kit.level(1.118, 0.06, 0.045, chest),
      kit.level(1.122, 0.112, 0.08, chest),
      kit.level(1.14, 0.135, 0.098, chest),
      kit.level(1.19, 0.149, 0.109, chest, 0.002),
      kit.level(1.25, 0.162, 0.119, both, 0.005),
      kit.level(1.32, 0.17, 0.122, upper, 0.006),
      kit.level(1.375, 0.166, 0.114, upper, 0.003),
      kit.level(1.42, 0.153, 0.096, upper, -0.002),
      kit.level(1.452, 0.122, 0.076, upper, -0.004),
      kit.level(1.474, 0.07, 0.058, upper, -0.002),
      kit.level(1.48, 0.03, 0.03, upper),
    ],
    20,
  );
}

function head(kit: Kit): void {
  const neck = kit.bind(['neck', 1]);
  const skull = kit.bind(['head', 1]);
  kit.joints.loft(
    [
      kit.level(1.45, 0.045, 0.045, kit.bind(['upperChest', 1])),
      kit.level(1.475, 0.053, 0.053, kit.bind(['upperChest', 0.5], ['neck', 0.5]), 0.002),
      kit.level(1.53, 0.047, 0.049, neck, 0.008),
      kit.level(1.585, 0.047, 0.05, kit.bind(['neck', 0.4], ['head', 0.6]), 0.014),
      kit.level(1.61, 0.03, 0.03, skull, 0.014),
    ],
    14,
  );
  kit.limbs.loft(
    [
      kit.level(1.549, 0.014, 0.018, skull, 0.062),
      kit.level(1.553, 0.03, 0.034, skull, 0.055),
      kit.level(1.572, 0.049, 0.06, skull, 0.038),
      kit.level(1.603, 0.063, 0.082, skull, 0.022),
      kit.level(1.645, 0.072, 0.096, skull, 0.012),
      kit.level(1.69, 0.076, 0.101, skull, 0.004),
      kit.level(1.73, 0.071, 0.094, skull, -0.001),
      kit.level(1.76, 0.054, 0.073, skull, -0.004),
      kit.level(1.776, 0.032, 0.043, skull, -0.005),
      kit.level(1.781, 0.008, 0.01, skull, -0.005),
    ],
    18,
  );
  const s = kit.scale;
  kit.limbs.ball([0, 1.638 * s, 0.108 * s], [0.011 * s, 0.021 * s, 0.017 * s], skull, 12);
}

function arm(kit: Kit, b: Build, side: 'left' | 'right'): void {
  const s = side === 'left' ? 1 : -1;
  const x: Vec3 = [s, 0, 0];
  const z: Vec3 = [0, 0, 1];
  const one = (joint: Joint): Bind => kit.bind([joint, 1]);
  const k = kit.scale;
  const upper = b.upperArm / k;
  const lower = b.lowerArm / k;
  const ball = (joint: Joint, r: number): void =>
    kit.joints.ball(kit.at(joint), [r * k, r * k, r * k], one(joint));
  ball(`${side}UpperArm`, 0.053);
  kit.limbs.loft(
    kit.along(
      `${side}UpperArm`,
      x,
      z,
      [
        [0.024, 0.02, 0.02],
        [0.028, 0.044, 0.046],
        [0.07, 0.049, 0.053],
        [0.14, 0.044, 0.048],
        [0.22, 0.039, 0.041],
        [upper - 0.028, 0.036, 0.038],
        [upper - 0.024, 0.015, 0.015],
      ],
      one(`${side}UpperArm`),
    ),
  );
  ball(`${side}LowerArm`, 0.041);
  kit.limbs.loft(
    kit.along(
      `${side}LowerArm`,
      x,
      z,
      [
        [0.022, 0.015, 0.015],
        [0.026, 0.036, 0.038],
        [0.07, 0.041, 0.044],
        [0.13, 0.037, 0.039],
        [0.2, 0.028, 0.031],
        [lower - 0.018, 0.024, 0.028],
        [lower - 0.014, 0.01, 0.012],
      ],
      one(`${side}LowerArm`),
    ),
  );
  ball(`${side}Hand`, 0.027);
  hand(kit, side);
}

function leg(kit: Kit, b: Build, side: 'left' | 'right'): void {
  const down: Vec3 = [0, -1, 0];
  const z: Vec3 = [0, 0, 1];
  const k = kit.scale;
  const one = (joint: Joint): Bind => kit.bind([joint, 1]);
  const thigh = b.thigh / k;
  const shank = b.shank / k;
  const ball = (joint: Joint, r: number): void =>
    kit.joints.ball(kit.at(joint), [r * k, r * k, r * k], one(joint));
  ball(`${side}UpperLeg`, 0.084);
  kit.limbs.loft(
    kit.along(
      `${side}UpperLeg`,
      down,
      z,
      [
        [0.03, 0.04, 0.04],
        [0.036, 0.072, 0.076],
        [0.09, 0.081, 0.088, 0.002],
        [0.18, 0.074, 0.083, 0.004],
        [0.28, 0.062, 0.07, 0.005],
        [0.36, 0.053, 0.059, 0.003],
        [thigh - 0.038, 0.049, 0.053],
        [thigh - 0.033, 0.02, 0.02],
      ],
      one(`${side}UpperLeg`),
    ),
    16,
  );
  ball(`${side}LowerLeg`, 0.053);
  kit.limbs.loft(
    kit.along(
      `${side}LowerLeg`,
      down,
      z,
      [
        [0.03, 0.02, 0.02],
        [0.034, 0.045, 0.048],
        [0.08, 0.05, 0.054, -0.008],
        [0.14, 0.052, 0.059, -0.014],
        [0.22, 0.044, 0.05, -0.011],
        [0.31, 0.034, 0.039, -0.005],
        [shank - 0.03, 0.031, 0.036],
        [shank - 0.024, 0.013, 0.015],
      ],
      one(`${side}LowerLeg`),
    ),
    16,
  );
  ball(`${side}Foot`, 0.038);
}

/** A shoe-shaped foot with a flat sole; its toes are a piece of their own. */
function foot(kit: Kit, b: Build, side: 'left' | 'right'): void {
  const k = kit.scale;
  const ankle = kit.at(`${side}Foot`);
  const floor = -b.ankleHeight / k;
  // [forward, half width, height of the top over the ankle]
  const slice = (forward: number, half: number, top: number, bind: Bind): Ring => {
    const middle = (top + floor) / 2;
    return {
      centre: [ankle[0], ankle[1] + middle * k, ankle[2] + forward * k],
      u: [half * k, 0, 0],
      v: [0, ((top - floor) / 2) * k, 0],
      bind,
      power: 2.7,
    };
  };
  const heel = kit.bind([`${side}Foot`, 1]);
  const toes = kit.bind([`${side}Toes`, 1]);
  const ball = b.ballForward / k;
  kit.limbs.loft(
    [
      slice(-0.062, 0.014, -0.04, heel),
      slice(-0.057, 0.027, -0.024, heel),
      slice(-0.035, 0.036, -0.006, heel),
      slice(0.005, 0.037, 0.004, heel),
      slice(0.05, 0.039, -0.014, heel),
      slice(0.09, 0.044, -0.031, heel),
      slice(ball - 0.004, 0.047, -0.041, heel),
      slice(ball + 0.006, 0.04, -0.044, heel),
    ],
    14,
  );
  kit.limbs.loft(
    [
      slice(ball - 0.006, 0.036, -0.046, toes),
      slice(ball + 0.002, 0.0465, -0.042, toes),
      slice(ball + 0.035, 0.046, -0.045, toes),
      slice(ball + 0.062, 0.038, -0.05, toes),
      slice(ball + 0.078, 0.024, -0.055, toes),
      slice(ball + 0.083, 0.008, -0.061, toes),
    ],
    14,
  );
}
