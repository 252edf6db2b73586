import { smoothGaussian } from '../math/smoothing';

/** The spans in which one of the looked-at joints is planted; see `JointSteps`. */
export interface Planted {
  readonly leg: number;
  readonly tip: boolean;
  readonly spans: readonly { readonly start: number; readonly end: number }[];
}

/** Steps of the root, metres a sample, frames - 1 of them, and how sure each is: 0 where no foot says anything. */
export interface FootSteps {
  readonly x: Float64Array;
  readonly z: Float64Array;
  readonly weights: Float64Array;
}

/** Planted velocities whose mean carries a body through the air. */
const BEFORE_FLIGHT = 3;

/**
 * Steps of the root that keep the planted feet still: v = -d/dt [R(theta) f] with f the foot relative to the root; toes
 * before the ankle, both feet weighted by how long each has been and will be planted.
 *
 * @param tracks frames x joints x 3, metres
 * @param root frames x 3: x, z, heading
 */
export function stepsFromPlanted(
  tracks: Float64Array,
  root: Float64Array,
  joints: readonly Planted[],
): FootSteps {
  const steps = emptySteps(root.length / 3);
  joints.forEach((planted, column) => {
    for (const span of planted.spans) {
      for (let s = span.start; s < span.end - 1; s++) {
        if (!planted.tip && tipStands(joints, planted, s)) continue;
        addStep(steps, tracks, root, joints.length, column, s, stepWeight(span.start, span.end, s));
      }
    }
  });
  return normalised(steps);
}

/**
 * A first guess at the same, before it is known what is planted: by the joints that are lowest over their own floors and
 * neither rise nor sink.
 *
 * @param heights one list for each joint, metres over its own floor
 * @param lowMetres height within which a joint counts
 */
export function stepsFromLowest(
  tracks: Float64Array,
  root: Float64Array,
  heights: readonly Float64Array[],
  lowMetres: number,
): FootSteps {
  const frames = root.length / 3;
  const steps = emptySteps(frames);
  heights.forEach((height, column) => {
    for (let s = 0; s + 1 < frames; s++) {
      const h = Math.max(height[s]!, height[s + 1]!) / lowMetres;
      const rise = Math.abs(height[s + 1]! - height[s]!) / (lowMetres / 2);
      addStep(steps, tracks, root, heights.length, column, s, Math.exp(-h * h - rise * rise) + 1e-9);
    }
  });
  return normalised(steps);
}

/** How sure a planted joint is from a sample to the next: by how long it has been and will be planted. */
export const stepWeight = (start: number, end: number, sample: number): number =>
  1 + Math.min(sample - start, end - 2 - sample);

const emptySteps = (frames: number): FootSteps => {
  const count = Math.max(1, frames - 1);
  return { x: new Float64Array(count), z: new Float64Array(count), weights: new Float64Array(count) };
};

function addStep(
  { x, z, weights }: FootSteps,
  tracks: Float64Array,
  root: Float64Array,
  columns: number,
  column: number,
  s: number,
  w: number,
): void {
  const a = (s * columns + column) * 3;
  const b = ((s + 1) * columns + column) * 3;
  x[s]! -= w * (tracks[b]! - root[s * 3 + 3]! - tracks[a]! + root[s * 3]!);
  z[s]! -= w * (tracks[b + 2]! - root[s * 3 + 4]! - tracks[a + 2]! + root[s * 3 + 1]!);
  weights[s]! += w;
}

function normalised(steps: FootSteps): FootSteps {
  steps.weights.forEach((w, s) => {
    if (w === 0) return;
    steps.x[s]! /= w;
    steps.z[s]! /= w;
  });
  return steps;
}

/** Whether the toes of a joint's leg stand from a sample to the next. */
export const tipStands = (joints: readonly Planted[], planted: Planted, sample: number): boolean =>
  joints.some(
    (j) => j.leg === planted.leg && j.tip && j.spans.some((s) => sample >= s.start && sample + 1 < s.end),
  );

/**
 * Fills steps without a planted foot with the mean of the last planted ones; before the first, with those after.
 *
 * @returns spans of samples [start, end) that are such a guess
 */
export function carryThroughFlight({ x, z, weights }: FootSteps): { start: number; end: number }[] {
  const spans: { start: number; end: number }[] = [];
  const estimated = Array.from(weights.keys()).filter((s) => weights[s]! > 0);
  if (estimated.length === 0) return [{ start: 0, end: weights.length + 1 }];
  for (let s = 0; s < weights.length; s++) {
    if (weights[s]! > 0) continue;
    const start = s;
    while (s < weights.length && weights[s] === 0) s++;
    const before = estimated.filter((k) => k < start).slice(-BEFORE_FLIGHT);
    const from = before.length > 0 ? before : estimated.slice(0, BEFORE_FLIGHT);
    const mean = (v: Float64Array): number => from.reduce((sum, k) => sum + v[k]!, 0) / from.length;
    x.fill(mean(x), start, s);
    z.fill(mean(z), start, s);
    spans.push({ start, end: s });
  }
  return spans;
}

/** The way (frames x 2: x, z) that begins where the root does and takes these steps, their speed calmed. */
export function wayOfSteps(steps: FootSteps, root: Float64Array, sigmaSamples: number): Float64Array {
  const frames = root.length / 3;
  const x = smoothGaussian(steps.x, sigmaSamples);
  const z = smoothGaussian(steps.z, sigmaSamples);
  const way = new Float64Array(frames * 2);
  way[0] = root[0]!;
  way[1] = root[1]!;
  for (let s = 1; s < frames; s++) {
    way[s * 2] = way[s * 2 - 2]! + x[s - 1]!;
    way[s * 2 + 1] = way[s * 2 - 1]! + z[s - 1]!;
  }
  return way;
}
