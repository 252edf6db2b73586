import { useDrag } from '@use-gesture/react';
import type { ChosenFrames, KeyList, LayerLane } from '@warper/core';
import { chosenSpan, keyListsOf } from '@warper/core';
import type { FocusEvent, KeyboardEvent, PointerEvent } from 'react';
import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import type { Target } from './geometry';
import { KEY_ROW, LAYER_HEIGHT } from './geometry';
import { LaneHandle } from './LaneHandle';
import { listWords } from './keyRows';
import type { KeyChange, Point } from './keysInHand';
import {
  allKeys,
  changeKeys,
  chosenOf,
  copyKeysInHand,
  countOf,
  keysInBox,
  movedKeys,
  pasteKeysAtPlayhead,
  removeKeysInHand,
  scaledKeys,
  takeKeys,
  toggled,
} from './keysInHand';
import { keySnappedTo, keyTargets } from './snapping';

interface Props {
  /** The layer as a drag in hand shows it, and as it is in the document. */
  readonly layer: LayerLane;
  readonly kept: LayerLane;
  readonly ppf: number;
  /** Frames in sight, and some around. */
  readonly from: number;
  readonly to: number;
}

/** Pixels within which two keys are drawn as one. */
const TOGETHER = 3;

/** The keys of an unfolded layer, a row for each of its lists: taken one by one or by a box, moved, scaled, copied. */
export function KeySheet({ layer, kept, ppf, from, to }: Props) {
  const inHand = useAppSelector((s) => s.session.keysInHand);
  const lists = keyListsOf(layer);
  const chosen = chosenOf(inHand, layer.id);
  const { handlers, box } = useSheetHands(kept, chosen, ppf);
  const onKeyDown = useSheetKeys(kept, chosen);
  return (
    <div
      data-keys={layer.id}
      role="group"
      aria-label={`Keys of ${layer.name}`}
      className="absolute inset-x-0 z-10 touch-none select-none"
      style={{ top: LAYER_HEIGHT, height: lists.length * KEY_ROW }}
      {...handlers}
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
      onKeyDown={onKeyDown}
    >
      {lists.map((list, i) => (
        <KeyRow key={list.id} {...{ list, layer: kept, chosen, ppf, from, to }} top={i * KEY_ROW} />
      ))}
      <ScaleHandle layer={kept} chosen={chosen} ppf={ppf} />
      {box && <SheetBox from={box[0]} to={box[1]} />}
    </div>
  );
}

interface RowProps extends Omit<Props, 'kept'> {
  readonly list: KeyList;
  readonly chosen: ChosenFrames;
  readonly top: number;
}

/** One list of keys; of keys that stand closer than can be told apart the first is drawn. */
function KeyRow({ list, layer, chosen, ppf, from, to, top }: RowProps) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const own = chosen.get(list.id);
  const words = listWords(list);
  let last = -Infinity;
  const drawn = list.keys.filter(({ frame }) => {
    if (frame < from || frame > to || (frame - last) * ppf < TOGETHER) return false;
    last = frame;
    return true;
  });
  // A key that the keyboard comes to is taken in hand; a press decides for itself.
  const onFocus = (e: FocusEvent, frame: number): void => {
    if (!e.target.matches(':focus-visible') || own?.has(frame)) return;
    const now = chosenOf(store.getState().session.keysInHand, layer.id);
    if (!now.get(list.id)?.has(frame)) dispatch(takeKeys(layer.id, new Map([[list.id, new Set([frame])]])));
  };
  return (
    <div className="absolute inset-x-0 border-t border-rule/60" style={{ top, height: KEY_ROW }}>
      {drawn.map(({ frame }) => (
        <Button
          key={frame}
          look="bare"
          data-list={list.id}
          data-frame={frame}
          aria-pressed={own?.has(frame) ?? false}
          aria-label={`Key of ${words} at frame ${frame}`}
          className="absolute top-1/2 size-2 -translate-x-1/2 -translate-y-1/2 rounded-full border border-ink bg-raised aria-pressed:bg-signal"
          style={{ left: frame * ppf }}
          onFocus={(e) => onFocus(e, frame)}
        />
      ))}
    </div>
  );
}

/** At the last of several keys in hand: draws them out, or together, in time from the first. */
function ScaleHandle({ layer, chosen, ppf }: Pick<RowProps, 'layer' | 'chosen' | 'ppf'>) {
  const dispatch = useAppDispatch();
  const span = chosenSpan(chosen);
  if (!span || span[1] - span[0] < 1) return null;
  const [first, last] = span;
  const scaled = (frames: number): KeyChange => {
    const length = Math.max(1, last + frames - first);
    return scaledKeys(layer, chosen, length / (last - first));
  };
  return (
    <LaneHandle
      look="bar"
      label="Scale the keys in hand"
      value={last}
      text={`${last - first} frames`}
      left={last * ppf}
      top={-4}
      ppf={ppf}
      onPreview={(by) => void dispatch(preview(by && scaled(by.frames).edit))}
      onChange={({ frames }) => void dispatch(changeKeys(layer.id, scaled(frames)))}
    />
  );
}

/** What a drag began from. */
interface Begun {
  readonly layer: LayerLane;
  readonly chosen: ChosenFrames;
  /** The frame of the key that was taken; null for a box. */
  readonly frame: number | null;
  readonly at: Point;
  /** What the key may snap to. */
  readonly targets: readonly Target[];
}

/** Takes keys by the pointer, moves them, and draws boxes around them. */
function useSheetHands(layer: LayerLane, chosen: ChosenFrames, ppf: number) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const begun = useRef<Begun | null>(null);
  const [box, setBox] = useState<readonly [Point, Point] | null>(null);
  const begin = (event: PointerEvent, at: Point): Begun => {
    const key = (event.target as HTMLElement).closest<HTMLElement>('[data-frame]');
    if (!key) return { layer, chosen: event.shiftKey ? chosen : new Map(), frame: null, at, targets: [] };
    const [list, frame] = [key.dataset.list ?? '', Number(key.dataset.frame)];
    const isIn = chosen.get(list)?.has(frame) ?? false;
    const targets = keyTargets(store.getState(), frame);
    if (isIn && !event.shiftKey) return { layer, chosen, frame, at, targets };
    const next = event.shiftKey ? toggled(chosen, list, frame) : new Map([[list, new Set([frame])]]);
    dispatch(takeKeys(layer.id, next));
    return { layer, chosen: next, frame, at, targets };
  };
  const moved = (
    { layer: from, chosen: taken, frame, targets }: Begun,
    x: number,
    free: boolean,
  ): KeyChange => {
    const was = frame ?? 0;
    const to = free ? Math.round(was + x / ppf) : keySnappedTo(targets, was + x / ppf, ppf);
    return movedKeys(from, taken, to - was);
  };
  const bind = useDrag(
    ({ first, last, tap, canceled, event, initial, xy, altKey, currentTarget }) => {
      event.stopPropagation();
      const { left, top } = (currentTarget as HTMLElement).getBoundingClientRect();
      const place = ([px, py]: Point): Point => [px - left, py - top];
      if (first) begun.current = begin(event as unknown as PointerEvent, place(initial));
      const drag = begun.current;
      if (!drag) return;
      if (drag.frame === null) {
        setBox(last ? null : [drag.at, place(xy)]);
        const inside = tap ? new Map() : keysInBox(drag.layer, drag.chosen, drag.at, place(xy), ppf);
        if (last || !tap) dispatch(takeKeys(layer.id, inside));
        return;
      }
      if (tap) return;
      const change = moved(drag, xy[0] - initial[0], altKey);
      if (!last) return void dispatch(preview(change.edit));
      dispatch(preview(null));
      if (!canceled) dispatch(changeKeys(layer.id, change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const { onPointerDown, ...others } = bind() as Record<string, (event: PointerEvent) => void>;
  const handlers = {
    ...others,
    onPointerDown: (event: PointerEvent): void => {
      // What is pressed here is no press on the lanes.
      event.stopPropagation();
      onPointerDown?.(event);
    },
  };
  return { handlers, box };
}

/** What keys do on the sheet: move, remove, copy, paste, take all, let go, go to. */
function useSheetKeys(layer: LayerLane, chosen: ChosenFrames) {
  const dispatch = useAppDispatch();
  const run = (e: KeyboardEvent): boolean => {
    const control = e.ctrlKey || e.metaKey;
    const key = e.key.toLowerCase();
    const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowLeft' ? -1 : 1);
    if (e.key === 'ArrowLeft' || e.key === 'ArrowRight')
      dispatch(changeKeys(layer.id, movedKeys(layer, chosen, by)));
    else if (e.key === 'Delete' || e.key === 'Backspace') dispatch(removeKeysInHand(layer, chosen));
    else if (control && key === 'c') dispatch(copyKeysInHand(layer, chosen));
    else if (control && key === 'v') dispatch(pasteKeysAtPlayhead(layer));
    else if (control && key === 'a') dispatch(takeKeys(layer.id, allKeys(layer)));
    else if (e.key === 'Escape' && countOf(chosen) > 0) dispatch(sessionActions.keysTaken(null));
    else if (e.key === 'Enter') {
      const { frame } = (e.target as HTMLElement).dataset;
      if (frame === undefined) return false;
      dispatch(sessionActions.went(Number(frame)));
    } else return false;
    return true;
  };
  return (e: KeyboardEvent): void => {
    if (!run(e)) return;
    e.preventDefault();
    e.stopPropagation();
  };
}

function SheetBox({ from, to }: { readonly from: Point; readonly to: Point }) {
  const [left, top] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
  return (
    <div
      className="pointer-events-none absolute border border-ink bg-ink/10"
      style={{ left, top, width: Math.abs(to[0] - from[0]), height: Math.abs(to[1] - from[1]) }}
    />
  );
}
