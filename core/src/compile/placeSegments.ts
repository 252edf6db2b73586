import { makePoseBuffer } from '../clip/pose';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Spline } from '../math/spline';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Character } from '../scene/character';
import type { Seam, Stepping } from '../scene/seam';
import type { Segment } from '../scene/segment';
import type { Placed } from '../timeline/lane';
import { segmentContent } from './segmentContent';
import { makeSettle } from './makeSettle';
import { makeStep } from './makeStep';
import { joinOf } from '../scene/seam';
import type { MadeStep } from '../plan/madeStep';
import type { SegmentPlan, SolvedFit } from '../plan/plan';
import { dependsOnlyOnPlacement, withPlacement } from '../plan/plan';
import type { PreparedClip } from './prepareClip';
import type { LeadPath } from './leads';
import { isLed, withLead } from './leads';
import { routeOf } from './routeOf';
import { segmentPose } from '../plan/segmentPose';
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
  /** How it is moved to meet somebody; null where it is not. */
  readonly met: FloorMove | null;
  /** The leads that bend its way. */
  readonly leads: readonly LeadPath[];
  readonly plan: SegmentPlan;
}

/** What others decide of where segments stand. */
export interface Guidance {
  /** How segments are moved to meet somebody, by id. */
  readonly meets: ReadonlyMap<string, FloorMove>;
  readonly leads: readonly LeadPath[];
}

/** What a segment is placed from. */
export type Unplaced = Pick<Row, 'segment' | 'prepared' | 'placed' | 'base'>;

/**
 * Places the base segments of a body lane one on the other, in order. Those that an edit did not touch are taken over;
 * those behind it, which only stand elsewhere now, are moved along.
 *
 * @param cached the row that a segment was before, where the segment itself has not changed
 */
export function placeSegments(
  items: readonly Unplaced[],
  character: Character,
  { meets, leads }: Guidance,
  rate: Rate,
  memory: Memory,
  cached: (i: number) => Row | undefined,
): Row[] {
  const bents = warpToSteps(items, memory);
  const rows: Row[] = [];
  for (let i = 0; i < items.length; i++) {
    const item = items[i]!;
    const bent = bents[i]!;
    const before = rows[i - 1];
    const previous = cached(i);
    const guided: Guided = {
      met: meets.get(item.segment.id) ?? null,
      leads:
        leads.length > 0 ? leads.filter((lead) => isLed(lead, item.placed.start, item.placed.end)) : leads,
    };
    if (
      previous &&
      previous.bent === bent &&
      previous.before === before &&
      isUnmoved(previous, item, character) &&
      isGuidedAlike(previous, guided)
    ) {
      rows.push(
        previous.placed === item.placed && previous.base === item.base
          ? previous
          : makeRow(item, bent, before, previous.relative, previous.plan, character.start, guided),
      );
      continue;
    }
    const isFree = guided.met === null && guided.leads.length === 0;
    const moved = isFree && previous && before && moveAlong(previous, item, bent, before);
    rows.push(moved || placeOne(item, bent, before, character, guided, rate, memory));
  }
  return rows;
}

type Guided = Pick<Row, 'met' | 'leads'>;

const UNGUIDED: Guided = { met: null, leads: [] };

function isGuidedAlike(a: Guided, b: Guided): boolean {
  const sameMeeting =
    a.met === b.met ||
    (a.met !== null &&
      b.met !== null &&
      a.met.x === b.met.x &&
      a.met.z === b.met.z &&
      a.met.turn === b.met.turn);
  return sameMeeting && a.leads.length === b.leads.length && a.leads.every((l, i) => l === b.leads[i]);
}

/** Whether a segment starts where it did; a first one where its character does. */
const isUnmoved = (previous: Row, { placed }: Unplaced, character: Character): boolean =>
  previous.plan.start === placed.start &&
  (previous.before !== undefined || previous.characterStart === character.start);

/** The row of a segment that stands on the one before as it did, wherever that one stands now. */
function moveAlong(previous: Row, item: Unplaced, bent: SegmentPlan, before: Row): Row | null {
  const { relative } = previous;
  const { start } = item.placed;
  const apart = start - before.plan.start;
  if (
    !relative ||
    previous.met !== null ||
    previous.bent !== bent ||
    previous.before?.bent !== before.bent ||
    apart !== previous.plan.start - previous.before.plan.start ||
    !dependsOnlyOnPlacement(previous.plan) ||
    (previous.plan.madeStep !== null && previous.before.plan.lift !== before.plan.lift) ||
    before.plan.route !== null
  )
    return null;
  const lift = (item.segment.seam.height ? relative.lift + before.plan.lift : 0) + item.segment.lift;
  const plan = withPlacement(previous.plan, {
    base: bent,
    relative,
    id: previous.plan.id,
    name: previous.plan.name,
    start,
    end: start + bent.end,
    move: movedBy(before.plan, relative),
    lift,
    fitRemark: previous.plan.fitRemark,
  });
  return makeRow(item, bent, before, relative, plan, previous.characterStart, UNGUIDED);
}

// Written out: objects spread into one another are copied entry by entry, which took most of the time of a long lane.
function makeRow(
  { segment, prepared, placed, base }: Unplaced,
  bent: SegmentPlan,
  before: Row | undefined,
  relative: SolvedFit | null,
  plan: SegmentPlan,
  characterStart: Character['start'],
  { met, leads }: Guided,
): Row {
  return { segment, prepared, placed, base, bent, before, relative, characterStart, met, leads, plan };
}

/** Where a segment comes to lie that stands on another. */
function movedBy(before: SegmentPlan, { move }: SolvedFit): Float64Array {
  const [x, z, turn] = before.move as unknown as [number, number, number];
  const out = composeMoves({ x, z, turn }, move);
  return Float64Array.of(out.x, out.z, out.turn);
}

const warpBetween = derivation(
  'step warp',
  5000,
  (_, before: SegmentPlan, segment: SegmentPlan, apart: number): ReturnType<typeof stepWarp> =>
    stepWarp(before, at(segment, apart)),
);

/** The base segments, those whose seam is to be in step warped in time on both sides of it. */
function warpToSteps(items: readonly Unplaced[], memory: Memory): readonly SegmentPlan[] {
  const bases = items.map((i) => i.base);
  const inStep = items.map(({ placed }, i) => {
    const join = joinOf(placed.segment.seam, placed.overlap);
    return i > 0 && join.kind === 'crossfade' && join.inStep;
  });
  if (!inStep.includes(true)) return bases;
  const warps = items.map(({ placed }, i) =>
    inStep[i]
      ? memory.recall(warpBetween, bases[i - 1]!, bases[i]!, placed.start - items[i - 1]!.placed.start)
      : null,
  );
  return bases.map((segment, i) => {
    const [incoming, outgoing] = [warps[i], warps[i + 1]];
    if (!incoming && !outgoing) return segment;
    return memory.recall(
      warped,
      segment,
      incoming?.warpIn ?? null,
      outgoing?.warpOut ?? null,
      incoming?.remark ?? null,
    );
  });
}

const warped = derivation(
  'warped segment',
  5000,
  (
    _,
    segment: SegmentPlan,
    warpIn: Spline | null,
    warpOut: Spline | null,
    stepRemark: string | null,
  ): SegmentPlan => (warpIn || warpOut || stepRemark ? { ...segment, warpIn, warpOut, stepRemark } : segment),
);

/** A segment at another start, as if nothing had placed it. */
const at = (base: SegmentPlan, start: number): SegmentPlan =>
  base.start === start ? base : { ...base, start, end: start + base.end - base.start };

function placeOne(
  item: Unplaced,
  bent: SegmentPlan,
  before: Row | undefined,
  character: Character,
  guided: Guided,
  rate: Rate,
  memory: Memory,
): Row {
  const { segment, placed } = item;
  const { start } = placed;
  const { met, leads } = guided;
  const relative =
    before && !met ? relativeFit(before, bent, start, segmentContent(segment, memory).seam, memory) : null;
  const fitted = solvePlace(before, bent, relative, start, segment.seam, character);
  const { lift, remark } = fitted;
  const move = met ? composeMoves(met, fitted.move) : fitted.move;
  const standing = holdAtStart(
    withPlacement(bent, {
      base: bent,
      relative,
      id: segment.id,
      name: segment.name,
      start,
      end: start + bent.end,
      move: Float64Array.of(move.x, move.z, move.turn),
      lift: lift + segment.lift,
      fitRemark: remark,
    }),
  );
  const routed =
    segment.path.length > 0 || segment.marks.length > 0
      ? { ...standing, route: routeOf(standing, segment, framesPerSecond(rate)) }
      : standing;
  const led = leads.reduce((plan, lead) => withLead(plan, lead, framesPerSecond(rate)), routed);
  const plan = before ? joined(before, bent, led, relative, rate, memory) : led;
  return makeRow(item, bent, before, relative, plan, character.start, guided);
}

/** A placed segment with what its join to the one before is made of. */
function joined(
  before: Row,
  bent: SegmentPlan,
  plan: SegmentPlan,
  relative: SolvedFit | null,
  rate: Rate,
  memory: Memory,
): SegmentPlan {
  const join = joinOf(plan.settings.seam, plan.overlap);
  if (join.kind === 'settle')
    return { ...plan, settle: makeSettle(before.plan, plan, (join.frames * rate.den) / rate.num, rate) };
  if (join.kind !== 'step') return plan;
  const apart = plan.start - before.plan.start;
  const madeStep =
    relative && dependsOnlyOnPlacement(before.plan) && dependsOnlyOnPlacement(plan)
      ? memory.recall(
          stepOnRecorded,
          before.bent,
          before.plan.lift,
          bent,
          plan.lift,
          apart,
          relative,
          join,
          rate,
        )
      : makeStep(before.plan, plan, join, rate, false, memory);
  return { ...plan, madeStep };
}

const stepOnRecorded = derivation(
  'made step',
  5000,
  (
    memory,
    before: SegmentPlan,
    liftBefore: number,
    segment: SegmentPlan,
    lift: number,
    apart: number,
    { move }: SolvedFit,
    join: Stepping,
    rate: Rate,
  ): MadeStep => {
    const standing = { ...at(segment, apart), move: Float64Array.of(move.x, move.z, move.turn), lift };
    return makeStep({ ...before, lift: liftBefore }, standing, join, rate, true, memory);
  },
);

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

/**
 * The fit of a segment onto the one before, as if that one stayed where it was recorded: solved once for two bases, and
 * moved along. Null where a direction or a place is kept, or the way before is bent: those depend on where it stands.
 */
function relativeFit(
  before: Row,
  bent: SegmentPlan,
  start: number,
  seam: Seam,
  memory: Memory,
): SolvedFit | null {
  const placed = seam.fit === 'free' || (typeof seam.fit === 'object' && 'pin' in seam.fit) || !seam.facing;
  if (placed || before.plan.route !== null) return null;
  return memory.recall(fitOnRecorded, before.bent, bent, start - before.plan.start, seam);
}

const fitOnRecorded = derivation(
  'fit',
  20_000,
  (_, before: SegmentPlan, segment: SegmentPlan, apart: number, seam: Seam): SolvedFit =>
    solveFit(holdAtStart(before), holdAtStart(at(segment, apart)), seam),
);

/** Finds the floor place at which a segment in place stays: its root's at the first frame. */
function holdAtStart(plan: SegmentPlan): SegmentPlan {
  if (plan.travel !== 'in place') return plan;
  const recorded: SegmentPlan = { ...plan, travel: 'recorded' };
  const pose = segmentPose(recorded, plan.start, false, makePoseBuffer(plan.clip.skeleton));
  return { ...plan, held: pose.root.slice() };
}

/** The move that puts the root of the character's first frame where the character starts. */
function startMove(plan: SegmentPlan, character: Character, frame: number): FloorMove {
  if (!character.start) return STILL;
  const pose = segmentPose(plan, frame, false, makePoseBuffer(plan.clip.skeleton));
  const [x, z, turn] = pose.root as unknown as [number, number, number];
  const wanted = {
    x: character.start.x,
    z: character.start.z,
    turn: (character.start.heading * Math.PI) / 180,
  };
  return composeMoves(wanted, invertMove({ x, z, turn }));
}
