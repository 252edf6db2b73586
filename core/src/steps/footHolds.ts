import { bump, minimumJerk } from '../math/curve';
import { quatMultiply, quatRotate } from '../math/quaternion';
import type { Leg } from '../skeleton/legs';
import { legsOf } from '../skeleton/legs';
import type { Skeleton } from '../skeleton/skeleton';
import type { Pose, WorldPose } from '../clip/pose';
import { makeWorldPose } from '../clip/pose';
import { reachWithLeg } from './reachWithLeg';

/** A body that is moved over the floor by hand, as along a bent way: feet that stand do not go along. */
export interface ByHand {
  /** Radians by which it has been turned at a frame. */
  readonly turnAt: (frame: number) => number;
  /** Whether it is moved from the frame before to this one. */
  readonly movesAt: (frame: number) => boolean;
  /** Whether its feet step after it where they would be dragged. */
  readonly steps: boolean;
  /** Whether feet that stand stay where they stood before it was moved, instead of at the middle of where it has them. */
  readonly keepsPlaces: boolean;
}

/**
 * A joint held on its place for a span of time (after Kovar, Schreiner, Gleicher, "Footskate Cleanup for Motion Capture
 * Editing", SCA 2002). Times are frames, or samples of a clip, real numbers.
 */
export interface Hold {
  readonly start: number;
  readonly end: number;
  readonly joint: number;
  /** Whether it stays there by itself, and is left as it is. */
  readonly exact: boolean;
  /** Share of its correction that is made: less than all of it where that would throw the leg about, 0 where it is let go. */
  readonly weight: number;
  /** Where the joint rests, metres. */
  readonly x: number;
  readonly z: number;
  /** The height at which it is held, metres; null keeps its own rise and fall, raised by `raise`. */
  readonly level: number | null;
  readonly raise: number;
  /** How the body is moved by hand, and how it has been turned by that at the middle of the step; null where it is not. */
  readonly byHand: ByHand | null;
  readonly turn: number;
  /** The correction at the start and at the end, metres, and its speed there, metres a frame. */
  readonly before: Correction;
  readonly after: Correction;
  /** Metres by which the foot is raised on its way here where it steps from the hold before; null where its clip moves it there. */
  readonly lift: number | null;
}

/** What a hold moves its joint by, and how fast that changes on the floor. */
export interface Correction {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly vx: number;
  readonly vz: number;
}

/** The holds of one leg, in order of time; none overlap. */
export interface LegHolds {
  readonly leg: Leg;
  readonly holds: readonly Hold[];
  /** Whether the raise is carried on between holds, as a body with other feet needs it, or fades out. */
  readonly keepsRaise: boolean;
}

/** A pose worked on by holds: scratch for its world transforms. */
export interface HoldScratch {
  readonly world: WorldPose;
  readonly targets: Float64Array;
  /** The joints of the legs and what is above them, parents first. */
  readonly chain: Int32Array;
}

/** Room for the work on a skeleton's poses. */
export const makeHoldScratch = (skeleton: Skeleton): HoldScratch => ({
  world: makeWorldPose(skeleton),
  targets: new Float64Array(legsOf(skeleton).length * 4),
  chain: legChain(skeleton),
});

/** The joints from the top down to the feet, parents first. */
function legChain(skeleton: Skeleton): Int32Array {
  const joints = new Set<number>();
  for (const leg of legsOf(skeleton))
    for (const joint of [leg.ankle, leg.tip, leg.lower])
      for (let j = joint; j >= 0; j = skeleton.parents[j]!) joints.add(j);
  return Int32Array.from(joints).sort();
}

/** Writes the world transforms of the legs and what is above them to the scratch; those of other joints stay. */
export function legsToWorld(skeleton: Skeleton, pose: Pose, { world, chain }: HoldScratch): void {
  const { rotations: q, positions: p } = world;
  for (let i = 0; i < chain.length; i++) {
    const j = chain[i]!;
    const parent = skeleton.parents[j]!;
    if (parent < 0) {
      for (let k = 0; k < 4; k++) q[j * 4 + k] = pose.rotations[j * 4 + k]!;
      for (let k = 0; k < 3; k++) p[j * 3 + k] = pose.translations[j * 3 + k]!;
      continue;
    }
    quatMultiply(q, parent * 4, pose.rotations, j * 4, q, j * 4);
    quatRotate(q, parent * 4, pose.translations, j * 3, p, j * 3);
    for (let k = 0; k < 3; k++) p[j * 3 + k]! += p[parent * 3 + k]!;
  }
}

const smooth = (u: number): number => u * u * (3 - 2 * u);

/** Quintic from 1 to 0, and from slope 1 to 0; value, slope and acceleration are zero at the end. */
const fromValue = (s: number): number => 1 - s * s * s * (10 - 15 * s + 6 * s * s);
const fromSlope = (s: number): number => s * (1 - s * s * (6 - 8 * s + 3 * s * s));

/**
 * Finds where each leg's ankle is to be, in frames around its holds: on the held place within a hold. Before and after it
 * the correction comes and goes within `ease` frames (less where the next step is nearer) along the quintic that has its
 * value and speed at the hold, so that neither the foot nor its speed jumps.
 *
 * @param targets legs x 4: ankle x, y, z, and the turn about the vertical that the foot takes; written
 * @returns whether any foot is to be moved
 */
export function holdTargets(
  legs: readonly LegHolds[],
  frame: number,
  ease: number,
  world: WorldPose,
  targets: Float64Array,
): boolean {
  let moved = false;
  for (let i = 0; i < legs.length; i++) {
    const { leg, holds, keepsRaise } = legs[i]!;
    const a = leg.ankle * 3;
    const t = i * 4;
    for (let k = 0; k < 3; k++) targets[t + k] = world.positions[a + k]!;
    targets[t + 3] = 0;
    const next = firstEndingAfter(holds, frame);
    const hold = holds[next];
    if (hold && hold.start <= frame) {
      if (hold.exact || hold.weight === 0) continue;
      const { positions } = world;
      shift(
        hold,
        hold.turn,
        hold.weight * (hold.x - positions[hold.joint * 3]!),
        hold.weight * (hold.z - positions[hold.joint * 3 + 2]!),
        1,
        frame,
        leg,
        world,
        targets,
        t,
      );
      targets[t + 1]! += hold.level === null ? hold.raise : hold.level - positions[hold.joint * 3 + 1]!;
      moved = true;
      continue;
    }
    const before = holds[next - 1];
    if (before && hold && hold.lift !== null) {
      swingOver(before, hold, hold.lift, frame, leg, world, targets, t);
      moved = true;
      continue;
    }
    const span = Math.max(Math.min(ease, hold && before ? hold.start - before.end : Infinity), 1e-6);
    if (before && !before.exact && frame - before.end < span) {
      const s = (frame - before.end) / span;
      const [p, v] = [fromValue(s), fromSlope(s) * span];
      const { after } = before;
      shift(
        before,
        before.turn,
        p * after.x + v * after.vx,
        p * after.z + v * after.vz,
        p,
        frame,
        leg,
        world,
        targets,
        t,
      );
      moved = true;
    }
    if (hold && !hold.exact && hold.start - frame < span) {
      const s = (hold.start - frame) / span;
      const [p, v] = [fromValue(s), -fromSlope(s) * span];
      const { before: into } = hold;
      shift(
        hold,
        hold.turn,
        p * into.x + v * into.vx,
        p * into.z + v * into.vz,
        p,
        frame,
        leg,
        world,
        targets,
        t,
      );
      moved = true;
    }
    const raise = raiseBetween(before, hold, frame, span, keepsRaise);
    targets[t + 1]! += raise;
    if (raise !== 0) moved = true;
  }
  return moved;
}

/** A foot on its way from where it stood to where it steps to, by minimum jerk; it turns along. */
function swingOver(
  from: Hold,
  to: Hold,
  lift: number,
  frame: number,
  leg: Leg,
  world: WorldPose,
  targets: Float64Array,
  t: number,
): void {
  const u = (frame - from.end) / (to.start - from.end);
  const w = minimumJerk(u);
  const { positions } = world;
  const x = from.x + w * (to.x - from.x) - positions[to.joint * 3]!;
  const z = from.z + w * (to.z - from.z) - positions[to.joint * 3 + 2]!;
  shift(to, from.turn + w * (to.turn - from.turn), x, z, 1, frame, leg, world, targets, t);
  targets[t + 1]! += from.raise + w * (to.raise - from.raise) + lift * bump(u);
}

/** Index of the first hold that ends after a frame. */
function firstEndingAfter(holds: readonly Hold[], frame: number): number {
  let low = 0;
  let high = holds.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds[middle]!.end < frame) low = middle + 1;
    else high = middle;
  }
  return low;
}

function raiseBetween(
  before: Hold | undefined,
  next: Hold | undefined,
  frame: number,
  span: number,
  keeps: boolean,
): number {
  const a = before?.after.y ?? (keeps ? (next?.before.y ?? 0) : 0);
  const b = next?.before.y ?? (keeps ? a : 0);
  if (keeps) {
    if (!before || !next) return before ? a : b;
    return a + (b - a) * smooth((frame - before.end) / Math.max(next.start - before.end, 1e-6));
  }
  if (before && frame - before.end < span) return a * (1 - smooth((frame - before.end) / span));
  return next && next.start - frame < span ? b * (1 - smooth((next.start - frame) / span)) : 0;
}

/**
 * Moves an ankle target by a correction of the held joint, about which the foot turns by the share w of its bend: it keeps the direction
 * that the way has at `turn` while that bends under it.
 */
function shift(
  hold: Hold,
  turn: number,
  x: number,
  z: number,
  w: number,
  frame: number,
  leg: Leg,
  world: WorldPose,
  targets: Float64Array,
  t: number,
): void {
  targets[t]! += x;
  targets[t + 2]! += z;
  if (!hold.byHand) return;
  const bend = (turn - hold.byHand.turnAt(frame)) * w;
  const s = Math.sin(bend);
  const c = Math.cos(bend);
  const dx = world.positions[leg.ankle * 3]! - world.positions[hold.joint * 3]!;
  const dz = world.positions[leg.ankle * 3 + 2]! - world.positions[hold.joint * 3 + 2]!;
  targets[t]! += dx * c + dz * s - dx;
  targets[t + 2]! += -dx * s + dz * c - dz;
  targets[t + 3]! += bend;
}

/** How far the hips have to come down, metres, for every leg to reach its target. */
export function neededLowering(legs: readonly LegHolds[], targets: Float64Array, world: WorldPose): number {
  let drop = 0;
  for (let i = 0; i < legs.length; i++) {
    const { leg } = legs[i]!;
    const p = world.positions;
    const bone = (a: number, b: number): number =>
      Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
    const longest = (bone(leg.upper, leg.lower) + bone(leg.lower, leg.ankle)) * SURE_REACH;
    const across = Math.hypot(
      p[leg.upper * 3]! - targets[i * 4]!,
      p[leg.upper * 3 + 2]! - targets[i * 4 + 2]!,
    );
    const height = p[leg.upper * 3 + 1]! - targets[i * 4 + 1]!;
    if (across >= longest) {
      drop = Math.max(drop, height);
      continue;
    }
    drop = Math.max(drop, height - Math.sqrt(longest * longest - across * across));
  }
  return drop;
}

/** Share of a leg's length up to which a target is within reach without lowering the hips. */
const SURE_REACH = 0.999;

const _turn = new Float64Array(4);

/**
 * Puts the ankles on their targets: the hips come down by `drop`, the legs bend in their planes, the feet keep their
 * world rotation but for their turn.
 *
 * @returns the largest distance in metres that a leg could not reach
 */
export function applyHolds(
  skeleton: Skeleton,
  legs: readonly LegHolds[],
  drop: number,
  pose: Pose,
  scratch: HoldScratch,
): number {
  const { world, targets } = scratch;
  if (drop !== 0) {
    lowerRootBone(skeleton, drop, pose, world);
    legsToWorld(skeleton, pose, scratch);
  }
  let left = 0;
  for (let i = 0; i < legs.length; i++) {
    const { leg } = legs[i]!;
    const bend = targets[i * 4 + 3]!;
    if (bend === 0 && onTarget(world, leg.ankle, targets, i * 4)) continue;
    if (bend !== 0) {
      _turn[1] = Math.sin(bend / 2);
      _turn[3] = Math.cos(bend / 2);
      quatMultiply(_turn, 0, world.rotations, leg.ankle * 4, world.rotations, leg.ankle * 4);
    }
    left = Math.max(left, reachWithLeg(skeleton, leg, targets, i * 4, world, pose));
  }
  return left;
}

/** A foot that is to stay where it is is left alone, even where its leg is straight. */
function onTarget({ positions }: WorldPose, ankle: number, targets: Float64Array, t: number): boolean {
  for (let k = 0; k < 3; k++) if (Math.abs(positions[ankle * 3 + k]! - targets[t + k]!) > 1e-9) return false;
  return true;
}

const _down = new Float64Array(3);
const _up = new Float64Array(4);

function lowerRootBone(skeleton: Skeleton, drop: number, pose: Pose, world: WorldPose): void {
  const { rootBone, parents } = skeleton;
  const parent = parents[rootBone]!;
  _down[0] = 0;
  _down[1] = -drop;
  _down[2] = 0;
  if (parent >= 0) {
    for (let k = 0; k < 4; k++) _up[k] = (k < 3 ? -1 : 1) * world.rotations[parent * 4 + k]!;
    quatRotate(_up, 0, _down, 0, _down, 0);
  }
  for (let k = 0; k < 3; k++) pose.translations[rootBone * 3 + k]! += _down[k]!;
}
