import { cloudJoints, writeCloud } from '../clip/cloud';
import type { Pose, WorldPose } from '../clip/pose';
import { makePose, makeWorldPose, poseToWorld } from '../clip/pose';
import type { FloorMove } from '../math/floorMove';
import { STILL, shortestTurn } from '../math/floorMove';
import { fitPoints } from '../math/pointFit';
import type { Seam } from '../scene/scene';
import { fitPlaces, nudgeFit } from '../seam/fit';
import { carrierToLocal } from '../skeleton/carrier';
import type { SegmentPlan } from './plan';
import { hasSamples, segmentPose } from './segmentPose';

/** Frames that a cut's cloud reaches to either side, where both clips have them. */
const HANDLE_FRAMES = 5;

/** Where body and hips disagree by more than this about the direction, limbs in swing have turned the fit. */
const UNLIKE_RADIANS = Math.PI / 6;

/** A solved fit, and why it is another than the one asked for (null where it is not). */
export interface SolvedFit {
  readonly move: FloorMove;
  readonly remark: string | null;
}

/**
 * Solves the floor move that places `incoming` (whose own move must be the identity) on `outgoing`, nudge
 * included. The match instant is the middle of the overlap, else the start.
 */
export function solveFit(outgoing: SegmentPlan, incoming: SegmentPlan, seam: Seam): SolvedFit {
  const match = incoming.start + incoming.overlap / 2;
  const reader = new FitReader(outgoing, incoming);
  const rootIn = reader.incomingRoot(match);
  let move: FloorMove;
  let remark: string | null = null;
  if (seam.fit === 'free') move = STILL;
  else if (seam.fit === 'hips') move = fitPlaces(reader.outgoingRoot(match), rootIn, !seam.facing);
  else {
    const cloud = wholeBody(reader, incoming, outgoing, !seam.facing);
    if (!cloud) remark = 'The poses have no direction of their own on the floor: fitted by the hips.';
    const places = fitPlaces(reader.outgoingRoot(match), rootIn, !seam.facing);
    move = cloud ?? places;
    const apart = Math.abs(shortestTurn(move.turn - places.turn));
    if (apart > UNLIKE_RADIANS) {
      remark = `The poses are unlike: the whole body fits best ${Math.round((apart * 180) / Math.PI)}° away from the direction of the hips. Choose other frames, or fit by the hips.`;
    }
  }
  const { x, z, turn } = seam.nudge;
  if (x !== 0 || z !== 0 || turn !== 0) move = nudgeFit(move, rootIn, { x, z, turn: (turn * Math.PI) / 180 });
  return { move, remark };
}

/** Frames whose poses are compared: the overlap, or those around a cut where both sides have samples. */
function matchFrames(outgoing: SegmentPlan, incoming: SegmentPlan): number[] {
  const { start, overlap } = incoming;
  if (overlap > 0) return Array.from({ length: overlap + 1 }, (_, j) => start + j);
  if (start > outgoing.end) return [start];
  const around = Array.from({ length: 2 * HANDLE_FRAMES + 1 }, (_, j) => start - HANDLE_FRAMES + j);
  const both = around.filter((f) => hasSamples(outgoing, f) && hasSamples(incoming, f));
  return both.length > 0 ? both : [start];
}

function wholeBody(
  reader: FitReader,
  incoming: SegmentPlan,
  outgoing: SegmentPlan,
  keepDirection: boolean,
): FloorMove | null {
  const frames = matchFrames(outgoing, incoming);
  const points = reader.joints.length;
  const a = new Float64Array(frames.length * points * 3);
  const b = new Float64Array(a.length);
  frames.forEach((frame, i) => {
    reader.cloud(outgoing, frame, a, i * points * 3);
    reader.cloud(incoming, frame, b, i * points * 3);
  });
  if (points < 2 && !keepDirection) return null;
  return fitPoints(a, b, new Float64Array(frames.length * points).fill(1), keepDirection);
}

/** Reads poses of the two sides at any frame; the outgoing side beyond a gap holds its last pose. */
class FitReader {
  readonly joints: readonly number[];
  private readonly pose: Pose;
  private readonly world: WorldPose;

  constructor(
    private readonly outgoing: SegmentPlan,
    private readonly incoming: SegmentPlan,
  ) {
    const { skeleton } = outgoing.clip;
    this.joints = cloudJoints(skeleton);
    this.pose = makePose(skeleton);
    this.world = makeWorldPose(skeleton);
  }

  private read(segment: SegmentPlan, frame: number): void {
    const holds = segment === this.outgoing && this.incoming.start > segment.end;
    segmentPose(segment, holds ? segment.end - 1 : frame, !holds, this.pose);
  }

  cloud(segment: SegmentPlan, frame: number, out: Float64Array, at: number): void {
    this.read(segment, frame);
    const { skeleton } = segment.clip;
    carrierToLocal(skeleton, this.pose.rotations, this.pose.translations);
    writeCloud(poseToWorld(skeleton, this.pose, this.world), this.joints, out, at);
  }

  private root(segment: SegmentPlan, frame: number): FloorMove {
    this.read(segment, frame);
    const [x, z, turn] = this.pose.root as unknown as [number, number, number];
    return { x, z, turn };
  }
  outgoingRoot(frame: number): FloorMove {
    return this.root(this.outgoing, frame);
  }
  incomingRoot(frame: number): FloorMove {
    return this.root(this.incoming, frame);
  }
}
