import { derivation, Memory } from '../memory/memory';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove } from '../math/floorMove';
import { cloudDistance, fitPoints } from '../math/pointFit';
import { quatAngle, quatCopy, quatTurn } from '../math/quaternion';
import type { Clip } from '../clip/clip';
import { cloudJoints, writeCloud } from '../clip/pointCloud';
import type { Pose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { rawHeadings, rootTrack } from '../clip/root';

/** Two poses are one when no joint differs by more than this. */
const SAME_POSE = { radians: (0.5 * Math.PI) / 180, metres: 0.002 };
/** A gap up to this many times the steps beside it is an ordinary step between samples. */
const ORDINARY_STEP = 1.6;
/** ... and one below this share of them is a pose that is nearly met, not a step. */
const SHORTEST_STEP = 0.3;
/** Gap by motion over the cycle above which a span is not a loop. */
const NOT_A_LOOP = 0.45;

/** How the end of a span of samples meets its start. */
export interface Loop {
  /**
   * `doubled`: the last sample is the first again; `ordinary`: the gap is a step like its neighbours;
   * `closes`: the end is bent to meet the start; `none`: so far apart that it is no loop.
   */
  readonly verdict: 'doubled' | 'ordinary' | 'closes' | 'none';
  readonly in: number;
  readonly out: number;
  /** Samples from the start of one cycle to the start of the next. */
  readonly period: number;
  /** Distance of last and first pose after the best floor move, metres (root mean square over the joints). */
  readonly gapMetres: number;
  /** Largest difference of a joint's turn between the last and the first pose, degrees. */
  readonly gapDegrees: number;
  /** The floor move from one cycle to the next. */
  readonly cycle: FloorMove;
}

/**
 * Examines the span of samples [from, to) as a cycle. The poses are compared after the whole-body fit that takes
 * the first onto the last, so that travel and turning are no part of the gap.
 *
 * @param verdict what was found of the clip that this one was made from (mirrored, on another skeleton); null judges
 */
export function examineLoop(
  clip: Clip,
  from = 0,
  to = clip.frames,
  verdict: Loop['verdict'] | null = null,
  memory = new Memory(),
): Loop {
  return memory.recall(examined, clip, from, to, verdict);
}

const examined = derivation(
  'loop',
  20_000,
  (memory, clip: Clip, from: number, to: number, verdict: Loop['verdict'] | null) =>
    examine(clip, from, to, verdict, memory),
);

function examine(clip: Clip, from: number, to: number, given: Loop['verdict'] | null, memory: Memory): Loop {
  const a = Math.ceil(from);
  const b = Math.ceil(to) - 1;
  const span = { in: from, out: to };
  if (b <= a) return { verdict: 'doubled', ...span, period: 1, gapMetres: 0, gapDegrees: 0, cycle: STILL };
  const reader = new PoseReader(clip);
  const first = reader.read(a);
  const last = reader.read(b);
  const cycle = fitClouds(last, first, clip, a, b, memory);
  const gap = cloudDistance(last.cloud, first.cloud, reader.weights, cycle);
  const turned = (largestTurn(clip, a, b, first, last, cycle) * 180) / Math.PI;
  const gaps = { gapMetres: gap, gapDegrees: turned };
  if (given ? given === 'doubled' : samePose(clip, a, b, first, last, cycle)) {
    return { verdict: 'doubled', ...span, period: b - a, ...gaps, cycle };
  }
  const step = reader.usualStep(a, b);
  if (given ? given === 'ordinary' : gap <= ORDINARY_STEP * step && gap >= SHORTEST_STEP * step) {
    return {
      verdict: 'ordinary',
      ...span,
      period: b - a + 1,
      ...gaps,
      cycle: oneSampleOn(clip, cycle, a, b, reader, memory),
    };
  }
  const motion = reader.largestDistance(first, a, b);
  const verdict = given ?? (gap > NOT_A_LOOP * motion ? 'none' : 'closes');
  return { verdict, ...span, period: b - a, ...gaps, cycle };
}

interface Read {
  readonly pose: Pose;
  readonly cloud: Float64Array;
}

class PoseReader {
  private readonly joints: readonly number[];
  readonly weights: Float64Array;
  constructor(private readonly clip: Clip) {
    this.joints = cloudJoints(clip.skeleton);
    this.weights = new Float64Array(this.joints.length).fill(1);
  }
  read(sample: number): Read {
    const pose = samplePose(this.clip, sample, makePoseBuffer(this.clip.skeleton));
    const world = poseToWorld(this.clip.skeleton, pose, makeWorldPose(this.clip.skeleton));
    const cloud = new Float64Array(this.joints.length * 3);
    writeCloud(world, this.joints, cloud, 0);
    return { pose, cloud };
  }
  distance(a: Read, b: Read): number {
    return cloudDistance(a.cloud, b.cloud, this.weights, fitPoints(a.cloud, b.cloud, this.weights) ?? STILL);
  }
  /** Median of the steps just inside both ends; a single jump, as out of a reference pose, does not count. */
  usualStep(a: number, b: number): number {
    const pairs = [a, a + 1, a + 2, b - 1, b - 2, b - 3].filter((s) => s >= a && s < b);
    const steps = [...new Set(pairs)].map((s) => this.distance(this.read(s), this.read(s + 1)));
    return steps.sort((x, y) => x - y)[steps.length >> 1]!;
  }
  largestDistance(first: Read, a: number, b: number): number {
    const stride = Math.max(1, Math.floor((b - a) / 60));
    let largest = 0;
    for (let s = a + 1; s <= b; s += stride) largest = Math.max(largest, this.distance(first, this.read(s)));
    return largest;
  }
}

/** The move that takes the pose at sample a onto the one at b: by the whole body, else by the root. */
function fitClouds(last: Read, first: Read, clip: Clip, a: number, b: number, memory: Memory): FloorMove {
  const weights = new Float64Array(last.cloud.length / 3).fill(1);
  return (
    fitPoints(last.cloud, first.cloud, weights) ??
    composeMoves(rawPlace(clip, b, memory), invertMove(rawPlace(clip, a, memory)))
  );
}

/** Root of a sample with the heading as it is, not calmed. */
function rawPlace(clip: Clip, sample: number, memory: Memory): FloorMove {
  const track = rootTrack(clip, memory);
  return { x: track[sample * 3]!, z: track[sample * 3 + 1]!, turn: rawHeadings(clip, memory)[sample]! };
}

/**
 * The move that takes the pose at a onto the one after b. Beyond the clip's end the joints are carried on through the
 * last three samples: fitting onto b itself and adding a step of the root errs by degrees, since limbs in swing pull the
 * fit round.
 */
function oneSampleOn(
  clip: Clip,
  cycle: FloorMove,
  a: number,
  b: number,
  reader: PoseReader,
  memory: Memory,
): FloorMove {
  if (b + 1 < clip.frames) return fitClouds(reader.read(b + 1), reader.read(a), clip, a, b + 1, memory);
  const first = reader.read(a);
  const [p, q, r] = [b, b - 1, Math.max(a, b - 2)].map((s) => reader.read(s).cloud) as [Cloud, Cloud, Cloud];
  const next = p.map((v, i) => (b - 2 >= a ? 3 * v - 3 * q[i]! + r[i]! : 2 * v - q[i]!));
  const step = composeMoves(rawPlace(clip, b, memory), invertMove(rawPlace(clip, b - 1, memory)));
  return fitPoints(next, first.cloud, reader.weights) ?? composeMoves(step, cycle);
}

type Cloud = Float64Array;

function samePose(clip: Clip, a: number, b: number, first: Read, last: Read, cycle: FloorMove): boolean {
  for (let i = 0; i < first.cloud.length; i += 3) {
    const one = { outgoing: last.cloud.slice(i, i + 3), incoming: first.cloud.slice(i, i + 3) };
    if (cloudDistance(one.outgoing, one.incoming, Float64Array.of(1), cycle) > SAME_POSE.metres) return false;
  }
  return largestTurn(clip, a, b, first, last, cycle) <= SAME_POSE.radians;
}

/** Largest angle between a joint's rotations at samples a and b; the root bone's in scene space, where the cycle's turn belongs. */
function largestTurn(clip: Clip, a: number, b: number, first: Read, last: Read, cycle: FloorMove): number {
  const { rootBone, names } = clip.skeleton;
  const turned = new Float64Array(4);
  const at = (sample: number): number => (sample * names.length + rootBone) * 4;
  quatCopy(clip.rotations, at(a), turned, 0);
  quatTurn(turned, 0, cycle.turn);
  return names.reduce((most, _, j) => {
    const angle =
      j === rootBone
        ? quatAngle(turned, 0, clip.rotations, at(b))
        : quatAngle(first.pose.rotations, j * 4, last.pose.rotations, j * 4);
    return Math.max(most, angle);
  }, 0);
}
