import { useDrag } from '@use-gesture/react';
import type { Edit } from '@warper/core';
import type { RefObject } from 'react';
import { useRef, useState } from 'react';
import { commit, preview } from '../../../store/edits';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import type { Target } from '../timeline/geometry';
import { keySnappedTo, keyTargets } from '../timeline/snapping';
import { addKeys, slopeKey } from './curveEdits';
import type { ChosenOnTracks, CurveSource, Track } from './curveSource';
import type { HandlePoint } from './drawing/drawCurves';
import type { CurveHit } from './hitCurves';
import { hitCurves, keysInBox } from './hitCurves';
import type { Scale } from './scale';
import { movedScale, valueOf } from './scale';

type Point = readonly [number, number];

/** Pixels sideways up to which a key is only moved up or down. */
const HELD = 2;

/** What the pointer works on. */
interface Table {
  readonly area: RefObject<HTMLElement | null>;
  readonly source: CurveSource;
  readonly tracks: readonly Track[];
  readonly handles: readonly HandlePoint[];
  readonly chosen: ChosenOnTracks;
  readonly scale: Scale;
  readonly ppf: number;
  readonly onChoose: (chosen: ChosenOnTracks) => void;
  readonly onScale: (scale: Scale) => void;
}

/** A drag in hand: what was there when it began. */
interface Begun {
  readonly hit: CurveHit;
  readonly table: Table;
  readonly at: Point;
  readonly chosen: ChosenOnTracks;
  readonly pans: boolean;
  /** What a key that was taken may snap to. */
  readonly targets: readonly Target[];
}

/** Takes keys and handles of curves by the pointer, draws boxes around keys, and pans. */
export function useCurveHands(table: Table) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const begun = useRef<Begun | null>(null);
  const [box, setBox] = useState<readonly [Point, Point] | null>(null);
  /** Where the area stands on the page: found once a gesture, since asking again in each move makes the browser lay the page out. */
  const corner = useRef<Point>([0, 0]);
  const placeOf = ([x, y]: Point): Point => [x - corner.current[0], y - corner.current[1]];
  const findCorner = (): void => {
    const { left = 0, top = 0 } = table.area.current?.getBoundingClientRect() ?? {};
    corner.current = [left, top];
  };
  const bind = useDrag(
    ({ first, last, tap, canceled, xy, initial, delta, event, shiftKey, altKey }) => {
      if (first) {
        findCorner();
        const pans = (event as PointerEvent).buttons === 4;
        begun.current = begin(table, placeOf(initial), shiftKey, pans, store.getState());
      }
      const drag = begun.current;
      if (!drag) return;
      if (drag.pans) return pan(table, delta);
      const at = placeOf(xy);
      if (tap) return press(drag, shiftKey);
      if (drag.hit === null || drag.hit.kind === 'curve') {
        setBox(last ? null : [drag.at, at]);
        table.onChoose(keysInBox(drag.table.tracks, table.scale, table.ppf, drag.at, at));
        return;
      }
      const { edit, chosen } = asked(drag, at, shiftKey, altKey);
      if (!last) return void dispatch(preview(edit));
      dispatch(preview(null));
      if (!canceled && edit && dispatch(commit(edit))) table.onChoose(chosen);
    },
    { filterTaps: true, pointer: { keys: false, buttons: [1, 4] } },
  );
  const onDoubleClick = (event: { readonly clientX: number; readonly clientY: number }): void => {
    findCorner();
    const at = placeOf([event.clientX, event.clientY]);
    const { source, tracks, handles, scale, ppf } = table;
    const hit = hitCurves(tracks, handles, scale, ppf, ...at);
    if (hit?.kind !== 'curve') return;
    const frame = Math.round(at[0] / ppf);
    const edit = addKeys(source, [hit.track], frame);
    if (edit && dispatch(commit(edit))) table.onChoose(new Map([[hit.track, new Set([frame])]]));
  };
  return { handlers: { ...bind(), onDoubleClick }, box };
}

function begin(table: Table, at: Point, more: boolean, pans: boolean, state: RootState): Begun {
  const { tracks, handles, scale, ppf, chosen, onChoose } = table;
  const hit = hitCurves(tracks, handles, scale, ppf, ...at);
  const begun = { hit, table, at, chosen, pans, targets: [] };
  if (pans || hit?.kind !== 'key') return begun;
  const targets = keyTargets(state, hit.frame);
  if (chosen.get(hit.track)?.has(hit.frame)) return { ...begun, targets };
  const next = new Map(more ? chosen : []);
  next.set(hit.track, new Set([...(more ? (chosen.get(hit.track) ?? []) : []), hit.frame]));
  onChoose(next);
  return { ...begun, chosen: next, targets };
}

/** A press without a drag: takes one key, or all keys of a curve, or lets everything go. */
function press({ hit, table }: Begun, more: boolean): void {
  const { onChoose } = table;
  if (hit === null) onChoose(new Map());
  else if (hit.kind === 'curve') {
    const track = table.tracks.find((t) => t.id === hit.track);
    if (track) onChoose(new Map([...(more ? table.chosen : []), [track.id, new Set(track.curve.frames)]]));
  } else if (hit.kind === 'key' && !more) onChoose(new Map([[hit.track, new Set([hit.frame])]]));
}

function pan({ area, scale, onScale }: Table, [x, y]: readonly [number, number]): void {
  const scroller = area.current?.closest('[data-timeline]');
  if (scroller) scroller.scrollLeft -= x;
  onScale(movedScale(scale, y));
}

/** What a drag asks for; with Shift only the larger of its two directions, with Alt a handle on its own, or a key that does not snap. */
function asked(
  { hit, table, at: from, chosen, targets }: Begun,
  at: Point,
  shift: boolean,
  alt: boolean,
): { readonly edit: Edit | null; readonly chosen: ChosenOnTracks } {
  const { source, scale, ppf } = table;
  if (hit?.kind === 'handle') {
    const { fromX, fromY, side } = hit.handle;
    const frames = (at[0] - fromX) / ppf;
    const reach = side === 'out' ? Math.max(frames, 0.05) : Math.min(frames, -0.05);
    const slope = (valueOf(scale, at[1]) - valueOf(scale, fromY)) / reach;
    return { edit: slopeKey(source, hit.handle, slope, alt), chosen };
  }
  const [x, y] = [at[0] - from[0], at[1] - from[1]];
  const isStraightUp = (shift && Math.abs(y) > Math.abs(x)) || Math.abs(x) < HELD;
  const isSnapping = hit?.kind === 'key' && !alt;
  const frames = isStraightUp
    ? 0
    : isSnapping
      ? keySnappedTo(targets, hit.frame + x / ppf, ppf) - hit.frame
      : Math.round(x / ppf);
  const value = shift && Math.abs(x) >= Math.abs(y) ? 0 : valueOf(scale, y) - valueOf(scale, 0);
  return { edit: source.move(chosen, frames, value), chosen: shifted(chosen, frames) };
}

/** The same keys, some frames later. */
export const shifted = (chosen: ChosenOnTracks, frames: number): ChosenOnTracks =>
  new Map([...chosen].map(([id, at]) => [id, new Set([...at].map((f) => f + frames))]));
