import type { Skeleton } from '@warper/core';
import { makeWorldPose, poseToWorld } from '@warper/core';
import type { ColorRepresentation } from 'three';
import {
  CapsuleGeometry,
  InstancedMesh,
  Matrix4,
  MeshStandardMaterial,
  Quaternion,
  SphereGeometry,
  Vector3,
  Group,
} from 'three';
import type { Figure } from './meshFigure';

const UP = new Vector3(0, 1, 0);

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
  const matrix = new Matrix4();
  const a = new Vector3();
  const b = new Vector3();
  const turn = new Quaternion();
  const size = new Vector3();
  return {
    object: group,
    pose: (pose) => {
      const { positions } = poseToWorld(skeleton, pose, world);
      bones.forEach(([from, to], i) => {
        a.fromArray(positions, from * 3);
        b.fromArray(positions, to * 3);
        const length = a.distanceTo(b);
        const radius = Math.min(0.035 * skeleton.size, 0.012 + length * 0.08) * (over ? 0.45 : 1);
        turn.setFromUnitVectors(UP, size.copy(b).sub(a).normalize());
        matrix.compose(a.lerp(b, 0.5), turn, size.set(radius, length / 3, radius));
        bars.setMatrixAt(i, matrix);
      });
      skeleton.names.forEach((_, i) => {
        matrix
          .makeScale(0.022 * thick, 0.022 * thick, 0.022 * thick)
          .setPosition(positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!);
        balls.setMatrixAt(i, matrix);
      });
      bars.instanceMatrix.needsUpdate = balls.instanceMatrix.needsUpdate = true;
    },
    dispose: () => {
      bars.geometry.dispose();
      balls.geometry.dispose();
      material.dispose();
    },
  };
}
