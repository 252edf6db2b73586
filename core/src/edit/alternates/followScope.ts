import type { AlternateScope } from '../../scene/alternate';
import type { Scene } from '../../scene/scene';
import type { ClipSource } from '../../timeline/lane';
import { laneSpan, layOut } from '../../timeline/lane';
import type { OwnSpan } from './places';
import { ownSpans } from './places';

/**
 * A scope after an edit: it keeps to the segments that it holds. What an edit of its own adds at its edges is in it, what a shared one adds
 * there stays beside it.
 *
 * @param own whether the edit was one of what is in the scope
 */
export function followScope(
  scope: AlternateScope,
  { before, after }: { readonly before: Scene; readonly after: Scene },
  own: boolean,
  library: ClipSource,
): AlternateScope {
  if (before === after) return scope;
  const moved = Object.values(before.lanes).flatMap((lane) => {
    if (lane.kind !== 'body' || !(scope.characters?.includes(lane.character) ?? true)) return [];
    const now = after.lanes[lane.id];
    if (!now || lane.segments.length === 0 || isUntouched(before, after, lane.segments, now.segments))
      return [];
    const [old, next] = [layOut(before, lane, library), layOut(after, now, library)];
    return [{ old: ownSpans(old), next: ownSpans(next), grown: endOf(next) - endOf(old) }];
  });
  if (moved.length === 0) return scope;
  const from = Math.min(...moved.map((m) => startAfter(m, scope, own)));
  const to = Math.max(...moved.map((m) => endAfter(m, scope, own)));
  return from === scope.from && to === scope.to ? scope : { ...scope, from, to: Math.max(from + 1, to) };
}

const isUntouched = (before: Scene, after: Scene, old: readonly string[], next: readonly string[]): boolean =>
  before.rate === after.rate &&
  old.length === next.length &&
  old.every((id, i) => id === next[i] && before.segments[id] === after.segments[id]);

const endOf = (placed: Parameters<typeof laneSpan>[0]): number => laneSpan(placed)?.end ?? 0;

interface Moved {
  readonly old: readonly OwnSpan[];
  readonly next: readonly OwnSpan[];
  /** Frames by which the lane became longer. */
  readonly grown: number;
}

/** Frames by which an edge of a segment was moved; null where it is not there any more. */
function shiftOf(segment: OwnSpan | undefined, next: readonly OwnSpan[], edge: 'from' | 'to'): number | null {
  const now = segment && next.find((s) => s.id === segment.id);
  return now ? now[edge] - segment[edge] : null;
}

function startAfter({ old, next }: Moved, { from, to }: AlternateScope, own: boolean): number {
  const before = shiftOf(
    old.findLast((s) => s.to <= from),
    next,
    'to',
  );
  const first = shiftOf(
    old.find((s) => s.to > from && s.from < to),
    next,
    'from',
  );
  return from + ((own ? (before ?? first) : (first ?? before)) ?? 0);
}

function endAfter({ old, next, grown }: Moved, { from, to }: AlternateScope, own: boolean): number {
  const behind = shiftOf(
    old.find((s) => s.from >= to),
    next,
    'from',
  );
  const last = shiftOf(
    old.findLast((s) => s.to > from && s.from < to),
    next,
    'to',
  );
  const end = old.some((s) => s.from >= to) ? null : grown;
  return to + ((own ? (behind ?? end ?? last) : (last ?? behind ?? end)) ?? 0);
}
