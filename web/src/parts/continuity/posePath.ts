import type { CharacterPlan } from '@warper/core';
import { evaluate, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';

/** A character's pose at a frame as lines between its joints, seen from its own side, in a square of so many pixels. */
export function posePath(plan: CharacterPlan, frame: number, size: number): string {
  const { skeleton } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const [x = 0, z = 0, heading = 0] = pose.root;
  const [s, c] = [Math.sin(heading), Math.cos(heading)];
  const points = skeleton.names.map((_, j): [number, number] => {
    const [dx, dz] = [(positions[j * 3] ?? 0) - x, (positions[j * 3 + 2] ?? 0) - z];
    // A little from the front, so that left and right can be told apart.
    return [dx * s + dz * c + 0.25 * (dx * c - dz * s), -(positions[j * 3 + 1] ?? 0)];
  });
  const high = Math.max(0.3, ...points.map((p) => -p[1]));
  const scale = (size - 4) / Math.max(high, 2.1 * Math.max(...points.map((p) => Math.abs(p[0]))));
  const at = (j: number): string => {
    const [px = 0, py = 0] = points[j] ?? [];
    return `${(size / 2 + px * scale).toFixed(1)},${(size - 2 + py * scale).toFixed(1)}`;
  };
  return Array.from(skeleton.parents, (parent, j) =>
    parent >= 0 && skeleton.roles[j] && skeleton.roles[parent] ? `M${at(parent)}L${at(j)}` : '',
  ).join('');
}
