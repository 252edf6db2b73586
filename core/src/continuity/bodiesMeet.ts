import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { derivation } from '../memory/memory';
import type { CharacterPlan } from '../plan/plan';
import { isFineRole } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';

/** The frames in which two bodies are in each other, and how deep at the deepest. */
export interface Meeting {
  /** First frame, and the one after the last. */
  readonly frame: number;
  readonly end: number;
  readonly worst: number;
  readonly overlapCm: number;
  /** Names of the joints at which the two bones begin. */
  readonly joints: readonly [string, string];
}

/** Radius of a capsule around a bone, of its length; and the least and the most, metres, of a body of its own size (common practice). */
const WIDTH = { share: 0.16, least: 0.02, most: 0.11 };
/** Meetings less deep than this are none, metres: skin gives way. */
const TOUCH = 0.01;
/** Bodies whose roots are further apart than this, metres, cannot touch. */
const APART = 3;

/** Bones as capsules: joints of their ends, and radii. */
interface Capsules {
  readonly from: Int32Array;
  readonly to: Int32Array;
  readonly radii: Float64Array;
}

function capsulesOf({ names, parents, roles, rest, size }: Skeleton): Capsules {
  const bones = names.flatMap((_, j) => {
    const parent = parents[j]!;
    const role = roles[j];
    // Fingers and faces are thin, and may touch what they like.
    if (parent < 0 || !role || isFineRole(role)) return [];
    const d = [0, 1, 2].map((k) => rest.positions[j * 3 + k]! - rest.positions[parent * 3 + k]!);
    const radius = Math.min(WIDTH.most * size, Math.max(WIDTH.least * size, WIDTH.share * Math.hypot(...d)));
    return [{ from: parent, to: j, radius }];
  });
  return {
    from: Int32Array.from(bones, (b) => b.from),
    to: Int32Array.from(bones, (b) => b.to),
    radii: Float64Array.from(bones, (b) => b.radius),
  };
}

/** The places of all joints at every frame, joints x 3 a frame. */
const places = derivation('joint places', 20, (_, plan: CharacterPlan): Float32Array => {
  const { skeleton } = plan;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const joints = skeleton.names.length * 3;
  const out = new Float32Array(joints * Math.max(0, plan.end - plan.start));
  for (let f = 0; f * joints < out.length; f++)
    out.set(poseToWorld(skeleton, evaluate(plan, plan.start + f, buffer), world).positions, f * joints);
  return out;
});

/** The stretches in which two bodies are in each other: bones as capsules, the deepest pair of each stretch. */
export const measureMeetings = (a: CharacterPlan, b: CharacterPlan): readonly Meeting[] =>
  a.memory.recall(meetings, a, b);

const meetings = derivation('meetings', 50, (memory, a: CharacterPlan, b: CharacterPlan): Meeting[] => {
  const [placesA, placesB] = [memory.recall(places, a), memory.recall(places, b)];
  const [own, other] = [capsulesOf(a.skeleton), capsulesOf(b.skeleton)];
  const [sizeA, sizeB] = [a.skeleton.names.length * 3, b.skeleton.names.length * 3];
  const out: Meeting[] = [];
  const last = Math.min(a.end, b.end);
  for (let frame = Math.max(a.start, b.start); frame < last; frame++) {
    const [pa, pb] = [(frame - a.start) * sizeA, (frame - b.start) * sizeB];
    const [ra, rb] = [pa + a.skeleton.rootBone * 3, pb + b.skeleton.rootBone * 3];
    if (Math.hypot(placesA[ra]! - placesB[rb]!, placesA[ra + 2]! - placesB[rb + 2]!) > APART) continue;
    const found = deepest(own, placesA, pa, other, placesB, pb);
    if (found.depth < TOUCH) continue;
    const before = out.at(-1);
    const joints = [a.skeleton.names[found.a]!, b.skeleton.names[found.b]!] as const;
    const overlapCm = found.depth * 100;
    if (before?.end !== frame) out.push({ frame, end: frame + 1, worst: frame, overlapCm, joints });
    else
      out[out.length - 1] =
        overlapCm > before.overlapCm
          ? { ...before, end: frame + 1, worst: frame, overlapCm, joints }
          : { ...before, end: frame + 1 };
  }
  return out;
});

function deepest(
  a: Capsules,
  pa: Float32Array,
  ao: number,
  b: Capsules,
  pb: Float32Array,
  bo: number,
): { depth: number; a: number; b: number } {
  let [depth, first, second] = [-Infinity, 0, 0];
  for (let i = 0; i < a.radii.length; i++)
    for (let j = 0; j < b.radii.length; j++) {
      const apart = segmentsApart(
        pa,
        ao + a.from[i]! * 3,
        ao + a.to[i]! * 3,
        pb,
        bo + b.from[j]! * 3,
        bo + b.to[j]! * 3,
      );
      const deep = a.radii[i]! + b.radii[j]! - apart;
      if (deep > depth) [depth, first, second] = [deep, a.from[i]!, b.from[j]!];
    }
  return { depth, a: first, b: second };
}

/** The distance of two segments (Ericson, "Real-Time Collision Detection", 2005, section 5.1.9; memory). */
export function segmentsApart(
  p: Float32Array,
  p0: number,
  p1: number,
  q: Float32Array,
  q0: number,
  q1: number,
): number {
  const [ux, uy, uz] = [p[p1]! - p[p0]!, p[p1 + 1]! - p[p0 + 1]!, p[p1 + 2]! - p[p0 + 2]!];
  const [vx, vy, vz] = [q[q1]! - q[q0]!, q[q1 + 1]! - q[q0 + 1]!, q[q1 + 2]! - q[q0 + 2]!];
  const [rx, ry, rz] = [p[p0]! - q[q0]!, p[p0 + 1]! - q[q0 + 1]!, p[p0 + 2]! - q[q0 + 2]!];
  const a = ux * ux + uy * uy + uz * uz;
  const e = vx * vx + vy * vy + vz * vz;
  const f = vx * rx + vy * ry + vz * rz;
  const c = ux * rx + uy * ry + uz * rz;
  const b = ux * vx + uy * vy + uz * vz;
  const denominator = a * e - b * b;
  let s = denominator > 1e-12 ? unit((b * f - c * e) / denominator) : 0;
  let t = e > 1e-12 ? (b * s + f) / e : 0;
  if (t < 0) {
    t = 0;
    s = a > 1e-12 ? unit(-c / a) : 0;
  } else if (t > 1) {
    t = 1;
    s = a > 1e-12 ? unit((b - c) / a) : 0;
  }
  return Math.hypot(rx + s * ux - t * vx, ry + s * uy - t * vy, rz + s * uz - t * vz);
}

const unit = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);
