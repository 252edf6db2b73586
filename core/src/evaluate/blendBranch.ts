import { makePoseBuffer } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { derivation } from '../memory/memory';
import type { BlendBranch } from '../plan/blendPoses';
import { toRootSpace } from '../plan/blendPoses';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { settledPose } from './gapPose';

/** How near to a half turn (radians) headings, and to a half turn of a joint (cosine), the branch is written down. */
const NEAR_TURN = 0.05;
const NEAR_COSINE = 0.03;

/**
 * Which way round the sides of the crossfade before segment i are blended; null where the shorter way is the same throughout.
 * Made when it is first needed.
 */
export function branchOf(plan: CharacterPlan, i: number): BlendBranch | null {
  const kept = plan.branches[i];
  if (kept !== undefined) return kept;
  return (plan.branches[i] = plan.memory.recall(branch, plan.segments[i - 1]!, plan.segments[i]!));
}

const branch = derivation(
  'blend branch',
  5000,
  (_memory, before: SegmentPlan, segment: SegmentPlan): BlendBranch | null => findBranch(before, segment),
);

/**
 * Chosen frame by frame, the shorter way round jumps where the two sides come to stand opposite each other. It is chosen once,
 * in the middle of the overlap, and followed from there to both ends.
 */
function findBranch(before: SegmentPlan, segment: SegmentPlan): BlendBranch | null {
  const { skeleton } = segment.clip;
  const frames = Math.floor(segment.overlap) + 1;
  const middle = frames >> 1;
  const width = skeleton.names.length * 4;
  const buffer = makePoseBuffer(skeleton);
  const [from, to] = [new Float64Array(frames * width), new Float64Array(frames * width)];
  const turns = new Float64Array(frames);
  for (let k = 0; k < frames; k++) {
    const frame = segment.start + k;
    const left = toRootSpace(settledPose(before, frame, buffer), skeleton.rootBone);
    from.set(left.rotations, k * width);
    const heading = left.root[2]!;
    const right = toRootSpace(settledPose(segment, frame, buffer), skeleton.rootBone);
    to.set(right.rotations, k * width);
    turns[k] = shortestTurn(right.root[2]! - heading);
  }
  outward(frames, middle, (k, near) => {
    turns[k] = turns[near]! + shortestTurn(turns[k]! - turns[near]!);
  });
  const joints: number[] = [];
  for (let o = 0; o < width; o += 4) {
    const at = (k: number): number => k * width + o;
    if (dot(from, at(middle), to, at(middle)) < 0) flip(to, at(middle));
    let least = dot(from, at(middle), to, at(middle));
    outward(frames, middle, (k, near) => {
      for (const side of [from, to]) if (dot(side, at(k), side, at(near)) < 0) flip(side, at(k));
      least = Math.min(least, dot(from, at(k), to, at(k)));
    });
    if (least < NEAR_COSINE) joints.push(o / 4);
  }
  if (joints.length === 0 && turns.every((t) => Math.abs(t) < Math.PI - NEAR_TURN)) return null;
  const only = (side: Float64Array): Float64Array =>
    Float64Array.from({ length: frames * joints.length * 4 }, (_, n) => {
      const [k, rest] = [Math.floor(n / (joints.length * 4)), n % (joints.length * 4)];
      return side[k * width + joints[rest >> 2]! * 4 + (rest & 3)]!;
    });
  return {
    start: segment.start,
    turns,
    joints: Int32Array.from(joints),
    from: only(from),
    to: only(to),
    scratch: new Float64Array(joints.length * 4),
  };
}

/** Visits every place but the middle one, each after its neighbour towards the middle. */
function outward(count: number, middle: number, visit: (k: number, near: number) => void): void {
  for (let k = middle + 1; k < count; k++) visit(k, k - 1);
  for (let k = middle - 1; k >= 0; k--) visit(k, k + 1);
}

const dot = (a: Float64Array, p: number, b: Float64Array, q: number): number =>
  a[p]! * b[q]! + a[p + 1]! * b[q + 1]! + a[p + 2]! * b[q + 2]! + a[p + 3]! * b[q + 3]!;

function flip(q: Float64Array, o: number): void {
  for (let k = o; k < o + 4; k++) q[k] = -q[k]!;
}
