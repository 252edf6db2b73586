import type { Skeleton } from '@warper/core';
import { makeWorldPose, poseToWorld, restHeight } from '@warper/core';
import { quatConjugate, quatRotate } from '@warper/core/kernels';
import type { ColorRepresentation } from 'three';
import {
  CapsuleGeometry,
  Color,
  InstancedMesh,
  Matrix4,
  MeshStandardMaterial,
  SphereGeometry,
  Group,
} from 'three';
import type { Figure } from './meshFigure';

/** Lengths of the shapes that are laid along bones: a capsule of radius 1 about a middle of 1, and a ball of radius 1. */
const CAPSULE = 3;
const BALL = 2;

/** Half the width of a head, of its height; and the height of one whose file does not tell it, of the body's. */
const HEAD = { width: 0.37, height: 0.12 };

/**
 * Writes the matrix (column by column, as WebGL wants it) of a bar from one point to another: its y axis along the bone, the
 * other two across it, turned about it in whatever way is simplest, since a bar is round.
 *
 * @param shape length of the shape that becomes the bar
 */
export function writeBar(
  out: { [index: number]: number },
  at: number,
  points: ArrayLike<number>,
  from: number,
  to: number,
  length: number,
  radius: number,
  shape = CAPSULE,
): void {
  const long = length || 1;
  const [x, y, z] = [
    (points[to]! - points[from]!) / long,
    length > 0 ? (points[to + 1]! - points[from + 1]!) / long : 1,
    (points[to + 2]! - points[from + 2]!) / long,
  ];
  // Across: the bone and the axis of the room that it is furthest from.
  const flat = Math.abs(y) > 0.8;
  const [ax, ay, az] = flat ? [0, z, -y] : [-z, 0, x];
  const wide = radius / Math.hypot(ax, ay, az);
  out[at] = ax * wide;
  out[at + 1] = ay * wide;
  out[at + 2] = az * wide;
  out[at + 4] = (x * length) / shape;
  out[at + 5] = (y * length) / shape;
  out[at + 6] = (z * length) / shape;
  out[at + 8] = (ay * z - az * y) * wide;
  out[at + 9] = (az * x - ax * z) * wide;
  out[at + 10] = (ax * y - ay * x) * wide;
  out[at + 12] = (points[from]! + points[to]!) / 2;
  out[at + 13] = (points[from + 1]! + points[to + 1]!) / 2;
  out[at + 14] = (points[from + 2]! + points[to + 2]!) / 2;
  out[at + 15] = 1;
}

/** How bones are drawn. */
export interface BoneLook {
  /** Over everything else, thin, as within a mesh. */
  readonly over?: boolean;
  /** 0 to 1; less than 1 for a ghost. */
  readonly opacity?: number;
}

/** A place that goes along with a joint without being one. */
interface End {
  readonly joint: number;
  readonly offset: Float64Array;
}

/** Where the chains of a skeleton end, as far as its file tells, and where its head does in any case. */
function endsOf(skeleton: Skeleton): End[] {
  const ends = skeleton.ends.flatMap((end, joint): End[] =>
    end ? [{ joint, offset: Float64Array.from(end) }] : [],
  );
  const head = skeleton.roles.indexOf('head');
  if (head < 0 || ends.some((e) => e.joint === head)) return ends;
  // On from the neck.
  const offset = Float64Array.from(skeleton.restTranslations.subarray(head * 3, head * 3 + 3));
  const turn = quatConjugate(skeleton.restRotations, head * 4, new Float64Array(4), 0);
  quatRotate(turn, 0, offset, 0, offset, 0);
  const size = (HEAD.height * restHeight(skeleton)) / (Math.hypot(...offset) || 1);
  return [...ends, { joint: head, offset: offset.map((v) => v * size) }];
}

/** Which points of a body are joined by bars. Points are the joints first, then the ends of chains. */
interface Bars {
  readonly ends: readonly End[];
  /** Index of the head among the ends, -1 without one. */
  readonly head: number;
  readonly bones: readonly (readonly [from: number, to: number])[];
}

function barsOf(skeleton: Skeleton): Bars {
  const ends = endsOf(skeleton);
  const head = ends.findIndex((e) => skeleton.roles[e.joint] === 'head');
  const bones: [number, number][] = [];
  skeleton.parents.forEach((parent, i) => parent >= 0 && bones.push([parent, i]));
  ends.forEach(({ joint }, k) => k !== head && bones.push([joint, skeleton.names.length + k]));
  return { ends, head, bones };
}

const boneMaterial = (color: ColorRepresentation, over: boolean, opacity: number): MeshStandardMaterial =>
  new MeshStandardMaterial({
    color,
    roughness: 0.7,
    depthTest: !over,
    transparent: over || opacity < 1,
    opacity: over ? 0.9 : opacity,
    depthWrite: opacity === 1 && !over,
  });

/** A body without a mesh: a rounded bar for every bone, a ball at every joint, and a head. */
export function boneFigure(skeleton: Skeleton, colour: ColorRepresentation, look: BoneLook = {}): Figure {
  const { over = false, opacity = 1 } = look;
  const thick = over ? 0.45 : 1;
  const shape = barsOf(skeleton);
  const joints = skeleton.names.length;
  const material = boneMaterial(colour, over, opacity);
  const bars = new InstancedMesh(new CapsuleGeometry(1, 1, 4, 10), material, Math.max(1, shape.bones.length));
  const balls = new InstancedMesh(new SphereGeometry(1, 12, 8), material, joints + (shape.head < 0 ? 0 : 1));
  bars.frustumCulled = balls.frustumCulled = false;
  if (over) bars.renderOrder = balls.renderOrder = 10;
  const group = new Group();
  group.add(bars, balls);
  const radius = 0.022 * thick * skeleton.size;
  const ball = new Matrix4().makeScale(radius, radius, radius);
  skeleton.names.forEach((_, i) => balls.setMatrixAt(i, ball));
  const write = poseWriter(skeleton, shape, thick, bars.instanceMatrix.array, balls.instanceMatrix.array);
  return {
    object: group,
    pose: (pose) => {
      write(pose);
      bars.instanceMatrix.needsUpdate = balls.instanceMatrix.needsUpdate = true;
    },
    tint: (weights, tinted) => {
      const [plain, full] = [new Color(colour), new Color(tinted)];
      const of = (joint: number): Color =>
        weights ? plain.clone().lerp(full, weights[joint]!) : new Color('#ffffff');
      material.color.set(weights ? '#ffffff' : colour);
      shape.bones.forEach(([from], i) => bars.setColorAt(i, of(from)));
      skeleton.names.forEach((_, j) => balls.setColorAt(j, of(j)));
      const head = shape.ends[shape.head];
      if (head) balls.setColorAt(joints, of(head.joint));
      if (bars.instanceColor) bars.instanceColor.needsUpdate = true;
      if (balls.instanceColor) balls.instanceColor.needsUpdate = true;
      material.needsUpdate = true;
    },
    dispose: () => {
      bars.geometry.dispose();
      balls.geometry.dispose();
      material.dispose();
    },
  };
}

/** What writes the matrices of bars and balls for a pose. */
function poseWriter(
  skeleton: Skeleton,
  { ends, head, bones }: Bars,
  thick: number,
  barMatrices: { [index: number]: number },
  ballMatrices: { [index: number]: number },
): Figure['pose'] {
  const joints = skeleton.names.length;
  const world = makeWorldPose(skeleton);
  const points = new Float64Array((joints + ends.length) * 3);
  const apart = (from: number, to: number): number =>
    Math.hypot(
      points[to * 3]! - points[from * 3]!,
      points[to * 3 + 1]! - points[from * 3 + 1]!,
      points[to * 3 + 2]! - points[from * 3 + 2]!,
    );
  return (pose) => {
    const { positions, rotations } = poseToWorld(skeleton, pose, world);
    points.set(positions);
    ends.forEach(({ joint, offset }, i) => {
      const at = (joints + i) * 3;
      quatRotate(rotations, joint * 4, offset, 0, points, at);
      for (let k = 0; k < 3; k++) points[at + k]! += positions[joint * 3 + k]!;
    });
    bones.forEach(([from, to], i) => {
      const length = apart(from, to);
      const radius = Math.min(0.035 * skeleton.size, 0.012 + length * 0.08) * thick;
      writeBar(barMatrices, i * 16, points, from * 3, to * 3, length, radius);
    });
    for (let i = 0; i < joints; i++)
      for (let k = 0; k < 3; k++) ballMatrices[i * 16 + 12 + k] = positions[i * 3 + k]!;
    if (head >= 0) {
      const [from, to] = [ends[head]!.joint, joints + head];
      const length = apart(from, to);
      writeBar(ballMatrices, joints * 16, points, from * 3, to * 3, length, HEAD.width * length, BALL);
    }
  };
}
