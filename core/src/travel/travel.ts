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
import { carryThroughFlight, stepWeight, stepsFromPlanted, tipStands, wayOfSteps } from '../steps/footPath';
import type { Span } from '../steps/steps';
import { findSteps, inheritSteps } from '../steps/steps';
import { jointTracks } from '../clip/jointTracks';

/**
 * Width of the Gaussian that calms velocities taken from the feet, seconds. 0.03 let the toes of an exact walk slide by 3.5 mm a step and those
 * of capture by 19; 0.01 by 0.4 and 12, less than the capture itself, at less than half the recorded accelerations of the root.
 */
const CALM_SECONDS = 0.01;
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
 * The clip with the turn over [from, to) taken out evenly: every step of the root loses an equal share of the turn, about the feet
 * that stand, which stay where they stand. What it walked as a bend it walks straight on.
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
  const pivots = standingPlaces(clip, root, memory);
  /** A step of the root, from sample `s - 1` to `s`, that turns less by `turn`: about the feet that stand, which so stay where they are. */
  const unbend = (step: FloorMove, turn: number, s: number): FloorMove => {
    const [x, z] = [pivots[s * 2]!, pivots[s * 2 + 1]!];
    const after = { x: 0, z: 0, turn: step.turn - turn };
    const [old, now] = [turned(step.turn, x, z), turned(after.turn, x, z)];
    return { x: step.x + old.x - now.x, z: step.z + old.z - now.z, turn: after.turn };
  };
  let at = place(a);
  for (let s = a + 1; s < clip.frames; s++)
    at = put(s, composeMoves(at, unbend(composeMoves(invertMove(place(s - 1)), place(s)), each, s)));
  at = place(a);
  for (let s = a - 1; s >= 0; s--) {
    const step = unbend(composeMoves(invertMove(place(s)), place(s + 1)), each, s + 1);
    at = put(s, composeMoves(at, invertMove(step)));
  }
  return withRoots(clip, way, `straight:${from}:${to}`, memory);
}

/** A point turned about the root, as a floor move of that turn takes it. */
const turned = (turn: number, x: number, z: number): { x: number; z: number } => ({
  x: x * Math.cos(turn) + z * Math.sin(turn),
  z: z * Math.cos(turn) - x * Math.sin(turn),
});

/**
 * Where the feet of a clip stand from the sample before to each one, in the frame of the root: the places that a turn can be taken
 * out about without moving them. In flight, from where the last foot left to where the next one lands; for a clip of which no foot
 * stands, the root itself.
 *
 * @returns frames x (x, z), metres
 */
function standingPlaces(clip: Clip, root: Float64Array, memory: Memory): Float64Array {
  const { joints } = findSteps(clip, memory);
  const tracks = jointTracks(
    clip,
    joints.map((j) => j.joint),
  );
  const places = new Float64Array(clip.frames * 2);
  const weights = new Float64Array(clip.frames);
  joints.forEach((planted, column) => {
    for (const { start, end } of planted.spans)
      for (let s = start; s < end - 1; s++) {
        if (!planted.tip && tipStands(joints, planted, s)) continue;
        const w = stepWeight(start, end, s);
        const o = ((s + 1) * joints.length + column) * 3;
        const [dx, dz] = [tracks[o]! - root[s * 3 + 3]!, tracks[o + 2]! - root[s * 3 + 4]!];
        const own = turned(-root[s * 3 + 5]!, dx, dz);
        places[s * 2 + 2]! += w * own.x;
        places[s * 2 + 3]! += w * own.z;
        weights[s + 1]! += w;
      }
  });
  const known = Array.from(weights.keys()).filter((s) => weights[s]! > 0);
  for (const s of known) for (const k of [0, 1]) places[s * 2 + k]! /= weights[s]!;
  fillBetween(places, known, clip.frames);
  return places;
}

/** Fills places (x, z) between the known ones along straight lines, and keeps them beyond. */
function fillBetween(places: Float64Array, known: readonly number[], frames: number): void {
  let next = 0;
  for (let s = 0; s < frames && known.length > 0; s++) {
    while (next < known.length && known[next]! < s) next++;
    const [a, b] = [known[Math.max(0, next - 1)]!, known[Math.min(next, known.length - 1)]!];
    const t = b > a ? Math.min(1, Math.max(0, (s - a) / (b - a))) : 0;
    for (const k of [0, 1])
      places[s * 2 + k] = places[a * 2 + k]! + t * (places[b * 2 + k]! - places[a * 2 + k]!);
  }
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
