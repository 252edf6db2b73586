import { smoothLowering } from '../steps/hipsLowering';
import type { HoldScratch, LegHolds } from '../steps/footHolds';
import { applyHolds, holdTargets, legsToWorld, makeHoldScratch, neededLowering } from '../steps/footHolds';
import { EASE_SECONDS } from '../steps/groundFeet';
import type { Pose } from '../clip/pose';
import { makePose } from '../clip/pose';
import type { Planting } from '../steps/stepHolds';
import { stepHolds } from '../steps/stepHolds';
import { findSteps } from '../steps/steps';
import { framesPerSecond } from '../math/rate';
import { legsOf } from '../skeleton/legs';
import type { Skeleton } from '../skeleton/skeleton';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import type { CharacterPlan, LayerPlan, SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { segmentAt } from '../plan/segmentAt';

/** Neighbours on either side whose steps are looked at at least; a step that goes on beyond them is followed to its ends. */
const NEIGHBOURS = 2;
/** Seconds beyond a segment for which its holds are kept, and half of it for which the hips' drop is known. */
const MARGIN_SECONDS = 1;

/** The held feet while one segment rules. */
export interface SegmentLock {
  readonly legs: readonly LegHolds[];
  /** How far the hips come down at whole frames from `dropStart` on, metres; null where they never do. */
  readonly drops: Float64Array | null;
  readonly dropStart: number;
}

/** What a lock was made from: while all of it is the same, so is the lock. */
interface Origin {
  /** Segments from index `first` on that were looked at; beyond them there were others, or none. */
  readonly first: number;
  readonly around: readonly (SegmentPlan | undefined)[];
  readonly layers: readonly LayerPlan[];
  readonly all: boolean;
  readonly lock: SegmentLock;
}

const locks = new WeakMap<SegmentPlan, Origin>();
const scratches = new WeakMap<Skeleton, HoldScratch>();

/** The middle of the seam before segment i: from there on its steps rule. */
const ruleStart = (segments: readonly SegmentPlan[], i: number): number => {
  const segment = segments[i];
  if (!segment) return Infinity;
  return i === 0 ? -Infinity : segment.start + segment.overlap / 2;
};

/**
 * Holds the planted feet of a finished pose: all of them where the character asks for it, else those of segments whose
 * way is bent. At a seam the steps of the side that weighs more rule.
 *
 * @returns how far the furthest foot stays from its place, metres
 */
export function lockFeet(plan: CharacterPlan, frame: number, out: Pose): number {
  if (!plan.holdsFeet || plan.segments.length === 0) return 0;
  let i = Math.max(0, segmentAt(plan.segments, frame));
  if (frame < ruleStart(plan.segments, i)) i--;
  const { legs, drops, dropStart } = segmentLock(plan, i);
  if (legs.length === 0) return 0;
  const { skeleton } = plan;
  let scratch = scratches.get(skeleton);
  if (!scratch) scratches.set(skeleton, (scratch = makeHoldScratch(skeleton)));
  legsToWorld(skeleton, out, scratch.world);
  const moved = holdTargets(legs, frame, easeFrames(plan), scratch.world, scratch.targets);
  const drop = drops ? dropAt(drops, frame - dropStart) : 0;
  return moved || drop > 0 ? applyHolds(skeleton, legs, drop, out, scratch) : 0;
}

const easeFrames = (plan: CharacterPlan): number => EASE_SECONDS * framesPerSecond(plan.rate);

function dropAt(drops: Float64Array, index: number): number {
  const last = drops.length - 1;
  const f = Math.min(Math.max(index, 0), last);
  const a = Math.floor(f);
  return drops[a]! + (f - a) * (drops[Math.min(a + 1, last)]! - drops[a]!);
}

/** The lock while segment i rules; made when it is first needed. */
export function segmentLock(plan: CharacterPlan, i: number): SegmentLock {
  const own = plan.segments[i]!;
  const { layers } = plan;
  const all = plan.character.footLock;
  const known = locks.get(own);
  if (known && known.layers === layers && known.all === all && sameAround(plan, known)) return known.lock;
  const { lock, first, last } = makeLock(plan, i);
  // One more on either side: what ends the looked-at steps there is part of the answer.
  const around = Array.from({ length: last - first + 3 }, (_, k) => plan.segments[first - 1 + k]);
  locks.set(own, { first: first - 1, around, layers, all, lock });
  return lock;
}

function sameAround(plan: CharacterPlan, { first, around }: Origin): boolean {
  for (let k = 0; k < around.length; k++) if (around[k] !== plan.segments[first + k]) return false;
  return true;
}

const NO_LOCK: SegmentLock = { legs: [], drops: null, dropStart: 0 };

/** A lock, and the first and last segment that it depends on. */
interface Made {
  readonly lock: SegmentLock;
  readonly first: number;
  readonly last: number;
}

function makeLock(plan: CharacterPlan, i: number): Made {
  const { segments, skeleton, character } = plan;
  const least = { first: Math.max(0, i - NEIGHBOURS), last: Math.min(segments.length - 1, i + NEIGHBOURS) };
  const near = range(least.first, least.last);
  const ruled = near.filter((j) => character.footLock || segments[j]!.route !== null);
  if (ruled.length === 0) return { lock: NO_LOCK, ...least };
  const reaches = legsOf(skeleton).map((_, leg) => followSteps(plan, leg, least.first, least.last));
  const first = Math.min(...reaches.map((r) => r.first), least.first);
  const last = Math.max(...reaches.map((r) => r.last), least.last);
  const margin = MARGIN_SECONDS * framesPerSecond(plan.rate);
  const from = Math.max(ruleStart(segments, i), segments[i]!.start) - margin;
  const to = Math.min(ruleStart(segments, i + 1), segments[i]!.end) + margin;
  const pose = makePose(skeleton);
  const scratch = makeHoldScratch(skeleton);
  const placeAt = (frame: number, joint: number, out: Float64Array): void => {
    evaluateUnlocked(plan, frame, pose);
    legsToWorld(skeleton, pose, scratch.world);
    for (let k = 0; k < 3; k++) out[k] = scratch.world.positions[joint * 3 + k]!;
  };
  const legs = legsOf(skeleton).map((leg, l): LegHolds => {
    const reached = range(reaches[l]!.first, reaches[l]!.last).flatMap((j) => plantingsOf(plan, j, l));
    const wanted = (start: number, end: number): boolean =>
      end >= from && start <= to && ruled.some((j) => touches(start, end, segments, j));
    const holds = stepHolds(leg, connected(reached, from, to), placeAt, null, wanted);
    return { leg, holds, keepsRaise: false };
  });
  if (legs.every((l) => l.holds.length === 0)) return { lock: NO_LOCK, first, last };
  const dropStart = Math.floor(from + margin / 2);
  const count = Math.ceil(to - margin / 2) - dropStart + 1;
  const needed = Float64Array.from({ length: count }, (_, k) => {
    evaluateUnlocked(plan, dropStart + k, pose);
    legsToWorld(skeleton, pose, scratch.world);
    const moved = holdTargets(legs, dropStart + k, easeFrames(plan), scratch.world, scratch.targets);
    return moved ? neededLowering(legs, scratch.targets, scratch.world) : 0;
  });
  const drops = needed.some((n) => n > 0) ? smoothLowering(needed, framesPerSecond(plan.rate)) : null;
  return { lock: { legs, drops, dropStart }, first, last };
}

const range = (first: number, last: number): number[] =>
  Array.from({ length: Math.max(0, last - first + 1) }, (_, k) => first + k);

/** The segments to look at for a leg: further while a foot that stands at the edge stands on beyond it. */
function followSteps(
  plan: CharacterPlan,
  leg: number,
  first: number,
  last: number,
): { first: number; last: number } {
  const { segments } = plan;
  const begins = (j: number): boolean => {
    const start = Math.max(segments[j]!.start, Math.ceil(ruleStart(segments, j)));
    return plantingsOf(plan, j, leg).some((p) => p.start <= start + 1);
  };
  const ends = (j: number): boolean => {
    const end = Math.ceil(ruleStart(segments, j + 1)) - 1;
    return plantingsOf(plan, j, leg).some((p) => p.end >= Math.min(end, segments[j]!.end - 1) - 1);
  };
  while (first > 0 && begins(first)) first--;
  while (last + 1 < segments.length && ends(last)) last++;
  return { first, last };
}

/** The plantings that reach into a span of frames, and those that are one step with them. */
function connected(plantings: readonly Planting[], from: number, to: number): Planting[] {
  const sorted = [...plantings].sort((a, b) => a.start - b.start);
  let [low, high] = [from, to];
  for (const p of sorted) if (p.start <= high + 2 && p.end >= low) high = Math.max(high, p.end);
  for (const p of sorted.reverse()) if (p.end >= low - 2 && p.start <= high) low = Math.min(low, p.start);
  return plantings.filter((p) => p.end >= low && p.start <= high);
}

const touches = (start: number, end: number, segments: readonly SegmentPlan[], j: number): boolean =>
  end >= ruleStart(segments, j) && start <= ruleStart(segments, j + 1);

const plantings = new WeakMap<SegmentPlan, { before: number; after: number; legs: Planting[][] }>();

/** The spans of frames, while segment j rules, in which joints of a leg are planted. */
function plantingsOf(plan: CharacterPlan, j: number, leg: number): readonly Planting[] {
  const { segments } = plan;
  const segment = segments[j]!;
  const before = ruleStart(segments, j);
  const after = ruleStart(segments, j + 1);
  let known = plantings.get(segment);
  if (!known || known.before !== before || known.after !== after) {
    const legs = legsOf(plan.skeleton).map((_, l) => findPlantings(segment, l, before, after));
    plantings.set(segment, (known = { before, after, legs }));
  }
  return known.legs[leg]!;
}

function findPlantings(segment: SegmentPlan, leg: number, before: number, after: number): Planting[] {
  if (segment.travel === 'in place') return [];
  const found: Planting[] = [];
  const first = Math.max(segment.start, Math.ceil(before));
  const last = Math.min(segment.end - 1, Math.ceil(after) - 1);
  const { route, start: routeStart } = segment;
  for (const { joint } of findSteps(segment.clip).joints.filter((j) => j.leg === leg)) {
    let start = NaN;
    for (let f = first; f <= last + 1; f++) {
      const on = f <= last && isPlanted(segment, joint, f);
      if (on && Number.isNaN(start)) start = f;
      if (on || Number.isNaN(start)) continue;
      // A foot that stands at the end stands on while the last pose is held.
      const rests = f > last && after > segment.end && Number.isFinite(after);
      found.push({ start, end: rests ? after - 1 : f - 1, joint, route, routeStart });
      start = NaN;
    }
  }
  return found;
}
