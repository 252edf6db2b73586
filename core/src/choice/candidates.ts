import { compile } from '../compile/compile';
import type { Library } from '../compile/compile';
import type { Join } from '../edit/edits/join';
import type { Rate } from '../math/rate';
import { framesPerSecond, parseRate } from '../math/rate';
import type { SegmentPlan } from '../plan/plan';
import type { ChoiceLimits } from '../scene/choice';
import type { FitMode, Join as JoinKind } from '../scene/seam';
import { PLAIN_CROSSFADE, PLAIN_STEP, joinOf } from '../scene/seam';
import { legsOf } from '../skeleton/legs';
import { framesAt30 } from '../timeline/freeFrames';
import { settleFrames } from '../timeline/lane';
import { readSide } from './joinSides';
import type { Bounds, Pair } from './momentMap';
import { MomentMap, halfWindow } from './momentMap';
import type { JoinBounds, PairOnLane } from './pairOnLane';
import { boundsOf } from './pairOnLane';

/** Frames of crossfades, and of made steps, that are tried, at 30 a second; even, so that two frames meet in the middle. */
const CROSSFADES = [8, 12, 16, 24, 32, 40];
const STEPS = [16, 20, 24, 28, 36];
/** Matches that are measured for each kind and length, beside the best within reach and the frames that meet as it is. */
const PAIRS = 3;
/** Metres by which a pair with other feet planted ranks behind. */
const OTHER_FEET = 0.06;
/** A join that may be chosen. */
export interface Candidate {
  readonly edit: Join;
  readonly pair: Pair;
  readonly lostSeconds: number;
}

/** The plain join, which is as good as any until another one costs less. */
export function plainCandidate({ before, item }: PairOnLane): Candidate {
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
  const out = before.timing.frames - (overlap - half);
  const pair: Pair = { out, in: half, distance: 0, sameFeet: true };
  return { edit, pair, lostSeconds: 0 };
}

/** A way of joining that is tried: over how many frames, how, and fitted by what. */
interface Way {
  readonly overlap: number;
  readonly join: JoinKind;
  readonly fits: readonly FitMode[];
}

/** The ways that are tried; overlaps are even, so that two frames meet in the middle. */
function waysAt(rate: Rate, steps: boolean): Way[] {
  const even = (n: number): number => 2 * Math.round(framesAt30(n, rate) / 2);
  return [
    ...CROSSFADES.map((n): Way => ({
      overlap: even(n),
      join: PLAIN_CROSSFADE,
      fits: ['planted foot', 'whole body'],
    })),
    { overlap: 0, join: { kind: 'settle', frames: settleFrames(rate) }, fits: ['whole body'] },
    ...(steps ? STEPS : []).map((n): Way => ({ overlap: even(n), join: PLAIN_STEP, fits: ['whole body'] })),
  ];
}

/** The joins that are worth a trial: the best matches within the limits, by every way. */
export function candidatesOf(pair: PairOnLane, library: Library, limits: ChoiceLimits): Candidate[] {
  const rate = parseRate(pair.scene.rate);
  const bounds = boundsOf(pair, library, limits);
  const map = mapBetween(pair, bounds, framesAt30(Math.max(...CROSSFADES), rate), library);
  const minima = map.minima().filter((p) => p.sameFeet || !limits.sameFeet);
  const hasLegs = legsOf(map.skeleton).length > 0;
  return waysAt(rate, limits.steps && hasLegs).flatMap((way) =>
    meetingsOf(way, pair, bounds, map, minima, limits.keepLength).flatMap((meeting) =>
      way.fits.flatMap((fit) => candidateOf(way, fit, meeting, pair, bounds, limits) ?? []),
    ),
  );
}

/** The map of the moments of two segments within their bounds, read as far as overlaps of so many frames need it. */
export function mapBetween(
  { scene }: PairOnLane,
  { filled, lost }: JoinBounds,
  longest: number,
  library: Library,
): MomentMap {
  const [outgoing, incoming] = compile(scene, library).characters[0]!.segments as [SegmentPlan, SegmentPlan];
  const half = halfWindow(framesPerSecond(parseRate(scene.rate)));
  const beyond = Math.ceil(longest / 2);
  const a = readSide(outgoing, Math.max(0, filled.least - beyond) - half, filled.most + 1 + half);
  const b = readSide(incoming, lost.least - half, lost.most + beyond + 1 + half);
  return new MomentMap(a, b, half);
}

/** The pairs of moments that are tried for a way of joining: the best of all, those that meet as it is, the best minima. */
function meetingsOf(
  { overlap, join }: Way,
  pair: PairOnLane,
  bounds: JoinBounds,
  map: MomentMap,
  minima: readonly Pair[],
  keepLength: boolean,
): Pair[] {
  const half = overlap / 2;
  const out = shifted(bounds.filled, -half);
  const into = shifted(bounds.lost, half);
  // Both keep their length together where the two moments are as far apart as they are now.
  const apart = keepLength ? pair.before.timing.frames - pair.item.overlap : null;
  const best = map.least(out, into, apart);
  const dropped = map.pair(pair.before.timing.frames - half, half);
  const inReach = minima.filter((p) => isWithin(p.out, out) && isWithin(p.in, into));
  const ranked = join.kind === 'step' ? inReach : inReach.sort((p, q) => rank(p) - rank(q));
  const all = [...(best ? [best] : []), ...(dropped ? [dropped] : []), ...ranked.slice(0, PAIRS)];
  return all.filter((p, i) => all.findIndex((q) => q.out === p.out && q.in === p.in) === i);
}

/** A way of joining at a pair of moments; null where it is against the limits. */
function candidateOf(
  { overlap, join }: Way,
  fit: FitMode,
  meeting: Pair,
  pair: PairOnLane,
  { filled, lost }: JoinBounds,
  limits: ChoiceLimits,
): Candidate | null {
  const before = meeting.out + overlap / 2;
  const cut = meeting.in - overlap / 2;
  const own = pair.item.timing.frames - cut;
  if (!isWithin(before, filled) || !isWithin(cut, lost)) return null;
  if (limits.sameFeet && !meeting.sameFeet) return null;
  if (overlap + pair.before.overlap >= before || overlap + pair.tail >= own) return null;
  const longer = before - pair.before.timing.frames - cut - overlap + pair.item.overlap;
  if (limits.keepLength && longer !== 0) return null;
  const moved = Math.abs(before - pair.before.timing.frames) + Math.abs(cut);
  return {
    edit: {
      type: 'join',
      segment: pair.item.segment.id,
      before,
      own,
      overlap,
      values: { fit },
      join,
    },
    pair: meeting,
    lostSeconds: moved / framesPerSecond(parseRate(pair.scene.rate)),
  };
}

const shifted = ({ least, most }: Bounds, by: number): Bounds => ({ least: least + by, most: most + by });

const isWithin = (n: number, { least, most }: Bounds): boolean => n >= least && n <= most;

const rank = (p: Pair): number => p.distance + (p.sameFeet ? 0 : OTHER_FEET);
