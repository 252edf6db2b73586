import { makePose } from '../clip/pose';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Character, Seam, Segment } from '../scene/scene';
import type { Placed } from '../timeline/lane';
import { seamNumber } from './baseSegment';
import { makeSettle } from './makeSettle';
import type { SegmentPlan } from './plan';
import { routeOf } from './routeOf';
import { segmentPose } from './segmentPose';
import type { SolvedFit } from './solveFit';
import { solveFit } from './solveFit';
import { stepTogether } from './stepEvents';

/** What a placed segment was made from: while it is the same, so is the plan. */
interface Made {
  readonly before: SegmentPlan | undefined;
  readonly base: SegmentPlan;
  readonly segment: Segment;
  readonly character: Character;
}

const origins = new WeakMap<SegmentPlan, Made>();

/**
 * Places the base segments of a body lane one on the other, in order; those that an edit did not touch are taken over
 * from the plan before.
 */
export function placeSegments(
  placed: readonly Placed[],
  bases: readonly SegmentPlan[],
  character: Character,
  rate: Rate,
  old: readonly SegmentPlan[],
): SegmentPlan[] {
  const warped = bringTogether(placed, bases);
  const known = new Map(old.map((s) => [s.id, s]));
  const segments: SegmentPlan[] = [];
  placed.forEach((item, i) => {
    const base = warped[i]!;
    const before = segments[i - 1];
    const previous = known.get(item.segment.id);
    const made = previous && origins.get(previous);
    if (
      made &&
      made.before === before &&
      made.base === base &&
      samePlace(made, item.segment) &&
      (before || made.character.start === character.start)
    ) {
      segments.push(previous);
      return;
    }
    const plan = placeOne(item, base, before, warped[i - 1], character, rate);
    origins.set(plan, { before, base, segment: item.segment, character });
    segments.push(plan);
  });
  return segments;
}

const samePlace = ({ segment }: Made, now: Segment): boolean =>
  segment.start === now.start &&
  segment.name === now.name &&
  segment.path === now.path &&
  segment.marks === now.marks;

interface Together {
  readonly own: SegmentPlan;
  readonly apart: number;
  readonly warp: ReturnType<typeof stepTogether>;
}

const together = new WeakMap<SegmentPlan, Together>();
const bent = new WeakMap<SegmentPlan, SegmentPlan[]>();

/** The base segments, those whose seam is to be in step bent in time on both sides of it. */
function bringTogether(placed: readonly Placed[], bases: readonly SegmentPlan[]): readonly SegmentPlan[] {
  if (!placed.some((p) => p.segment.seam.inStep && p.overlap > 0)) return bases;
  const out = bases.map((b, i) => at(b, placed[i]!.start));
  placed.forEach((item, i) => {
    if (i === 0 || !item.segment.seam.inStep || item.overlap === 0) return;
    const own = bases[i]!;
    const before = bases[i - 1]!;
    const apart = item.start - placed[i - 1]!.start;
    let known = together.get(before);
    if (!known || known.own !== own || known.apart !== apart) {
      known = { own, apart, warp: stepTogether(at(before, placed[i - 1]!.start), at(own, item.start)) };
      together.set(before, known);
    }
    const { warpOut, warpIn, remark } = known.warp;
    out[i - 1] = { ...out[i - 1]!, warpOut };
    out[i] = { ...out[i]!, warpIn, stepRemark: remark };
  });
  return out.map((o, i) => canonical(bases[i]!, o));
}

/** One object for each way in which a base is bent, at frame 0 again, so that what was made from it stays known. */
function canonical(base: SegmentPlan, plan: SegmentPlan): SegmentPlan {
  if (!plan.warpIn && !plan.warpOut && !plan.stepRemark) return base;
  let list = bent.get(base);
  if (!list) bent.set(base, (list = []));
  const same = list.find(
    (p) => p.warpIn === plan.warpIn && p.warpOut === plan.warpOut && p.stepRemark === plan.stepRemark,
  );
  if (same) return same;
  const made = at(plan, 0);
  list.push(made);
  return made;
}

/** A segment at another start, as if nothing had placed it. */
const at = (base: SegmentPlan, start: number): SegmentPlan =>
  base.start === start ? base : { ...base, start, end: start + base.end - base.start };

function placeOne(
  item: Placed,
  base: SegmentPlan,
  before: SegmentPlan | undefined,
  baseBefore: SegmentPlan | undefined,
  character: Character,
  rate: Rate,
): SegmentPlan {
  const { segment, start } = item;
  const solved =
    before && baseBefore
      ? fitOnto(before, baseBefore, base, start, segment.seam)
      : { move: startMove(at(base, start), character, start), lift: 0, remark: null };
  const { move, lift, remark } = solved;
  const plan = holdAtStart({
    ...base,
    id: segment.id,
    name: segment.name,
    start,
    end: start + base.end,
    move: Float64Array.of(move.x, move.z, move.turn),
    lift,
    fitRemark: remark,
  });
  const routed =
    segment.path.length > 0 || segment.marks.length > 0
      ? { ...plan, route: routeOf(plan, segment, framesPerSecond(rate)) }
      : plan;
  const { settle } = segment.seam;
  if (!before || settle === null || item.overlap > 0) return routed;
  return { ...routed, settle: makeSettle(before, routed, (settle * rate.den) / rate.num, rate) };
}

/** Fits of two bases by what the seam asks for, and by how far apart they start. */
type Fits = WeakMap<SegmentPlan, Map<number, Map<number, SolvedFit>>>;

const fits = new WeakMap<SegmentPlan, Fits>();

/**
 * The fit of a segment onto the one before. It depends on where that one stands only as a whole, so that it is solved
 * once for two bases and moved along; where a direction or a place is kept, or the way before is bent, it is solved there.
 */
function fitOnto(
  before: SegmentPlan,
  baseBefore: SegmentPlan,
  base: SegmentPlan,
  start: number,
  seam: Seam,
): SolvedFit {
  const placed = seam.fit === 'free' || (typeof seam.fit === 'object' && 'pin' in seam.fit) || !seam.facing;
  if (placed || before.route !== null) return solveFit(before, holdAtStart(at(base, start)), seam);
  let inner = fits.get(baseBefore);
  if (!inner) fits.set(baseBefore, (inner = new WeakMap()));
  let bySeam = inner.get(base);
  if (!bySeam) inner.set(base, (bySeam = new Map()));
  const number = seamNumber(seam);
  let byDistance = bySeam.get(number);
  if (!byDistance) bySeam.set(number, (byDistance = new Map()));
  let relative = byDistance.get(start - before.start);
  if (!relative) {
    relative = solveFit(holdAtStart(at(baseBefore, before.start)), holdAtStart(at(base, start)), seam);
    byDistance.set(start - before.start, relative);
  }
  const [x, z, turn] = before.move as unknown as [number, number, number];
  const lift = seam.height ? relative.lift + before.lift : 0;
  return { move: composeMoves({ x, z, turn }, relative.move), lift, remark: relative.remark };
}

/** Finds the floor place at which a segment in place stays: its root's at the first frame. */
function holdAtStart(plan: SegmentPlan): SegmentPlan {
  if (plan.travel !== 'in place') return plan;
  const pose = makePose(plan.clip.skeleton);
  segmentPose({ ...plan, travel: 'recorded' }, plan.start, false, pose);
  return { ...plan, held: pose.root.slice() };
}

/** The move that puts the root of the character's first frame where the character starts. */
function startMove(plan: SegmentPlan, character: Character, frame: number): FloorMove {
  if (!character.start) return STILL;
  const pose = makePose(plan.clip.skeleton);
  segmentPose(plan, frame, false, pose);
  const [x, z, turn] = pose.root as unknown as [number, number, number];
  const wanted = {
    x: character.start.x,
    z: character.start.z,
    turn: (character.start.heading * Math.PI) / 180,
  };
  return composeMoves(wanted, invertMove({ x, z, turn }));
}
