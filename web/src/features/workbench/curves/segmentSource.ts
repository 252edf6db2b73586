import type { ChannelKey, Edit, Handle, SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';
import { curveWeight, monotoneSpline, prepareCurve, splineAt } from '@warper/core/kernels';
import type { ChosenOnTracks, CurveSource, Track } from './curveSource';

/** A curve through points of the user's own, from nothing to everything over some frames. */
interface Stretch {
  readonly track: Track;
  readonly from: number;
  readonly frames: number;
  readonly points: readonly Handle[];
  readonly edit: (points: readonly Handle[]) => Edit;
}

/** The curves of a segment: how fast it goes through its clip, and how it comes in where it crossfades. */
export function segmentSource(segment: SegmentPlan): CurveSource {
  const stretches = [speedStretch(segment), ...(segment.overlap > 0 ? [crossfadeStretch(segment)] : [])];
  const stretchOf = (id: string): Stretch => defined(stretches.find((s) => s.track.id === id));
  const edited = (changes: ReadonlyMap<string, readonly ChannelKey[]>, label: string): Edit | null => {
    const edits = [...changes].flatMap(([id, keys]) => {
      const stretch = stretchOf(id);
      const points = pointsOf(stretch, keys);
      return isSame(points, stretch.points) ? [] : [stretch.edit(points)];
    });
    return edits.length === 0 ? null : { type: 'several', label: `${label} of ${segment.name}`, edits };
  };
  return {
    name: segment.name,
    tracks: stretches.map((s) => s.track),
    hasSlopes: false,
    keysAt: (id, frames) => keysOf(stretchOf(id)).filter((key) => frames.has(key.frame)),
    move: (chosen, frames, value) =>
      edited(
        moved(chosen, frames, value, (id) => keysOf(stretchOf(id))),
        'move of points',
      ),
    change: (label, changes) =>
      edited(new Map([...changes].map(([id, change]) => [id, change(keysOf(stretchOf(id)))])), label),
    reduce: () => null,
    clipboard: null,
  };
}

function moved(
  chosen: ChosenOnTracks,
  frames: number,
  value: number,
  keysOf: (id: string) => readonly ChannelKey[],
): Map<string, ChannelKey[]> {
  return new Map(
    [...chosen].map(([id, at]) => [
      id,
      keysOf(id).map((k) =>
        at.has(k.frame) ? { ...k, frame: k.frame + frames, value: k.value + value } : k,
      ),
    ]),
  );
}

function speedStretch({ id, start, end, time, settings }: SegmentPlan): Stretch {
  const from = start + time.holdStart;
  const frames = Math.max(1, end - start - time.holdStart - time.holdEnd);
  const points = settings.speedCurve ?? [];
  const spline = monotoneSpline([[0, 0], ...points, [1, 1]]);
  return {
    track: trackOf('speed', 'Clip played', 0, from, frames, points, (t) => splineAt(spline, t)),
    from,
    frames,
    points,
    edit: (speedCurve) => ({ type: 'change', segment: id, values: { speedCurve } }),
  };
}

function crossfadeStretch({ id, start, overlap, settings }: SegmentPlan): Stretch {
  const { seam } = settings;
  const own = 'curve' in seam && typeof seam.curve !== 'string' ? seam.curve : [];
  const curve = prepareCurve('curve' in seam ? seam.curve : 'smooth');
  return {
    track: trackOf('crossfade', 'Weight in its crossfade', 3, start, overlap, own, (t) =>
      curveWeight(curve, t),
    ),
    from: start,
    frames: overlap,
    points: own,
    edit: (points) => ({
      type: 'seam',
      segment: id,
      values: {},
      join: {
        kind: 'crossfade',
        curve: points.length > 0 ? points : 'smooth',
        inStep: 'inStep' in seam && seam.inStep,
      },
    }),
  };
}

function trackOf(
  id: string,
  name: string,
  hue: number,
  from: number,
  frames: number,
  points: readonly Handle[],
  at: (share: number) => number,
): Track {
  return {
    id,
    name,
    unit: '%',
    hue,
    dash: 0,
    curve: {
      frames: Float64Array.from(points, ([t]) => from + t * frames),
      values: Float64Array.from(points, ([, v]) => v * 100),
      valueAt: (frame) => at(Math.min(1, Math.max(0, (frame - from) / frames))) * 100,
    },
  };
}

const keysOf = ({ track: { curve } }: Stretch): ChannelKey[] =>
  [...curve.frames].map((frame, source) => ({
    frame,
    value: curve.values[source] ?? 0,
    curve: 'smooth',
    into: 0,
    out: 0,
    broken: false,
    source,
  }));

/** How near two points, or a point and an end, may come: a thousandth of the way. */
const APART = 1e-3;

/** Points within their stretch, each later and no lower than the one before. */
function pointsOf({ from, frames }: Stretch, keys: readonly ChannelKey[]): Handle[] {
  const points: Handle[] = [];
  let [time, value] = [0, 0];
  const inside = keys
    .map((k) => [(k.frame - from) / frames, k.value / 100] as const)
    .filter(([t]) => t > 0 && t < 1)
    .sort((a, b) => a[0] - b[0]);
  for (const [t, v] of inside) {
    if (t - time < APART || 1 - t < APART) continue;
    time = t;
    value = Math.min(1, Math.max(value, v));
    points.push([time, value]);
  }
  return points;
}

const isSame = (a: readonly Handle[], b: readonly Handle[]): boolean =>
  a.length === b.length && a.every(([t, v], i) => t === b[i]?.[0] && v === b[i]?.[1]);
