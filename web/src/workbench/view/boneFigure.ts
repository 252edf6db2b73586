import type { Skeleton } from '@warper/core';
import { makeWorldPose, poseToWorld } from '@warper/core';
import type { ColorRepresentation } from 'three';
import { CapsuleGeometry, InstancedMesh, Matrix4, MeshStandardMaterial, SphereGeometry, Group } from 'three';
import type { Figure } from './meshFigure';

/** The capsule that bars are made of is three long: one, and half of one at either end. */
const CAPSULE = 3;

/**
 * Writes the matrix (column by column, as WebGL wants it) of a bar from one point to another: its y axis along the bone, the
 * other two across it, turned about it in whatever way is simplest, since a bar is round.
 */
export function writeBar(
  out: { [index: number]: number },
  at: number,
  points: ArrayLike<number>,
  from: number,
  to: number,
  length: number,
  radius: number,
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
  out[at + 4] = (x * length) / CAPSULE;
  out[at + 5] = (y * length) / CAPSULE;
  out[at + 6] = (z * length) / CAPSULE;
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

/** A body without a mesh: a rounded bar for every bone and a ball at every joint. */
export function boneFigure(skeleton: Skeleton, colour: ColorRepresentation, look: BoneLook = {}): Figure {
  const { over = false, opacity = 1 } = look;
  const thick = (over ? 0.45 : 1) * skeleton.size;
  const bones: [number, number][] = [];
  skeleton.parents.forEach((parent, i) => parent >= 0 && bones.push([parent, i]));
  const material = new MeshStandardMaterial({
    color: colour,
    roughness: 0.7,
    depthTest: !over,
    transparent: over || opacity < 1,
    opacity: over ? 0.9 : opacity,
    depthWrite: opacity === 1 && !over,
  });
  const bars = new InstancedMesh(new CapsuleGeometry(1, 1, 4, 10), material, Math.max(1, bones.length));
  const balls = new InstancedMesh(new SphereGeometry(1, 12, 8), material, skeleton.names.length);
  bars.frustumCulled = balls.frustumCulled = false;
  const world = makeWorldPose(skeleton);
  const group = new Group();
  group.add(bars, balls);
  if (over) bars.renderOrder = balls.renderOrder = 10;
  const ball = new Matrix4().makeScale(0.022 * thick, 0.022 * thick, 0.022 * thick);
  skeleton.names.forEach((_, i) => balls.setMatrixAt(i, ball));
  const [barMatrices, ballMatrices] = [bars.instanceMatrix.array, balls.instanceMatrix.array];
  return {
    object: group,
    pose: (pose) => {
      const { positions } = poseToWorld(skeleton, pose, world);
      bones.forEach(([from, to], i) => {
        const length = Math.hypot(
          positions[to * 3]! - positions[from * 3]!,
          positions[to * 3 + 1]! - positions[from * 3 + 1]!,
          positions[to * 3 + 2]! - positions[from * 3 + 2]!,
        );
        const radius = Math.min(0.035 * skeleton.size, 0.012 + length * 0.08) * (over ? 0.45 : 1);
        writeBar(barMatrices, i * 16, positions, from * 3, to * 3, length, radius);
      });
      for (let i = 0; i < skeleton.names.length; i++)
        for (let k = 0; k < 3; k++) ballMatrices[i * 16 + 12 + k] = positions[i * 3 + k]!;
      bars.instanceMatrix.needsUpdate = balls.instanceMatrix.needsUpdate = true;
    },
    dispose: () => {
      bars.geometry.dispose();
      balls.geometry.dispose();
      material.dispose();
    },
  };
}
