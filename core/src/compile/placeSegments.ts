import { makePose } from '../clip/pose';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Character, Seam, Segment } from '../scene/scene';
import type { Placed } from '../timeline/lane';
import { seamNumber } from './baseSegment';
import { makeSettle } from './makeSettle';
import type { SegmentPlan } from '../plan/plan';
import { withPlacement } from '../plan/plan';
import type { PreparedClip } from './prepareClip';
import { routeOf } from './routeOf';
import { segmentPose } from '../plan/segmentPose';
import type { SolvedFit } from './solveFit';
import { solveFit } from './solveFit';
import { stepWarp } from './stepWarp';

/** A segment of a body lane on its way into the plan, and what it was made from; taken over while that is the same. */
export interface Row {
  readonly segment: Segment;
  readonly prepared: PreparedClip;
  readonly placed: Placed;
  /** As it was recorded. */
  readonly base: SegmentPlan;
  /** The base, bent in time where a seam of it is in step. */
  readonly bent: SegmentPlan;
  readonly before: Row | undefined;
  /** Where it stands on the one before; null where that depends on where that one stands in the scene. */
  readonly relative: SolvedFit | null;
  readonly characterStart: Character['start'];
  readonly plan: SegmentPlan;
}

/** What a segment is placed from. */
export type Unplaced = Pick<Row, 'segment' | 'prepared' | 'placed' | 'base'>;

/**
 * Places the base segments of a body lane one on the other, in order. Those that an edit did not touch are taken over;
 * those behind it, which only stand elsewhere now, are moved along.
 *
 * @param known the row that a segment was before, where the segment itself has not changed
 */
export function placeSegments(
  items: readonly Unplaced[],
  character: Character,
  rate: Rate,
  known: (i: number) => Row | undefined,
): Row[] {
  const bents = warpToSteps(items);
  const rows: Row[] = [];
  for (let i = 0; i < items.length; i++) {
    const item = items[i]!;
    const bent = bents[i]!;
    const before = rows[i - 1];
    const was = known(i);
    if (was && was.bent === bent && was.before === before && isUnmoved(was, item, character)) {
      rows.push(
        was.placed === item.placed && was.base === item.base
          ? was
          : makeRow(item, bent, before, was.relative, was.plan, character.start),
      );
      continue;
    }
    const moved = was && before && moveAlong(was, item, bent, before);
    rows.push(moved ?? placeOne(item, bent, before, character, rate));
  }
  return rows;
}

/** Whether a segment starts where it did; a first one where its character does. */
const isUnmoved = (was: Row, { placed }: Unplaced, character: Character): boolean =>
  was.plan.start === placed.start && (was.before !== undefined || was.characterStart === character.start);

/** The row of a segment that stands on the one before as it did, wherever that one stands now. */
function moveAlong(was: Row, item: Unplaced, bent: SegmentPlan, before: Row): Row | null {
  const { relative } = was;
  const { start } = item.placed;
  const apart = start - before.plan.start;
  if (
    !relative ||
    was.bent !== bent ||
    was.before?.bent !== before.bent ||
    apart !== was.plan.start - was.before.plan.start ||
    !dependsOnlyOnPlacement(was.plan) ||
    before.plan.route !== null
  )
    return null;
  const lift = (item.segment.seam.height ? relative.lift + before.plan.lift : 0) + item.segment.lift;
  const plan = withPlacement(was.plan, start, start + bent.end, movedBy(before.plan, relative), lift);
  return makeRow(item, bent, before, relative, plan, was.characterStart);
}

// Written out: objects spread into one another are copied entry by entry, which took most of the time of a long lane.
function makeRow(
  { segment, prepared, placed, base }: Unplaced,
  bent: SegmentPlan,
  before: Row | undefined,
  relative: SolvedFit | null,
  plan: SegmentPlan,
  characterStart: Character['start'],
): Row {
  return { segment, prepared, placed, base, bent, before, relative, characterStart, plan };
}

/** Whether nothing of a plan but its move depends on where it stands. */
const dependsOnlyOnPlacement = (plan: SegmentPlan): boolean =>
  plan.travel !== 'in place' && plan.route === null && plan.settle === null;

/** Where a segment comes to lie that stands on another. */
function movedBy(before: SegmentPlan, { move }: SolvedFit): Float64Array {
  const [x, z, turn] = before.move as unknown as [number, number, number];
  const out = composeMoves({ x, z, turn }, move);
  return Float64Array.of(out.x, out.z, out.turn);
}

interface Together {
  readonly own: SegmentPlan;
  readonly apart: number;
  readonly warp: ReturnType<typeof stepWarp>;
}

const together = new WeakMap<SegmentPlan, Together>();
const bent = new WeakMap<SegmentPlan, SegmentPlan[]>();

/** The base segments, those whose seam is to be in step bent in time on both sides of it. */
function warpToSteps(items: readonly Unplaced[]): readonly SegmentPlan[] {
  const bases = items.map((i) => i.base);
  const placed = items.map((i) => i.placed);
  if (!placed.some((p) => p.segment.seam.inStep && p.overlap > 0)) return bases;
  const out = bases.map((b, i) => at(b, placed[i]!.start));
  placed.forEach((item, i) => {
    if (i === 0 || !item.segment.seam.inStep || item.overlap === 0) return;
    const own = bases[i]!;
    const before = bases[i - 1]!;
    const apart = item.start - placed[i - 1]!.start;
    let known = together.get(before);
    if (!known || known.own !== own || known.apart !== apart) {
      known = { own, apart, warp: stepWarp(at(before, placed[i - 1]!.start), at(own, item.start)) };
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
  item: Unplaced,
  bent: SegmentPlan,
  before: Row | undefined,
  character: Character,
  rate: Rate,
): Row {
  const { segment, placed } = item;
  const { start } = placed;
  const relative = before ? relativeFit(before, bent, start, segment.seam) : null;
  const { move, lift, remark } = solvePlace(before, bent, relative, start, segment.seam, character);
  const standing = holdAtStart({
    ...bent,
    shape: {},
    id: segment.id,
    name: segment.name,
    start,
    end: start + bent.end,
    move: Float64Array.of(move.x, move.z, move.turn),
    lift: lift + segment.lift,
    fitRemark: remark,
  });
  const routed =
    segment.path.length > 0 || segment.marks.length > 0
      ? { ...standing, route: routeOf(standing, segment, framesPerSecond(rate)) }
      : standing;
  const { settle } = segment.seam;
  const plan =
    !before || settle === null || placed.overlap > 0
      ? routed
      : { ...routed, settle: makeSettle(before.plan, routed, (settle * rate.den) / rate.num, rate) };
  return makeRow(item, bent, before, relative, plan, character.start);
}

function solvePlace(
  before: Row | undefined,
  bent: SegmentPlan,
  relative: SolvedFit | null,
  start: number,
  seam: Seam,
  character: Character,
): SolvedFit {
  if (!before) return { move: startMove(at(bent, start), character, start), lift: 0, remark: null };
  if (!relative) return solveFit(before.plan, holdAtStart(at(bent, start)), seam);
  const [x, z, turn] = before.plan.move as unknown as [number, number, number];
  const lift = seam.height ? relative.lift + before.plan.lift : 0;
  return { move: composeMoves({ x, z, turn }, relative.move), lift, remark: relative.remark };
}

/** Fits of two bases by what the seam asks for, and by how far apart they start. */
type Fits = WeakMap<SegmentPlan, Map<number, Map<number, SolvedFit>>>;

const fits = new WeakMap<SegmentPlan, Fits>();

/**
 * The fit of a segment onto the one before, as if that one stayed where it was recorded: solved once for two bases, and
 * moved along. Null where a direction or a place is kept, or the way before is bent: those depend on where it stands.
 */
function relativeFit(before: Row, bent: SegmentPlan, start: number, seam: Seam): SolvedFit | null {
  const placed = seam.fit === 'free' || (typeof seam.fit === 'object' && 'pin' in seam.fit) || !seam.facing;
  if (placed || before.plan.route !== null) return null;
  let inner = fits.get(before.bent);
  if (!inner) fits.set(before.bent, (inner = new WeakMap()));
  let bySeam = inner.get(bent);
  if (!bySeam) inner.set(bent, (bySeam = new Map()));
  const number = seamNumber(seam);
  let byDistance = bySeam.get(number);
  if (!byDistance) bySeam.set(number, (byDistance = new Map()));
  const apart = start - before.plan.start;
  let relative = byDistance.get(apart);
  if (!relative) {
    relative = solveFit(holdAtStart(at(before.bent, before.plan.start)), holdAtStart(at(bent, start)), seam);
    byDistance.set(apart, relative);
  }
  return relative;
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
