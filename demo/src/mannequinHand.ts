import type { Finger, Joint, Side } from './build';
import { FINGERS, fingerDirection, fingerJoints } from './build';
import type { Kit } from './kit';
import type { Vec3 } from './pose';
import type { Bind } from './surface';

/** Half the breadth of each finger at its first joint, in metres of the drawing. */
const BREADTH: Readonly<Record<Finger, number>> = {
  Thumb: 0.0112,
  Index: 0.0094,
  Middle: 0.0097,
  Ring: 0.0091,
  Little: 0.0079,
};
/** How much narrower each bone of a finger is than the first. */
const TAPER = [1, 0.93, 0.85] as const;

/** A hand in the rest pose: a palm, and fingers of three turned pieces with balls between. */
export function hand(kit: Kit, side: Side): void {
  const s = side === 'left' ? 1 : -1;
  const palm: Bind = kit.bind([`${side}Hand`, 1]);
  // [distance from the wrist, half the thickness, half the breadth, shift towards the thumb]
  const rows = [
    [0.01, 0.008, 0.014, 0],
    [0.014, 0.0155, 0.025, 0],
    [0.034, 0.0165, 0.033, -0.001],
    [0.058, 0.0145, 0.0385, -0.001],
    [0.072, 0.0125, 0.0395, -0.001],
    [0.08, 0.0105, 0.0375, -0.001],
    [0.084, 0.006, 0.03, -0.001],
  ] as const;
  kit.limbs.loft(kit.along(`${side}Hand`, [s, 0, 0], [0, 0, 1], rows, palm, 2.7), 14);
  thumbBall(kit, side, palm);
  for (const finger of FINGERS) fingerPieces(kit, side, finger);
}

/** The soft part of the palm below the thumb. */
function thumbBall(kit: Kit, side: Side, palm: Bind): void {
  const [x, y, z] = kit.at(`${side}ThumbMetacarpal`);
  const k = kit.scale;
  const s = side === 'left' ? 1 : -1;
  kit.limbs.ball([x + s * 0.012 * k, y, z - 0.004 * k], [0.02 * k, 0.0125 * k, 0.015 * k], palm, 8);
}

function fingerPieces(kit: Kit, side: Side, finger: Finger): void {
  const s = side === 'left' ? 1 : -1;
  const [dx, dy, dz] = fingerDirection(finger);
  const direction: Vec3 = [s * dx, dy, dz];
  const across: Vec3 = finger === 'Thumb' ? [-s * dz, 0, dx] : [0, 0, 1];
  const joints = fingerJoints(side, finger);
  joints.forEach((joint, i) => {
    const breadth = BREADTH[finger] * TAPER[i]!;
    const length = boneLength(kit, joint, joints[i + 1]);
    const bind = kit.bind([joint, 1]);
    const ball = breadth * 0.93 * kit.scale;
    kit.joints.ball(kit.at(joint), [ball, ball, ball], bind, 6);
    const shape =
      i < 2
        ? ([
            [0.002, 0.6],
            [0.004, 0.98],
            [length * 0.4, 1],
            [length - 0.004, 0.92],
            [length - 0.002, 0.5],
          ] as const)
        : ([
            [0.002, 0.6],
            [0.004, 0.98],
            [length * 0.55, 0.96],
            [length * 0.85, 0.74],
            [length * 0.97, 0.4],
            [length, 0.1],
          ] as const);
    const rows = shape.map(([d, part]) => [d, breadth * 0.92 * part, breadth * part] as const);
    kit.limbs.loft(kit.along(joint, direction, across, rows, bind, 2.2), 8);
  });
}

/** Length of a finger's bone in metres of the drawing; the last one reaches to the fingertip. */
function boneLength(kit: Kit, joint: Joint, next: Joint | undefined): number {
  const from = kit.at(joint);
  const to = next ? kit.at(next) : kit.end(joint);
  return Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]) / kit.scale;
}
