import type { SegmentPlan } from '@warper/core';
import { defined, isPlanted, makePoseBuffer, makeWorldPose, poseToWorld, restHeight } from '@warper/core';
import { sampleAt, segmentPose, toParentSpace } from '@warper/core/kernels';

/** A bone from end to end: ahead, up, ahead, up. */
export type BoneLine = readonly [number, number, number, number];

/** One pose of a strip, from the side: metres ahead of the root and above the floor. */
export interface StripFigure {
  /** Frames from the middle of the strip. */
  readonly offset: number;
  /** The sample that it shows. */
  readonly sample: number;
  /** The bones of the left side, and all others. */
  readonly left: readonly BoneLine[];
  readonly others: readonly BoneLine[];
  /** Middle of the head: on from its joint, where the neck points to. */
  readonly head: readonly [ahead: number, up: number] | null;
}

/** Poses of a segment around a frame, and when its feet are planted. */
export interface Strip {
  readonly figures: readonly StripFigure[];
  /** How large the body is beside a person, 1 at most, and the furthest that it reaches up, and ahead or behind, metres. */
  readonly size: number;
  readonly top: number;
  readonly reach: number;
  /** Of the left and the right foot: frames from the middle, the last not included. */
  readonly planted: readonly (readonly (readonly [from: number, to: number])[])[];
}

/**
 * Reads a strip of poses around a frame of a segment (a scene's frame), as seen by somebody who looks at its right-hand side
 * where it faces `heading`, radians. What the clip does not have is left out.
 *
 * @param offsets of the figures, frames from the middle
 */
export function readStrip(
  segment: SegmentPlan,
  middle: number,
  offsets: readonly number[],
  heading: number,
): Strip {
  const { skeleton } = segment.clip;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const size = Math.min(1, restHeight(skeleton) / PERSON);
  const [sine, cosine] = [Math.sin(heading), Math.cos(heading)];
  const figures = offsets.flatMap((offset): StripFigure[] => {
    const sample = sampleAt(segment, middle + offset);
    if (sample < 0) return [];
    const pose = toParentSpace(skeleton, segmentPose(segment, middle + offset, true, buffer));
    const { positions } = poseToWorld(skeleton, pose, world);
    const [rootX, rootZ] = [defined(pose.root[0]), defined(pose.root[1])];
    const at = (joint: number): [number, number] => [
      (defined(positions[joint * 3]) - rootX) * sine + (defined(positions[joint * 3 + 2]) - rootZ) * cosine,
      defined(positions[joint * 3 + 1]),
    ];
    const sides: { left: BoneLine[]; others: BoneLine[] } = { left: [], others: [] };
    skeleton.parents.forEach((parent, joint) => {
      if (parent < skeleton.rootBone) return;
      const isLeft = skeleton.roles[joint]?.startsWith('left') ?? false;
      sides[isLeft ? 'left' : 'others'].push([...at(parent), ...at(joint)]);
    });
    const joint = skeleton.roles.indexOf('head');
    const head = joint < 0 ? null : onFrom(at(Math.max(0, skeleton.parents[joint] ?? 0)), at(joint), size);
    return [{ offset, sample, ...sides, head }];
  });
  const [first, last] = [defined(offsets[0]), defined(offsets.at(-1))];
  const sides = ['left', 'right'].map((side) => {
    const feet = segment.steps().joints.filter((j) => j.role.startsWith(side));
    const stands = (offset: number): boolean =>
      feet.some(({ joint }) => isPlanted(segment, joint, middle + offset));
    return runsOf(first, last, stands);
  });
  const points = figures.flatMap((f) => [...f.left.flat(), ...f.others.flat(), ...(f.head ?? [])]);
  const furthest = (k: number): number =>
    points.reduce((most, v, i) => (i % 2 === k ? Math.max(most, Math.abs(v)) : most), 0);
  return { figures, size, top: furthest(1) + headRadius(size), reach: furthest(0), planted: sides };
}

/** Height of a person, and half the size of their head, metres. */
const PERSON = 1.7;
export const headRadius = (size: number): number => 0.1 * (0.4 + 0.6 * size);

/** A point behind another one, seen from a third, by about half a head. */
function onFrom(
  from: readonly [number, number],
  to: readonly [number, number],
  size: number,
): [number, number] {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const by = (0.09 * size) / (Math.hypot(dx, dy) || 1);
  return [to[0] + dx * by, to[1] + dy * by];
}

/** The stretches of frames in which something holds. */
function runsOf(first: number, last: number, holds: (frame: number) => boolean): [number, number][] {
  const runs: [number, number][] = [];
  for (let f = first; f <= last; f++) {
    if (!holds(f)) continue;
    const run = runs.at(-1);
    if (run?.[1] === f) run[1] = f + 1;
    else runs.push([f, f + 1]);
  }
  return runs;
}
