import { makePoseBuffer } from '../clip/pose';
import { compile } from '../compile/compile';
import type { Library } from '../compile/compile';
import type { SeamValues } from '../continuity/grade';
import { DEFAULT_THRESHOLDS } from '../continuity/grade';
import { plainJoin } from './plainJoin';
import type { SeamMeasures } from '../continuity/seamMeasures';
import { measureSeam } from '../continuity/seamMeasures';
import { applyEdit } from '../edit/edit';
import type { Join } from '../edit/edits/join';
import { repeatsLoop } from '../edit/sceneEditor';
import { InputError } from '../math/errors';
import { shortestTurn } from '../math/floorMove';
import { framesPerSecond, parseRate } from '../math/rate';
import type { ChoiceLimits } from '../scene/choice';
import type { FitMode, Join as JoinKind } from '../scene/seam';
import { segmentPose } from '../plan/segmentPose';
import { PLAIN_CROSSFADE, PLAIN_STEP, joinOf } from '../scene/seam';
import type { Scene } from '../scene/scene';
import type { SegmentPlan } from '../plan/plan';
import type { Placed } from '../timeline/lane';
import { layOut, requireClip, settleFrames } from '../timeline/lane';
import { framesAt30 } from '../timeline/freeFrames';
import type { Bounds, Pair } from './momentMap';
import { MomentMap, halfWindow } from './momentMap';
import { describeChoice } from './describeChoice';
import { readSide } from './joinSides';

/** A join that was chosen. */
export interface JoinChoice {
  /** What makes the join so. */
  readonly edit: Join;
  readonly measures: SeamMeasures;
  /** The join as it was. */
  readonly before: SeamMeasures;
}

/** Frames of crossfades, and of made steps, that are tried, at 30 a second; even, so that two frames meet in the middle. */
const CROSSFADES = [8, 12, 16, 24, 32, 40];
const STEPS = [16, 20, 24, 28, 36];
/** Matches that are measured for each kind and length, beside the best within reach and the frames that meet as it is. */
const PAIRS = 3;
/** Seconds of either clip that stay at least. */
const KEPT_SECONDS = 1;
/** Metres by which a pair with other feet planted ranks behind. */
const OTHER_FEET = 0.06;
/** What a second that is lost, or gained, at either end costs, in thresholds of a measure. */
const LOST_SECOND = 0.5;
/** What a step costs that is made though it need not be. */
const STEP_COST = 0.3;
/** What a join costs that is to be looked at, and one that is bad, on top of its measures. */
export const GRADE_COST = { good: 0, watch: 1, bad: 2 };
/** Radians by which the fit of the bodies may turn one side away from the other's heading. */
const MOST_TURNED = Math.PI / 2;

interface Candidate {
  readonly edit: Join;
  readonly pair: Pair;
  readonly lostSeconds: number;
}

/**
 * How badly a join misses its thresholds: the fourth root of the sum of fourth powers, so that the worst counts most. A hitch
 * counts by what it is above that of the sources.
 */
export function joinCost(values: SeamValues): number {
  let sum = 0;
  for (const key of Object.keys(DEFAULT_THRESHOLDS) as (keyof SeamValues)[]) {
    const least = key === 'hitch' ? 1 : 0;
    const ratio = (values[key] - least) / (DEFAULT_THRESHOLDS[key].watch - least);
    sum += Math.max(0, ratio) ** 4;
  }
  return Math.sqrt(Math.sqrt(sum));
}

/**
 * Chooses how a segment joins the one before it: which frames meet, over how many frames, by a crossfade, a settle or a made step,
 * fitted by what. Candidates are the best matches of the two motions within the limits; the most promising are measured, and the
 * one that costs least is taken.
 *
 * @returns null for a segment that has none before it, or goes on with its loop
 */
export function chooseJoin(
  scene: Scene,
  segment: string,
  library: Library,
  limits: ChoiceLimits,
): JoinChoice | null {
  // What an earlier choice has trimmed is there again to be chosen from.
  const dropped = plainJoin(scene, segment, library);
  if (!dropped) return null;
  const isChosen = scene.segments[segment]!.seam.chosen !== null;
  const pair = pairOf(isChosen ? applyEdit(scene, dropped, library) : scene, segment, library);
  if (!pair) return null;
  const before = measure(pair.scene, library);
  const candidates = [asItIs(pair), ...candidatesOf(pair, library, limits)];
  let best: { readonly cost: number; readonly trial: Trial; readonly candidate: Candidate } | null = null;
  for (const candidate of candidates) {
    const trial = tryJoin(pair.scene, candidate.edit, library);
    if (!trial) continue;
    const { measures } = trial;
    const cost =
      joinCost(measures) +
      GRADE_COST[measures.grade] +
      LOST_SECOND * candidate.lostSeconds +
      (measures.kind === 'step' ? STEP_COST : 0);
    if (!best || cost < best.cost) best = { cost, trial, candidate };
  }
  if (!best) return null;
  const { candidate, trial } = best;
  const { edit } = candidate;
  const changed = {
    out: edit.before - pair.before.timing.frames,
    in: edit.own - pair.item.timing.frames,
  };
  const chosen = describeChoice(candidate.pair, changed, trial, before.measures);
  return {
    edit: { ...edit, values: { ...edit.values, auto: true, chosen } },
    measures: trial.measures,
    before: before.measures,
  };
}

/** Two neighbours by themselves, and what holds them in their lane. */
interface PairOnLane {
  readonly scene: Scene;
  readonly before: Placed;
  readonly item: Placed;
  /** Frames that the next segment shares with the incoming one. */
  readonly tail: number;
}

function pairOf(scene: Scene, id: string, library: Library): PairOnLane | null {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  if (!lane || lane.kind === 'layer') return null;
  const placed = layOut(scene, lane, library);
  const i = placed.findIndex((p) => p.segment.id === id);
  const [before, item] = [placed[i - 1], placed[i]];
  if (!before || !item || item.gap > 0 || repeatsLoop(before.segment, item.segment)) return null;
  const character = scene.characters[lane.character]!;
  return {
    scene: {
      ...scene,
      characters: { [character.id]: { ...character, leadIn: 0 } },
      characterOrder: [character.id],
      lanes: { [lane.id]: { ...lane, muted: false, locked: false, segments: [before.segment.id, id] } },
      laneOrder: [lane.id],
      segments: {
        [before.segment.id]: { ...before.segment, start: 0 },
        [id]: { ...item.segment, start: item.start - before.start },
      },
      groups: {},
    },
    before,
    item,
    tail: placed[i + 1]?.overlap ?? 0,
  };
}

/** The join that is there, which is as good as any until another one costs less. */
function asItIs({ before, item }: PairOnLane): Candidate {
  const { segment, timing, overlap } = item;
  const edit: Join = {
    type: 'join',
    segment: segment.id,
    before: before.timing.frames,
    own: timing.frames,
    overlap,
    values: { fit: segment.seam.fit },
    join: joinOf(segment.seam, overlap),
  };
  const half = Math.floor(overlap / 2);
  const pair: Pair = { out: before.timing.frames - half, in: half, distance: 0, sameFeet: true };
  return { edit, pair, lostSeconds: 0 };
}

/** A join that is tried. */
interface Trial {
  readonly sides: readonly [SegmentPlan, SegmentPlan];
  readonly measures: SeamMeasures;
}

function measure(scene: Scene, library: Library): Trial {
  const { characters, rate } = compile(scene, library);
  const plan = characters[0]!;
  return {
    sides: [plan.segments[0]!, plan.segments[1]!],
    measures: measureSeam(plan, 0, framesPerSecond(rate)),
  };
}

/** Tries a join; null where it cannot be, or would blend bodies that face away from each other. */
function tryJoin(scene: Scene, edit: Join, library: Library): Trial | null {
  try {
    const trial = measure(applyEdit(scene, edit, library), library);
    return edit.join.kind !== 'step' && isTurnedAway(trial) ? null : trial;
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** Whether the fit has put the incoming side so that it faces away from the outgoing one where they meet. */
function isTurnedAway({ sides, measures }: Trial): boolean {
  const frame = measures.frame + measures.overlap / 2;
  const [a, b] = sides.map(
    (side) => segmentPose(side, frame, true, makePoseBuffer(side.clip.skeleton)).root[2]!,
  );
  return Math.abs(shortestTurn(a! - b!)) > MOST_TURNED;
}

/** How many frames the outgoing segment may fill, and how many the incoming one may lose at its start. */
function boundsOf(
  { before, item, tail }: PairOnLane,
  library: Library,
  limits: ChoiceLimits,
  fps: number,
): { filled: Bounds; lost: Bounds } {
  const within = Math.round(limits.within * fps);
  const kept = Math.round(KEPT_SECONDS * fps);
  const filled = before.timing.frames;
  const own = item.timing.frames;
  const fixedEnd = limits.keepEnd || !movable(before, 'end');
  const fixedStart = limits.keepStart || !movable(item, 'start');
  return {
    filled: fixedEnd
      ? { least: filled, most: filled }
      : {
          least: Math.max(filled - within, Math.min(filled, Math.max(kept, before.overlap + 1))),
          most: filled + Math.min(within, spareFrames(before, 'end', library)),
        },
    lost: fixedStart
      ? { least: 0, most: 0 }
      : {
          least: -Math.min(within, spareFrames(item, 'start', library)),
          most: Math.min(within, own - Math.min(own, Math.max(kept, tail + 1))),
        },
  };
}

/** Whether an edge can be trimmed without anything else of the segment changing. */
const movable = ({ segment }: Placed, edge: 'start' | 'end'): boolean =>
  segment.speedCurve === null &&
  segment.hold[edge] === 0 &&
  segment.path.length === 0 &&
  segment.marks.length === 0;

function spareFrames({ segment, timing }: Placed, edge: 'start' | 'end', library: Library): number {
  if (segment.loop) return Infinity;
  const { frames } = requireClip(segment, library);
  const samples = (edge === 'end') !== segment.reverse ? frames - segment.out : segment.in;
  return Math.max(0, Math.floor(samples / timing.samplesPerFrame + 1e-9));
}

function candidatesOf(pair: PairOnLane, library: Library, limits: ChoiceLimits): Candidate[] {
  const rate = parseRate(pair.scene.rate);
  const fps = framesPerSecond(rate);
  const { filled, lost } = boundsOf(pair, library, limits, fps);
  const [outgoing, incoming] = compile(pair.scene, library).characters[0]!.segments as [
    SegmentPlan,
    SegmentPlan,
  ];
  const longest = framesAt30(Math.max(...CROSSFADES), rate);
  const half = halfWindow(fps);
  const a = readSide(outgoing, Math.max(0, filled.least - longest / 2) - half, filled.most + 1 + half);
  const b = readSide(incoming, lost.least - half, lost.most + longest / 2 + 1 + half);
  const map = new MomentMap(a, b, half);
  const minima = map.minima().filter((p) => p.sameFeet || !limits.sameFeet);
  const out: Candidate[] = [];
  const own = pair.item.timing.frames;
  const add = (p: Pair, overlap: number, join: JoinKind, fit: FitMode): void => {
    const before = p.out + overlap / 2;
    const cut = p.in - overlap / 2;
    if (before < filled.least || before > filled.most || cut < lost.least || cut > lost.most) return;
    if (overlap + pair.before.overlap >= before || overlap + pair.tail >= own - cut) return;
    const change = before - pair.before.timing.frames - cut - overlap + pair.item.overlap;
    if (limits.keepLength && change !== 0) return;
    const lostSeconds = (Math.abs(before - pair.before.timing.frames) + Math.abs(cut)) / fps;
    const edit: Join = {
      type: 'join',
      segment: pair.item.segment.id,
      before,
      own: own - cut,
      overlap,
      values: { fit },
      join,
    };
    out.push({ edit, pair: p, lostSeconds });
  };
  const kinds: { overlap: number; join: JoinKind; fits: readonly FitMode[] }[] = [
    ...CROSSFADES.map((n) => ({
      overlap: framesAt30(n, rate),
      join: PLAIN_CROSSFADE,
      fits: ['planted foot', 'whole body'] as const,
    })),
    { overlap: 0, join: { kind: 'settle', frames: settleFrames(rate) }, fits: ['whole body'] },
    ...(limits.steps
      ? STEPS.map((n) => ({ overlap: framesAt30(n, rate), join: PLAIN_STEP, fits: ['whole body'] as const }))
      : []),
  ];
  for (const { overlap, join, fits } of kinds) {
    const even = overlap - (overlap % 2);
    const half = even / 2;
    const filledBy: Bounds = { least: filled.least - half, most: filled.most - half };
    const lostBy: Bounds = { least: lost.least + half, most: lost.most + half };
    // Both keep their length together where the two moments are as far apart as they are now.
    const apart = limits.keepLength ? pair.before.timing.frames - pair.item.overlap + even - 2 * half : null;
    const box = map.least(filledBy, lostBy, apart);
    const dropped = map.pair(pair.before.timing.frames - half, half);
    const inBox = minima.filter((p) => isWithin(p.out, filledBy) && isWithin(p.in, lostBy));
    const ranked = join.kind === 'step' ? inBox : [...inBox].sort((p, q) => rank(p) - rank(q));
    const tried = new Set<string>();
    for (const p of [...(box ? [box] : []), ...(dropped ? [dropped] : []), ...ranked.slice(0, PAIRS)]) {
      const key = `${p.out}:${p.in}`;
      if (tried.has(key)) continue;
      tried.add(key);
      for (const fit of fits) add(p, even, join, fit);
    }
  }
  return out;
}

const isWithin = (n: number, { least, most }: Bounds): boolean => n >= least && n <= most;

const rank = (p: Pair): number => p.distance + (p.sameFeet ? 0 : OTHER_FEET);
