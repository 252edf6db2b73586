import type { Library } from '../compile/compile';
import type { SeamMeasures } from '../continuity/measureSeam';
import type { Join } from '../edit/edits/join';
import type { ChoiceLimits } from '../scene/choice';
import type { Scene } from '../scene/scene';
import { mapBetween } from './candidates';
import { measureJoin } from './measureJoin';
import type { Moments } from './joinMeeting';
import { joinMeeting, meetingOf, reachOf } from './joinMeeting';
import type { MomentMap, Pair } from './momentMap';
import { boundsOf, pairOf } from './pairOnLane';

/** Two moments that can meet, how far apart they are, and what the join would be with them. */
export interface MapPair extends Moments {
  readonly distanceCm: number;
  readonly sameFeet: boolean;
  /** What makes them meet. */
  readonly edit: Join;
  /** Of the join with them. */
  readonly measures: SeamMeasures;
}

/** The moments around a seam that can meet in the middle of the overlap that it has. */
export interface SeamMap {
  /** The first moments, frames from the starts of the two segments, and how many there are. */
  readonly first: Moments;
  readonly rows: number;
  readonly columns: number;
  /** rows (of the outgoing segment) x columns: how far apart the two poses are, centimetres. */
  readonly distancesCm: Float32Array;
  /** The samples of the two clips that the rows and the columns show, -1 outside of them. */
  readonly samples: { readonly out: Int32Array; readonly in: Int32Array };
  /** The moments that meet now. */
  readonly now: Moments;
  /** The best matches, as good as their joins are. */
  readonly pairs: readonly MapPair[];
}

/** Matches whose joins are measured. */
const MEASURED = 8;

const GRADES = ['good', 'watch', 'bad'] as const;

/**
 * The map of the moments around a seam, and the best of its minima. They are ranked by the joins that they give, which are
 * measured: poses may be alike where the motions are not.
 *
 * @param top most pairs that are given
 * @returns null where there is nothing to be moved: no segment before, a gap, or a loop or motion that goes on
 */
export function seamMap(
  scene: Scene,
  segment: string,
  library: Library,
  limits: ChoiceLimits,
  top: number,
): SeamMap | null {
  const pair = pairOf(scene, segment, library);
  if (!pair) return null;
  const bounds = boundsOf(pair, library, limits);
  const reach = reachOf(pair, bounds);
  const rows = reach.out.most - reach.out.least + 1;
  const columns = reach.in.most - reach.in.least + 1;
  if (rows < 1 || columns < 1) return null;
  const map = mapBetween(pair, bounds, pair.item.overlap, library);
  const distancesCm = new Float32Array(rows * columns);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++)
      distancesCm[r * columns + c] = map.distance(reach.out.least + r, reach.in.least + c) * 100;
  const inReach = (p: Pair): boolean =>
    p.out >= reach.out.least && p.out <= reach.out.most && p.in >= reach.in.least && p.in <= reach.in.most;
  const least = map.least(reach.out, reach.in);
  const minima = map.minima().filter((p) => inReach(p) && (p.sameFeet || !limits.sameFeet));
  const tried = [
    ...(least ? [least] : []),
    ...minima.filter((p) => p.out !== least?.out || p.in !== least.in),
  ];
  const pairs = tried.slice(0, MEASURED).flatMap((p): MapPair[] => {
    const edit = joinMeeting(pair, p, { auto: false, chosen: null });
    const join = measureJoin(pair.scene, edit, library);
    if (!join) return [];
    const { measures } = join;
    return [{ out: p.out, in: p.in, distanceCm: p.distance * 100, sameFeet: p.sameFeet, edit, measures }];
  });
  pairs.sort(
    (p, q) =>
      GRADES.indexOf(p.measures.grade) - GRADES.indexOf(q.measures.grade) || p.distanceCm - q.distanceCm,
  );
  return {
    first: { out: reach.out.least, in: reach.in.least },
    rows,
    columns,
    distancesCm,
    samples: {
      out: Int32Array.from({ length: rows }, (_, r) => map.sample('out', reach.out.least + r)),
      in: Int32Array.from({ length: columns }, (_, c) => map.sample('in', reach.in.least + c)),
    },
    now: meetingOf(pair),
    pairs: apart(pairs, meetingOf(pair), map).slice(0, top),
  };
}

/** Pairs without those that show the same two samples as a nearer one, in another cycle of a loop. */
function apart(pairs: readonly MapPair[], now: Moments, map: MomentMap): MapPair[] {
  const samples = (p: MapPair): string => `${map.sample('out', p.out)} ${map.sample('in', p.in)}`;
  const away = (p: MapPair): number => Math.abs(p.out - now.out) + Math.abs(p.in - now.in);
  return pairs.filter((p) => !pairs.some((q) => samples(q) === samples(p) && away(q) < away(p)));
}

/**
 * What makes two moments of a seam's map meet.
 *
 * @param moments frames from the starts of the outgoing and the incoming segment
 * @returns null where there is nothing to be moved
 */
export function joinAt(scene: Scene, segment: string, moments: Moments, library: Library): Join | null {
  const pair = pairOf(scene, segment, library);
  return pair && joinMeeting(pair, moments, { auto: false, chosen: null });
}
