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
  /** Between the joints at which the two bones begin, at the worst frame: x, y, z, metres. */
  readonly place: readonly [number, number, number];
  /** Names of the joints at which the two bones begin. */
  readonly joints: readonly [string, string];
}

/** Radius of a capsule around a bone, of its length; and the least and the most, metres, of a body of its own size (common practice). */
const WIDTH = { share: 0.16, least: 0.02, most: 0.11 };
/** Meetings less deep than this are none, metres: skin gives way. */
const TOUCH = 0.01;
/** Bodies whose roots are further apart than this, metres, cannot touch. */
const APART = 3;

/** Bones as capsules. */
interface Capsules {
  /** The joints at their ends, the root bone first: the only ones whose places are kept. */
  readonly joints: readonly number[];
  /** Ends as numbers of these joints. */
  readonly from: Int32Array;
  readonly to: Int32Array;
  readonly radii: Float64Array;
}

function capsulesOf({ names, parents, roles, rest, size, rootBone }: Skeleton): Capsules {
  const bones = names.flatMap((_, j) => {
    const parent = parents[j]!;
    const role = roles[j];
    // Fingers and faces are thin, and may touch what they like.
    if (parent < 0 || !role || isFineRole(role)) return [];
    const d = [0, 1, 2].map((k) => rest.positions[j * 3 + k]! - rest.positions[parent * 3 + k]!);
    const radius = Math.min(WIDTH.most * size, Math.max(WIDTH.least * size, WIDTH.share * Math.hypot(...d)));
    return [{ from: parent, to: j, radius }];
  });
  const joints = [...new Set([rootBone, ...bones.flatMap((b) => [b.from, b.to])])];
  return {
    joints,
    from: Int32Array.from(bones, (b) => joints.indexOf(b.from)),
    to: Int32Array.from(bones, (b) => joints.indexOf(b.to)),
    radii: Float64Array.from(bones, (b) => b.radius),
  };
}

/** A body's capsules, and the places of their joints at every frame, joints x 3 a frame. */
interface Moving extends Capsules {
  readonly places: Float32Array;
}

const moving = derivation('capsules', 8, (_, plan: CharacterPlan): Moving => {
  const { skeleton } = plan;
  const capsules = capsulesOf(skeleton);
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const { joints } = capsules;
  const places = new Float32Array(joints.length * 3 * Math.max(0, plan.end - plan.start));
  for (let frame = plan.start, at = 0; frame < plan.end; frame++) {
    const { positions } = poseToWorld(skeleton, evaluate(plan, frame, buffer), world);
    for (const joint of joints) for (let k = 0; k < 3; k++) places[at++] = positions[joint * 3 + k]!;
  }
  return { ...capsules, places };
});

/** The stretches in which two bodies are in each other: bones as capsules, the deepest pair of each stretch. */
export const measureMeetings = (a: CharacterPlan, b: CharacterPlan): readonly Meeting[] =>
  a.memory.recall(meetings, a, b);

const meetings = derivation('meetings', 50, (memory, a: CharacterPlan, b: CharacterPlan): Meeting[] => {
  const [own, other] = [memory.recall(moving, a), memory.recall(moving, b)];
  const out: Meeting[] = [];
  const last = Math.min(a.end, b.end);
  for (let frame = Math.max(a.start, b.start); frame < last; frame++) {
    const p = (frame - a.start) * own.joints.length * 3;
    const q = (frame - b.start) * other.joints.length * 3;
    const [x, z] = [0, 2].map((k) => own.places[p + k]! - other.places[q + k]!) as [number, number];
    if (Math.hypot(x, z) > APART) continue;
    const found = deepest(own, p, other, q);
    if (found.depth < TOUCH) continue;
    const joints = [
      a.skeleton.names[own.joints[found.a]!]!,
      b.skeleton.names[other.joints[found.b]!]!,
    ] as const;
    const between = (k: number): number =>
      (own.places[p + found.a * 3 + k]! + other.places[q + found.b * 3 + k]!) / 2;
    const place = [between(0), between(1), between(2)] as const;
    const met = { frame, end: frame + 1, worst: frame, overlapCm: found.depth * 100, place, joints };
    const before = out.at(-1);
    if (before?.end !== frame) out.push(met);
    else {
      const worse = met.overlapCm > before.overlapCm ? met : before;
      out[out.length - 1] = { ...worse, frame: before.frame, end: frame + 1 };
    }
  }
  return out;
});

/** The two bones that are deepest in each other, by the joints at which they begin. */
function deepest(a: Moving, p: number, b: Moving, q: number): { depth: number; a: number; b: number } {
  let [depth, first, second] = [-Infinity, 0, 0];
  for (let i = 0; i < a.radii.length; i++)
    for (let j = 0; j < b.radii.length; j++) {
      const [a0, a1] = [p + a.from[i]! * 3, p + a.to[i]! * 3];
      const apart = segmentsApart(a.places, a0, a1, b.places, q + b.from[j]! * 3, q + b.to[j]! * 3);
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
  // The second may be but a point: then the nearest of the first to it.
  if (e <= 1e-12 && a > 1e-12) s = unit(-c / a);
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
