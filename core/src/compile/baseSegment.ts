import type { Clip } from '../clip/clip';
import { rootTrack } from '../clip/root';
import { prepareCycle } from '../loops/cycle';
import { prepareCurve } from '../math/curve';
import { STILL } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { areSmooth } from '../math/rotations';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { SegmentPlan } from '../plan/plan';
import { findSteps } from '../steps/steps';
import type { Placed } from '../timeline/lane';
import { timeMap } from '../timeline/timeMap';
import { segmentTiming } from '../timeline/timing';
import type { PreparedClip } from './prepareClip';
import { PLAIN_CROSSFADE, joinOf } from '../scene/seam';
import type { SegmentSettings } from '../scene/segment';
import { makeLandings } from './makeLandings';
import { segmentContent } from './segmentContent';
import { withTranslated } from './translated';

/**
 * A segment's plan as if its clip stayed where it was recorded, nameless and starting at frame 0. Segments of the same
 * content share one object, so that what was made from it (fits, above all) is made once.
 *
 * @param moving joints that move relative to their parents in any clip of the character
 */
export const baseSegment = (
  { segment, overlap }: Placed,
  prepared: PreparedClip,
  moving: Int32Array,
  rate: Rate,
  memory: Memory,
): SegmentPlan =>
  memory.recall(base, prepared, segmentContent(segment, memory), rate.num, rate.den, overlap, moving);

const base = derivation(
  'base segment',
  20_000,
  (
    memory,
    prepared: PreparedClip,
    segment: SegmentSettings,
    num: number,
    den: number,
    overlap: number,
    moving: Int32Array,
  ): SegmentPlan => {
    const timing = segmentTiming(segment, prepared.original, { num, den }, memory);
    const clip = withTranslated(prepared.clip, moving, memory);
    const cycle = segment.loop ? prepareCycle(clip, segment.in, segment.out, prepared.verdict, memory) : null;
    const played = cycle?.clip ?? clip;
    const join = joinOf(segment.seam, overlap);
    const segmentPlan: SegmentPlan = {
      base: null,
      relative: null,
      id: '',
      name: '',
      settings: segment,
      clip: played,
      recorded: clip,
      mapped: prepared.mapped,
      // Those of the clip before it was closed: the bent end of a loop sets no foot down anew.
      steps: once(() => findSteps(prepared.clip, memory)),
      smooth: memory.recall(smoothness, played),
      root: cycle?.root ?? rootTrack(clip, memory),
      start: 0,
      end: timing.frames,
      in: segment.in,
      out: segment.out,
      period: timing.period,
      speed: timing.speed,
      time: timeMap(segment, timing),
      warpIn: null,
      warpOut: null,
      loop: segment.loop,
      cycle: cycle?.cycle ?? STILL,
      travel: segment.travel,
      move: new Float64Array(3),
      lift: 0,
      held: new Float64Array(3),
      route: null,
      overlap,
      curve: prepareCurve(join.kind === 'crossfade' ? join.curve : PLAIN_CROSSFADE.curve),
      settle: null,
      madeStep: null,
      landings: null,
      fitRemark: null,
      stepRemark: null,
    };
    const landings = join.kind === 'step' ? makeLandings(segmentPlan, join, { num, den }) : null;
    return landings ? { ...segmentPlan, landings } : segmentPlan;
  },
);

/** What is made when it is first asked for. */
function once<T extends object>(make: () => T): () => T {
  let made: T | null = null;
  return () => (made ??= make());
}

/** Whether all neighbouring samples are close enough to be blended in one pass. */
const smoothness = derivation('smoothness', 5000, (_, clip: Clip): boolean =>
  areSmooth(clip.rotations, clip.frames, clip.skeleton.names.length),
);
