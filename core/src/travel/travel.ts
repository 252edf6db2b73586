import { derivation, Memory } from '../memory/memory';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove } from '../math/floorMove';
import { quatTurn } from '../math/quaternion';
import { smoothGaussian } from '../math/smoothing';
import type { Clip } from '../clip/clip';
import type { Loop } from '../loops/loop';
import { examineLoop } from '../loops/loop';
import { rootTrack } from '../clip/root';
import type { FootSteps } from '../steps/footPath';
import { carryThroughFlight, stepsFromPlanted, wayOfSteps } from '../steps/footPath';
import type { Span } from '../steps/steps';
import { findSteps, inheritSteps } from '../steps/steps';
import { jointTracks } from '../clip/jointTracks';

/** Width of the Gaussian that calms velocities taken from the feet, seconds. */
const CALM_SECONDS = 0.03;
/** Width of the Gaussian that takes sway out of a travel path, seconds. */
const PATH_SIGMA_SECONDS = 0.35;
/** Least and largest factor by which travel is scaled to the feet. */
const FACTORS = { least: 0.5, most: 2 };

/** A clip moved along another way, and where that way is a guess. */
export interface Restored {
  readonly clip: Clip;
  /** Samples [start, end) without a planted foot, through which the body is carried at its last speed. */
  readonly estimated: readonly Span[];
}

const restored = derivation('restored travel', 500, (memory, clip: Clip): Restored => {
  const steps = footSteps(clip, memory);
  const estimated = carryThroughFlight(steps);
  const root = rootTrack(clip, memory);
  const path = wayOfSteps(steps, root, CALM_SECONDS * clip.rate);
  const way = Float64Array.from(root, (v, i) => (i % 3 === 2 ? v : path[Math.floor(i / 3) * 2 + (i % 3)]!));
  return { clip: withRoots(clip, way, 'restored', memory), estimated };
});

/**
 * The clip with its travel computed from the planted feet: at each instant the root moves so that the planted foot rests
 * (`stepsFromPlanted`). In flight it goes on with the mean of the last planted velocities.
 */
export const restoreTravel = (clip: Clip, memory = new Memory()): Restored => memory.recall(restored, clip);

/** Steps of the root that keep a clip's planted feet still. */
function footSteps(clip: Clip, memory: Memory): FootSteps {
  const { joints } = findSteps(clip, memory);
  const tracks = jointTracks(
    clip,
    joints.map((j) => j.joint),
  );
  return stepsFromPlanted(tracks, rootTrack(clip, memory), joints);
}

/**
 * The factor by which a clip's travel has to be taken for its planted feet to rest: the least squares of the root's
 * recorded way against the one that keeps the feet still. Real files drift by 6 to 10 %.
 */
export function travelFactor(clip: Clip, memory = new Memory()): number {
  const steps = footSteps(clip, memory);
  const sure = steps.weights.map((w) => (w > 0 ? 1 : 0));
  carryThroughFlight(steps);
  const root = rootTrack(clip, memory);
  const own = calmPath(root, 3, clip.rate);
  // Both ways are calmed alike, so that sway and changes of speed weigh the same in both.
  const feet = calmPath(wayOfSteps(steps, root, 0), 2, clip.rate);
  let [wanted, recorded] = [0, 0];
  for (let s = 0; s + 1 < clip.frames; s++) {
    if (!sure[s]) continue;
    const [dx, dz] = [own.x[s + 1]! - own.x[s]!, own.z[s + 1]! - own.z[s]!];
    wanted += dx * (feet.x[s + 1]! - feet.x[s]!) + dz * (feet.z[s + 1]! - feet.z[s]!);
    recorded += dx * dx + dz * dz;
  }
  if (!(recorded > 1e-9) || !(wanted > 0)) return 1;
  return Math.min(Math.max(wanted / recorded, FACTORS.least), FACTORS.most);
}

const scaled = derivation('scaled travel', 500, (memory, clip: Clip): Clip => {
  const factor = travelFactor(clip, memory);
  const { x, z } = calmPath(rootTrack(clip, memory), 3, clip.rate);
  const way = Float64Array.from(rootTrack(clip, memory));
  for (let s = 0; s < clip.frames; s++) {
    way[s * 3]! += (factor - 1) * (x[s]! - x[0]!);
    way[s * 3 + 1]! += (factor - 1) * (z[s]! - z[0]!);
  }
  return withRoots(clip, way, 'scaled', memory);
});

/** The clip with its travel scaled to its feet; sway stays as it is. */
export const scaleTravelToFeet = (clip: Clip, memory = new Memory()): Clip => memory.recall(scaled, clip);

/** A way (frames x width: x, z, ...) without its sway. */
function calmPath(way: Float64Array, width: number, rate: number): { x: Float64Array; z: Float64Array } {
  const column = (k: number): Float64Array =>
    Float64Array.from({ length: way.length / width }, (_, s) => way[s * width + k]!);
  const sigma = PATH_SIGMA_SECONDS * rate;
  return { x: smoothGaussian(column(0), sigma), z: smoothGaussian(column(1), sigma) };
}

/**
 * The clip with the turn over [from, to) taken out evenly: every step of the root keeps its length and direction in the
 * root's own frame, and loses an equal share of the turn. What it walked as a bend it walks straight on.
 *
 * @param verdict how the span loops, null where it is played once
 */
export function straightenTravel(
  clip: Clip,
  from: number,
  to: number,
  verdict: Loop['verdict'] | null,
  memory = new Memory(),
): Clip {
  return memory.recall(straightened, clip, from, to, verdict);
}

const straightened = derivation(
  'straightened travel',
  500,
  (memory, clip: Clip, from: number, to: number, verdict: Loop['verdict'] | null) =>
    straighten(clip, from, to, verdict, memory),
);

function straighten(
  clip: Clip,
  from: number,
  to: number,
  verdict: Loop['verdict'] | null,
  memory: Memory,
): Clip {
  const root = rootTrack(clip, memory);
  const place = (s: number): FloorMove => ({ x: root[s * 3]!, z: root[s * 3 + 1]!, turn: root[s * 3 + 2]! });
  const a = Math.ceil(from);
  const b = Math.min(Math.ceil(to), clip.frames) - 1;
  if (b <= a) return clip;
  const loop = verdict ? examineLoop(clip, from, to, verdict, memory) : null;
  const each = loop ? loop.cycle.turn / loop.period : (root[b * 3 + 2]! - root[a * 3 + 2]!) / (b - a);
  const way = Float64Array.from(root);
  const put = (s: number, m: FloorMove): FloorMove => {
    way.set([m.x, m.z, m.turn], s * 3);
    return m;
  };
  // Half of a step's turn goes before it and half after it: a bend of many chords becomes one straight line.
  const unbend = (step: FloorMove, turn: number): FloorMove =>
    composeMoves({ x: 0, z: 0, turn: -turn / 2 }, composeMoves(step, { x: 0, z: 0, turn: -turn / 2 }));
  let at = place(a);
  for (let s = a + 1; s < clip.frames; s++) {
    at = put(s, composeMoves(at, unbend(composeMoves(invertMove(place(s - 1)), place(s)), each)));
  }
  at = place(a);
  for (let s = a - 1; s >= 0; s--) {
    at = put(s, composeMoves(at, unbend(composeMoves(invertMove(place(s + 1)), place(s)), -each)));
  }
  return withRoots(clip, way, `straight:${from}:${to}`, memory);
}

/** The clip with its body carried so that its root runs along another track (frames x 3: x, z, heading). */
function withRoots(clip: Clip, way: Float64Array, what: string, memory = new Memory()): Clip {
  const root = rootTrack(clip, memory);
  const joints = clip.skeleton.names.length;
  const { rootBone } = clip.skeleton;
  const width = clip.translated.length * 3;
  const rotations = clip.rotations.slice();
  const translations = clip.translations.slice();
  for (let s = 0; s < clip.frames; s++) {
    const turn = way[s * 3 + 2]! - root[s * 3 + 2]!;
    if (turn !== 0) quatTurn(rotations, (s * joints + rootBone) * 4, turn);
    // What the body sways beside its root turns with it; a root under the root bone has none.
    const x = translations[s * width]! - root[s * 3]!;
    const z = translations[s * width + 2]! - root[s * 3 + 1]!;
    const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
    translations[s * width] = way[s * 3]! + x * cos + z * sin;
    translations[s * width + 2] = way[s * 3 + 1]! - x * sin + z * cos;
  }
  const travelBone = clip.travelBone && { ...clip.travelBone, root: way };
  return inheritSteps(
    { ...clip, id: `${clip.id}~${what}`, rotations, translations, travelBone },
    clip,
    undefined,
    memory,
  );
}
