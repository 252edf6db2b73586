import { quatConjugate, quatFromAxis, quatFromBasis, quatMultiply, quatRotate } from '@warper/core/kernels';
import type { Build, Joint } from './build';
import { FINGERS, JOINT_NAMES, fingerJoints, restOffsets } from './build';
import type { HandShape } from './hand';
import { curledBy, fingerRotations } from './hand';

export type Vec3 = readonly [number, number, number];

/** Turns in radians: yaw to the left, pitch forwards (head down), roll raises the left side. */
export interface Turn {
  readonly yaw: number;
  readonly pitch: number;
  readonly roll: number;
}

/** An arm hanging from the shoulder; angles in radians. */
export interface Arm {
  /** Forwards. */
  readonly flex: number;
  /** Away from the body. */
  readonly spread: number;
  readonly elbow: number;
  /** Turn of the upper arm about itself, inwards. */
  readonly twist: number;
  /** Turn of the forearm about itself, inwards. */
  readonly forearm: number;
  readonly wrist: number;
  /** Bend of the knuckles where no shape of the fingers is given. */
  readonly curl: number;
  readonly fingers?: HandShape;
  readonly shrug: number;
  /** Where the hand is to be, and how much that counts (0..1). */
  readonly reach?: { readonly to: Vec3; readonly weight: number };
  /** Which way upper arm and forearm point (in the rib cage's axes, unit), and by how much. */
  readonly point?: { readonly upper: Vec3; readonly lower: Vec3; readonly weight: number };
}

/** A foot: its ankle's place, its heading, its pitch (toes up is positive) and the bend of its toes. */
export interface Foot {
  readonly ankle: Vec3;
  readonly heading: number;
  readonly pitch: number;
  readonly toes: number;
}

/** Everything that makes a pose. */
export interface Stance {
  /** Middle between the hip joints. */
  readonly pelvis: Vec3;
  readonly pelvisTurn: Turn;
  /** Turn of the rib cage against the pelvis, shared out along the spine. */
  readonly torso: Turn;
  /** Turn of the head against the rib cage. */
  readonly head: Turn;
  readonly arms: { readonly left: Arm; readonly right: Arm };
  readonly feet: { readonly left: Foot; readonly right: Foot };
}

type Quat = Float64Array;
const axis = (x: number, y: number, z: number, radians: number): Quat =>
  quatFromAxis(x, y, z, radians, new Float64Array(4), 0) as Quat;
const times = (...qs: Quat[]): Quat =>
  qs.reduce((a, b) => quatMultiply(a, 0, b, 0, new Float64Array(4), 0) as Quat);
const undo = (q: Quat): Quat => quatConjugate(q, 0, new Float64Array(4), 0) as Quat;
const turned = (q: Quat, v: Vec3): Vec3 => {
  const out = quatRotate(q, 0, Float64Array.from(v), 0, new Float64Array(3), 0);
  return [out[0]!, out[1]!, out[2]!];
};
const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const scaled = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
const unit = (a: Vec3): Vec3 => scaled(a, 1 / Math.hypot(...a));

const turnQuat = (t: Turn, share = 1): Quat =>
  times(axis(0, 1, 0, t.yaw * share), axis(1, 0, 0, t.pitch * share), axis(0, 0, 1, t.roll * share));

/** A posed body: local rotations by joint, and the place of the hips. */
export interface PosedBody {
  readonly rotations: Float64Array;
  readonly hips: Vec3;
  /** Largest share of a leg's length that was needed; over 1 it did not reach. */
  readonly reach: number;
}

/** Poses a body: trunk and arms by their angles, legs by two-bone inverse kinematics to the ankles. */
export function poseBody(b: Build, s: Stance): PosedBody {
  const offsets = restOffsets(b);
  const local = new Map<Joint, Quat>();
  const world = new Map<Joint, Quat>();
  const place = new Map<Joint, Vec3>();
  const put = (joint: Joint, parent: Joint, q: Quat): void => {
    local.set(joint, q);
    world.set(joint, times(world.get(parent)!, q));
    place.set(joint, add(place.get(parent)!, turned(world.get(parent)!, offsets[joint])));
  };
  const pelvis = turnQuat(s.pelvisTurn);
  const hips = add(s.pelvis, turned(pelvis, [0, b.hipsAbove, 0]));
  local.set('hips', pelvis);
  world.set('hips', pelvis);
  place.set('hips', hips);
  put('spine', 'hips', turnQuat(s.torso, 0.3));
  put('chest', 'spine', turnQuat(s.torso, 0.4));
  put('upperChest', 'chest', turnQuat(s.torso, 0.3));
  put('neck', 'upperChest', turnQuat(s.head, 0.4));
  put('head', 'neck', turnQuat(s.head, 0.6));
  for (const side of ['left', 'right'] as const) poseArm(b, side, s.arms[side], put, local, world, place);
  let reach = 0;
  for (const side of ['left', 'right'] as const) {
    reach = Math.max(reach, poseLeg(b, side, s.feet[side], s.pelvisTurn.yaw, put, world, place));
  }
  const rotations = new Float64Array(JOINT_NAMES.length * 4);
  JOINT_NAMES.forEach((name, i) => rotations.set(local.get(name) ?? Float64Array.of(0, 0, 0, 1), i * 4));
  return { rotations, hips, reach };
}

type Put = (joint: Joint, parent: Joint, q: Quat) => void;

function poseArm(
  b: Build,
  side: 'left' | 'right',
  arm: Arm,
  put: Put,
  local: Map<Joint, Quat>,
  world: Map<Joint, Quat>,
  place: Map<Joint, Vec3>,
): void {
  const s = side === 'left' ? 1 : -1;
  put(`${side}Shoulder`, 'upperChest', axis(0, 0, 1, s * arm.shrug));
  const hang = times(
    axis(1, 0, 0, -arm.flex),
    axis(0, 0, 1, -s * (Math.PI / 2 - arm.spread)),
    axis(1, 0, 0, s * arm.twist),
  );
  put(`${side}UpperArm`, `${side}Shoulder`, hang);
  put(
    `${side}LowerArm`,
    `${side}UpperArm`,
    times(axis(0, 1, 0, -s * arm.elbow), axis(1, 0, 0, s * arm.forearm)),
  );
  if (arm.point && arm.point.weight > 0) {
    const { upper, lower, weight } = arm.point;
    const cage = world.get('upperChest')!;
    aim(`${side}UpperArm`, `${side}Shoulder`, unit(turned(cage, upper)), s, put, local, world, weight);
    aim(`${side}LowerArm`, `${side}UpperArm`, unit(turned(cage, lower)), s, put, local, world, weight);
  }
  if (arm.reach && arm.reach.weight > 0) reachArm(b, side, arm.reach, put, local, world, place);
  put(`${side}Hand`, `${side}LowerArm`, axis(0, 0, 1, -s * arm.wrist));
  const rotations = fingerRotations(side, arm.fingers ?? curledBy(arm.curl));
  for (const finger of FINGERS) {
    fingerJoints(side, finger).forEach((joint, i, joints) =>
      put(joint, joints[i - 1] ?? `${side}Hand`, rotations.get(joint)!),
    );
  }
}

/** Bends the arm so that the wrist comes to a target, by a share. */
function reachArm(
  b: Build,
  side: 'left' | 'right',
  reach: NonNullable<Arm['reach']>,
  put: Put,
  local: Map<Joint, Quat>,
  world: Map<Joint, Quat>,
  place: Map<Joint, Vec3>,
): void {
  const s = side === 'left' ? 1 : -1;
  const shoulder = place.get(`${side}UpperArm`)!;
  const wrist = add(
    place.get(`${side}LowerArm`)!,
    turned(world.get(`${side}LowerArm`)!, [s * b.lowerArm, 0, 0]),
  );
  const target = add(wrist, scaled(sub(reach.to, wrist), reach.weight));
  const way = sub(target, shoulder);
  const d = Math.min(Math.hypot(...way), (b.upperArm + b.lowerArm) * 0.995);
  const forward = unit(way);
  const elbowOut = unit(sub(place.get(`${side}LowerArm`)!, shoulder));
  const hint = unit(sub(elbowOut, scaled(forward, dot(elbowOut, forward))));
  const along = (d * d + b.upperArm ** 2 - b.lowerArm ** 2) / (2 * d);
  const out = Math.sqrt(Math.max(0, b.upperArm ** 2 - along ** 2));
  const elbow = add(shoulder, add(scaled(forward, along), scaled(hint, out)));
  const hand = add(shoulder, scaled(forward, d));
  aim(`${side}UpperArm`, `${side}Shoulder`, unit(sub(elbow, shoulder)), s, put, local, world);
  aim(`${side}LowerArm`, `${side}UpperArm`, unit(sub(hand, elbow)), s, put, local, world);
}

/** Turns a joint the shortest way, by a share, so that its bone (along s X) points in a direction. */
function aim(
  joint: Joint,
  parent: Joint,
  direction: Vec3,
  s: 1 | -1,
  put: Put,
  local: Map<Joint, Quat>,
  world: Map<Joint, Quat>,
  share = 1,
): void {
  const current = turned(times(world.get(parent)!, local.get(joint)!), [s, 0, 0]);
  const about = cross(current, direction);
  const sine = Math.hypot(...about);
  const bend =
    sine < 1e-9
      ? Float64Array.of(0, 0, 0, 1)
      : axis(
          about[0] / sine,
          about[1] / sine,
          about[2] / sine,
          share * Math.atan2(sine, dot(current, direction)),
        );
  put(joint, parent, times(undo(world.get(parent)!), bend, world.get(parent)!, local.get(joint)!));
}

function poseLeg(
  b: Build,
  side: 'left' | 'right',
  foot: Foot,
  pelvisYaw: number,
  put: Put,
  world: Map<Joint, Quat>,
  place: Map<Joint, Vec3>,
): number {
  const hip = add(
    place.get('hips')!,
    turned(world.get('hips')!, [(side === 'left' ? 1 : -1) * b.hipHalf, -b.hipsAbove, 0]),
  );
  const way = sub(foot.ankle, hip);
  const full = b.thigh + b.shank;
  const d = Math.min(Math.hypot(...way), full * 0.9995);
  const down = unit(way);
  // The knee points between where the pelvis and the foot point, a little outwards.
  const between = pelvisYaw + wrap(foot.heading - pelvisYaw) * 0.6 + (side === 'left' ? 0.05 : -0.05);
  const ahead: Vec3 = [Math.sin(between), 0, Math.cos(between)];
  const hinge = unit(cross(scaled(down, -1), ahead));
  const kneeWay = cross(hinge, scaled(down, -1));
  const along = (d * d + b.thigh ** 2 - b.shank ** 2) / (2 * d);
  const out = Math.sqrt(Math.max(0, b.thigh ** 2 - along ** 2));
  const knee = add(hip, add(scaled(down, along), scaled(kneeWay, out)));
  const ankle = add(hip, scaled(down, d));
  const bone = (from: Vec3, to: Vec3): Quat => {
    const y = unit(sub(from, to));
    return quatFromBasis(hinge, y, cross(hinge, y), new Float64Array(4), 0) as Quat;
  };
  const thigh = bone(hip, knee);
  put(`${side}UpperLeg`, 'hips', times(undo(world.get('hips')!), thigh));
  const shank = bone(knee, ankle);
  put(`${side}LowerLeg`, `${side}UpperLeg`, times(undo(thigh), shank));
  const sole = times(axis(0, 1, 0, foot.heading), axis(1, 0, 0, -foot.pitch));
  put(`${side}Foot`, `${side}LowerLeg`, times(undo(shank), sole));
  put(`${side}Toes`, `${side}Foot`, axis(1, 0, 0, -foot.toes));
  return Math.hypot(...way) / full;
}

const wrap = (a: number): number => a - 2 * Math.PI * Math.round(a / (2 * Math.PI));
