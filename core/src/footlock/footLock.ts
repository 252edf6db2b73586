import { MAX_LOWERING, smoothLowering } from '../steps/hipsLowering';
import type { ByHand, LegHolds } from '../steps/footHolds';
import { applyHolds, holdTargets, legsToWorld, makeHoldScratch, neededLowering } from '../steps/footHolds';
import { EASE_SECONDS } from '../steps/groundFeet';
import type { Pose } from '../clip/pose';
import { makePoseBuffer } from '../clip/pose';
import type { Planting } from '../steps/stepHolds';
import { stepAfter } from '../steps/stepAfter';
import { stepHolds } from '../steps/stepHolds';
import { feetUnderKeys, movedByKeys, risenByKeys, turnedByKeys } from '../evaluate/rootMove';
import { moveAt } from '../math/floorMove';
import { framesPerSecond } from '../math/rate';
import { valueAt } from '../math/valueAt';
import { legsOf } from '../skeleton/legs';
import { evaluateUnlocked, rootFramesOf } from '../evaluate/evaluateUnlocked';
import { derivation } from '../memory/memory';
import type { CharacterPlan, SegmentLock, SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import type { Footfall } from '../seam/footfalls';
import { MAX_STEP_LOWERING } from '../seam/footfalls';
import { segmentAt } from '../plan/segmentAt';

/** Neighbours on either side whose steps are looked at at least; a step that goes on beyond them is followed to its ends. */
const NEIGHBOURS = 2;
/** Seconds at either end of a step in which a foot is counted as planted though it still moves. */
const EDGE_SECONDS = 0.1;
/** What a bent way differs by from frame to frame at least where it moves the body, metres and radians. */
const LEAST_MOVE = 1e-5;
/** Seconds beyond a segment for which its holds are kept, and half of it for which the hips' drop is known. */
const MARGIN_SECONDS = 1;

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
export function lockFeet(plan: CharacterPlan, frame: number, pose: Pose): number {
  if (!plan.holdsFeet || plan.segments.length === 0) return 0;
  let i = Math.max(0, segmentAt(plan.segments, frame));
  if (frame < ruleStart(plan.segments, i)) i--;
  const { legs, lowering, loweringStart } = segmentLock(plan, i);
  if (legs.length === 0) return 0;
  const { skeleton, holdScratch } = plan;
  legsToWorld(skeleton, pose, holdScratch);
  const moved = feetTargets(plan, legs, frame, holdScratch);
  const lowered = lowering ? valueAt(lowering, frame - loweringStart) : 0;
  return moved || lowered > 0 ? applyHolds(skeleton, legs, lowered, pose, holdScratch) : 0;
}

/**
 * Finds where the feet are to be: on their holds, and at the height that they have without what keys of the root lift and lower the body
 * by. Whether any foot is to be moved.
 */
function feetTargets(
  plan: CharacterPlan,
  legs: readonly LegHolds[],
  frame: number,
  scratch: ReturnType<typeof makeHoldScratch>,
): boolean {
  const moved = holdTargets(legs, frame, easeFrames(plan), scratch.world, scratch.targets);
  const rise = risenByKeys(plan, frame);
  if (rise === 0) return moved;
  for (let i = 0; i < legs.length; i++) scratch.targets[i * 4 + 1]! -= rise;
  return true;
}

const easeFrames = (plan: CharacterPlan): number => EASE_SECONDS * framesPerSecond(plan.rate);

/** The lock while segment i rules; made when it is first needed. */
export const segmentLock = (plan: CharacterPlan, i: number): SegmentLock =>
  (plan.locks[i] ??= recallLock(plan, i));

/** The lock of segment i, taken over where nothing of what it depends on has changed. */
function recallLock(plan: CharacterPlan, i: number): SegmentLock {
  const { segments, layers, skeleton, character, travelBone, leadIn } = plan;
  const { first, last } = reachOf(plan, i);
  // One more on either side: what ends the looked-at steps there is part of the answer.
  const around = Array.from({ length: last - first + 3 }, (_, k) => segments[first - 1 + k]);
  const others = [
    skeleton,
    character.footLock,
    travelBone?.joint,
    travelBone?.turned,
    first === 0 ? leadIn : 0,
    framesPerSecond(plan.rate),
    ...layers,
    ...rootFramesOf(plan),
    'segments',
    i - first,
    ...around,
  ];
  return plan.memory.recall(lock, ...others).made(plan, i);
}

/** A lock that is made when it is first asked for, by any of the plans that share it. */
interface SharedLock {
  readonly made: (plan: CharacterPlan, i: number) => SegmentLock;
}

const lock = derivation('foot lock', 5000, (_memory, ..._inputs: unknown[]): SharedLock => {
  let made: SegmentLock | null = null;
  return { made: (plan, i) => (made ??= makeLock(plan, i)) };
});

const NO_LOCK: SegmentLock = { legs: [], lowering: null, loweringStart: 0 };

/** The first and last segment that a lock depends on. */
interface Reach {
  readonly first: number;
  readonly last: number;
}

function reachOf(plan: CharacterPlan, i: number): Reach {
  const least = {
    first: Math.max(0, i - NEIGHBOURS),
    last: Math.min(plan.segments.length - 1, i + NEIGHBOURS),
  };
  if (ruledBy(plan, least).length === 0) return least;
  const reaches = legsOf(plan.skeleton).map((_, leg) => followSteps(plan, leg, least.first, least.last));
  return {
    first: Math.min(...reaches.map((r) => r.first), least.first),
    last: Math.max(...reaches.map((r) => r.last), least.last),
  };
}

/** The segments within reach whose planted feet are held. */
const ruledBy = (plan: CharacterPlan, { first, last }: Reach): number[] =>
  range(first, last).filter((j) => plan.character.footLock || byHandOf(plan, j) !== null);

function makeLock(plan: CharacterPlan, i: number): SegmentLock {
  const { segments, skeleton } = plan;
  const near = { first: Math.max(0, i - NEIGHBOURS), last: Math.min(segments.length - 1, i + NEIGHBOURS) };
  const ruled = ruledBy(plan, near);
  if (ruled.length === 0) return NO_LOCK;
  const margin = MARGIN_SECONDS * framesPerSecond(plan.rate);
  const from = Math.max(ruleStart(segments, i), segments[i]!.start) - margin;
  const to = Math.min(ruleStart(segments, i + 1), segments[i]!.end) + margin;
  const buffer = makePoseBuffer(skeleton);
  const scratch = makeHoldScratch(skeleton);
  const placeAt = (frame: number, joint: number, out: Float64Array): void => {
    legsToWorld(skeleton, evaluateUnlocked(plan, frame, buffer), scratch);
    for (let k = 0; k < 3; k++) out[k] = scratch.world.positions[joint * 3 + k]!;
  };
  const reaches = legsOf(skeleton).map((_, leg) => followSteps(plan, leg, near.first, near.last));
  const standing = legsOf(skeleton).map((leg, l): LegHolds => {
    const reached = range(reaches[l]!.first, reaches[l]!.last).flatMap((j) => plantingsOf(plan, j, l));
    const wanted = (start: number, end: number): boolean =>
      end >= from && start <= to && ruled.some((j) => touches(start, end, segments, j));
    const edge = EDGE_SECONDS * framesPerSecond(plan.rate);
    const holds = stepHolds(leg, connected(reached, from, to), placeAt, null, wanted, edge);
    return { leg, holds, keepsRaise: false };
  });
  if (standing.every((l) => l.holds.every((h) => h.exact))) return NO_LOCK;
  const legs = stepAfter(standing, placeAt, framesPerSecond(plan.rate));
  const stepping = legs !== standing;
  const loweringStart = Math.floor(from + margin / 2);
  const count = Math.ceil(to - margin / 2) - loweringStart + 1;
  const needed = Float64Array.from({ length: count }, (_, k) => {
    legsToWorld(skeleton, evaluateUnlocked(plan, loweringStart + k, buffer), scratch);
    const moved = feetTargets(plan, legs, loweringStart + k, scratch);
    return moved ? neededLowering(legs, scratch.targets, scratch.world) : 0;
  });
  const most = stepping ? MAX_STEP_LOWERING : MAX_LOWERING;
  const lowering = needed.some((n) => n > 0)
    ? smoothLowering(needed, framesPerSecond(plan.rate), most)
    : null;
  return { legs, lowering, loweringStart };
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

/** The spans of frames, while segment j rules, in which joints of a leg are planted. */
function plantingsOf(plan: CharacterPlan, j: number, leg: number): readonly Planting[] {
  const { segments, memory } = plan;
  const step = (i: number): Footfall | null => {
    const footfall = segments[i]?.madeStep?.feet[leg];
    return footfall?.swings ? footfall : null;
  };
  const [into, out] = [step(j), step(j + 1)];
  // A made step has each foot stand until it leaves, and from when it lands.
  const before = into ? segments[j]!.start + into.lands : ruleStart(segments, j);
  const after = out ? segments[j + 1]!.start + out.leaves + 1 : ruleStart(segments, j + 1);
  const found = memory.recall(plantings, segments[j]!, leg, before, after);
  const byHand = byHandOf(plan, j);
  return byHand ? found.map((p) => ({ ...p, byHand })) : found;
}

/** How a segment's own bent way moves its body; null where it is not bent. */
function routeByHand({ route, start }: SegmentPlan): ByHand | null {
  if (!route) return null;
  const move = new Float64Array(3);
  const before = new Float64Array(3);
  return {
    turnAt: (frame) => moveAt(route, frame - start, move)[2]!,
    movesAt: (frame) => {
      moveAt(route, frame - start, move);
      moveAt(route, frame - 1 - start, before);
      return move.some((v, k) => Math.abs(v - before[k]!) > LEAST_MOVE);
    },
    steps: true,
    keepsPlaces: false,
  };
}

/** How a segment's body is moved by hand: along its bent way, and by keys of the root; null where it is not. */
function byHandOf(plan: CharacterPlan, j: number): ByHand | null {
  const segment = plan.segments[j]!;
  const route = routeByHand(segment);
  const feet = feetUnderKeys(plan, segment.start, segment.end);
  if (!feet) return route;
  return {
    turnAt: (frame) => (route?.turnAt(frame) ?? 0) + turnedByKeys(plan, frame),
    movesAt: (frame) => (route?.movesAt(frame) ?? false) || movedByKeys(plan, frame),
    steps: feet === 'step',
    keepsPlaces: feet === 'hold',
  };
}

const plantings = derivation(
  'plantings',
  20_000,
  (_, segment: SegmentPlan, leg: number, before: number, after: number): Planting[] =>
    findPlantings(segment, leg, before, after),
);

function findPlantings(segment: SegmentPlan, leg: number, before: number, after: number): Planting[] {
  if (segment.travel === 'in place') return [];
  const matches: Planting[] = [];
  const first = Math.max(segment.start, Math.ceil(before));
  const last = Math.min(segment.end - 1, Math.ceil(after) - 1);
  const byHand = routeByHand(segment);
  for (const { joint } of segment.steps().joints.filter((j) => j.leg === leg)) {
    let start = NaN;
    for (let f = first; f <= last + 1; f++) {
      const on = f <= last && isPlanted(segment, joint, f);
      if (on && Number.isNaN(start)) start = f;
      if (on || Number.isNaN(start)) continue;
      // A foot that stands at the end stands on while the last pose is held.
      const rests = f > last && after > segment.end && Number.isFinite(after);
      matches.push({ start, end: rests ? after - 1 : f - 1, joint, byHand });
      start = NaN;
    }
  }
  return matches;
}
