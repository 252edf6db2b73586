import type { Clip } from '../clip/clip';
import { prepareCycle } from '../loops/cycle';
import { rootTrack } from '../clip/root';
import { inheritSteps } from '../steps/steps';
import { prepareCurve } from '../math/curve';
import { STILL } from '../math/floorMove';
import { areSmooth } from '../math/rotations';
import type { Seam, Segment } from '../scene/scene';
import type { Placed } from '../timeline/lane';
import { timeMap } from '../timeline/timeMap';
import type { SegmentPlan } from '../plan/plan';
import type { PreparedClip } from './prepareClip';
import { withTranslated } from './translated';

/** What a base segment was made from. */
interface Made {
  readonly prepared: PreparedClip;
  readonly moving: Int32Array;
  readonly frames: number;
  readonly overlap: number;
  readonly plan: SegmentPlan;
}

const ofSegment = new WeakMap<Segment, Made>();
const ofClip = new WeakMap<Clip, Map<string, SegmentPlan>>();
const seamNumbers = new WeakMap<Seam, number>();

/** Bases kept for one clip; a long session of trying numbers does not pile them up. */
const MOST_KEPT = 5000;

const numbers = new Map<string, number>();

/** A number that seams of equal content share. */
export function seamNumber(seam: Seam): number {
  let number = seamNumbers.get(seam);
  if (number === undefined) {
    const content = JSON.stringify(seam);
    number = numbers.get(content);
    if (number === undefined) numbers.set(content, (number = numbers.size));
    seamNumbers.set(seam, number);
  }
  return number;
}

/** Everything but its name and place that decides a base segment. */
const contentKey = (
  { segment: s, timing, overlap }: Placed,
  verdict: string | null,
  moving: Int32Array,
): string =>
  `${s.in}|${s.out}|${s.repeat}|${s.loop}|${s.phase}|${timing.speed}|${timing.frames}|${overlap}|${s.reverse}|${s.hold.start}|${s.hold.end}|${s.travel}|${s.holdFacing}|${s.fade.in}|${s.fade.out}|${s.speedCurve ? s.speedCurve.join(';') : ''}|${verdict}|${moving.length > 1 ? moving.join() : ''}|${seamNumber(s.seam)}`;

/**
 * A segment's plan as if its clip stayed where it was recorded, nameless and starting at frame 0. Segments of the same
 * content share one object, so that what was made from it (fits, above all) is made once.
 */
export function baseSegment(item: Placed, prepared: PreparedClip, moving: Int32Array): SegmentPlan {
  const { segment, overlap } = item;
  const frames = item.end - item.start;
  const made = ofSegment.get(segment);
  if (
    made &&
    made.prepared.clip === prepared.clip &&
    made.prepared.verdict === prepared.verdict &&
    made.frames === frames &&
    made.overlap === overlap &&
    sameJoints(made.moving, moving)
  )
    return made.plan;
  let known = ofClip.get(prepared.clip);
  if (!known || known.size > MOST_KEPT) ofClip.set(prepared.clip, (known = new Map()));
  const key = contentKey(item, prepared.verdict, moving);
  let plan = known.get(key);
  if (!plan) known.set(key, (plan = makeBase(item, prepared, moving)));
  ofSegment.set(segment, { prepared, moving, frames, overlap, plan });
  return plan;
}

const sameJoints = (a: Int32Array, b: Int32Array): boolean =>
  a === b || (a.length === b.length && a.every((v, i) => v === b[i]));

function makeBase(item: Placed, prepared: PreparedClip, moving: Int32Array): SegmentPlan {
  const { segment, timing } = item;
  const clip = withTranslated(prepared.clip, moving);
  const cycle = segment.loop ? prepareCycle(clip, segment.in, segment.out, prepared.verdict) : null;
  const played = cycle && cycle.clip !== clip ? inheritSteps(cycle.clip, clip) : clip;
  return {
    shape: {},
    id: '',
    name: '',
    clip: played,
    mapped: prepared.mapped,
    smooth: isSmooth(played),
    root: cycle?.root ?? rootTrack(clip),
    start: 0,
    end: timing.frames,
    in: segment.in,
    out: segment.out,
    repeat: segment.repeat,
    period: timing.period,
    speed: timing.speed,
    time: timeMap(segment, timing),
    warpIn: null,
    warpOut: null,
    loop: segment.loop,
    cycle: cycle?.cycle ?? STILL,
    travel: segment.travel,
    holdFacing: segment.holdFacing,
    move: new Float64Array(3),
    lift: 0,
    held: new Float64Array(3),
    route: null,
    overlap: item.overlap,
    gap: segment.seam.gap,
    curve: prepareCurve(segment.seam.curve),
    settle: null,
    fit: segment.seam.fit,
    fitRemark: null,
    stepRemark: null,
    fadeIn: segment.fade.in,
    fadeOut: segment.fade.out,
  };
}

const smooth = new WeakMap<Clip, boolean>();

function isSmooth(clip: Clip): boolean {
  let known = smooth.get(clip);
  if (known === undefined) {
    known = areSmooth(clip.rotations, clip.frames, clip.skeleton.names.length);
    smooth.set(clip, known);
  }
  return known;
}
