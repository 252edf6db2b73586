import { cloudJoints, writeCloud } from '../clip/pointCloud';
import type { PoseBuffer, ScenePose, WorldPose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import type { FloorMove } from '../math/floorMove';
import { fitPoints } from '../math/pointFit';
import type { Skeleton } from '../skeleton/skeleton';
import type { SegmentPlan } from '../plan/plan';
import { hasSamples, segmentPose } from '../plan/segmentPose';

/** Frames that a cut's comparison reaches to either side, where both clips have them. */
const HANDLE_FRAMES = 5;

/**
 * Reads poses on both sides of a seam. Beyond its last sample a side holds its pose and its root goes on; before a gap
 * the outgoing side holds its last pose.
 */
export class FitReader {
  readonly skeleton: Skeleton;
  /** The match instant: the middle of the overlap, else the start. */
  readonly match: number;
  /** Frames whose poses are compared: the overlap, or those around a cut where both sides have samples. */
  readonly frames: readonly number[];
  private readonly joints: readonly number[];
  private readonly buffer: PoseBuffer;
  private readonly world: WorldPose;

  constructor(
    readonly outgoing: SegmentPlan,
    readonly incoming: SegmentPlan,
  ) {
    this.skeleton = outgoing.clip.skeleton;
    this.match = incoming.start + incoming.overlap / 2;
    this.frames = matchFrames(outgoing, incoming);
    this.joints = cloudJoints(this.skeleton);
    this.buffer = makePoseBuffer(this.skeleton);
    this.world = makeWorldPose(this.skeleton);
  }

  private read(segment: SegmentPlan, frame: number): ScenePose {
    const holds = segment === this.outgoing && this.incoming.start > segment.end;
    const { holdEnd } = segment.time;
    const still = holds || (holdEnd > 0 && frame >= segment.end - 1 - holdEnd);
    return segmentPose(segment, holds ? segment.end - 1 : frame, !still, this.buffer);
  }

  private readWorld(segment: SegmentPlan, frame: number): WorldPose {
    const pose = toParentSpace(this.skeleton, this.read(segment, frame));
    return poseToWorld(this.skeleton, pose, this.world);
  }

  /** Root of a side at the match instant or another frame. */
  root(segment: SegmentPlan, frame = this.match): FloorMove {
    const [x, z, turn] = this.read(segment, frame).root as unknown as [number, number, number];
    return { x, z, turn };
  }

  /** Place of a joint on the floor, at the match instant or another frame. */
  joint(segment: SegmentPlan, joint: number, frame = this.match): [number, number] {
    const { positions } = this.readWorld(segment, frame);
    return [positions[joint * 3]!, positions[joint * 3 + 2]!];
  }

  /** The floor move of all compared joints over all compared frames; null where they have no direction. */
  wholeBody(keepDirection: boolean): FloorMove | null {
    const points = this.joints.length;
    if (points < 2 && !keepDirection) return null;
    const clouds = [this.outgoing, this.incoming].map((segment) => {
      const cloud = new Float64Array(this.frames.length * points * 3);
      this.frames.forEach((frame, i) =>
        writeCloud(this.readWorld(segment, frame), this.joints, cloud, i * points * 3),
      );
      return cloud;
    });
    return fitPoints(
      clouds[0]!,
      clouds[1]!,
      new Float64Array(this.frames.length * points).fill(1),
      keepDirection,
    );
  }

  /** How much higher the outgoing body is at the match instant, metres: the mean over the compared joints. */
  heightDifference(): number {
    const mean = (segment: SegmentPlan): number => {
      const { positions } = this.readWorld(segment, this.match);
      return this.joints.reduce((sum, j) => sum + positions[j * 3 + 1]!, 0) / this.joints.length;
    };
    return mean(this.outgoing) - mean(this.incoming);
  }
}

function matchFrames(outgoing: SegmentPlan, incoming: SegmentPlan): number[] {
  const { start, overlap } = incoming;
  if (overlap > 0) return Array.from({ length: overlap + 1 }, (_, j) => start + j);
  if (start > outgoing.end) return [start];
  const around = Array.from({ length: 2 * HANDLE_FRAMES + 1 }, (_, j) => start - HANDLE_FRAMES + j);
  const both = around.filter((f) => hasSamples(outgoing, f) && hasSamples(incoming, f));
  return both.length > 0 ? both : [start];
}
