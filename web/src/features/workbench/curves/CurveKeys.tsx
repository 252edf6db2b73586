import type { KeyboardEvent } from 'react';
import { memo } from 'react';
import { useStableCallback } from '../../../ui/useStableCallback';
import type { ChosenOnTracks, Track } from './curveSource';
import { firstAt } from './drawing/drawCurves';
import type { Scale } from './scale';
import { yOf } from './scale';

interface Props {
  readonly tracks: readonly Track[];
  readonly chosen: ChosenOnTracks;
  readonly scale: Scale;
  readonly ppf: number;
  /** Frames in sight. */
  readonly from: number;
  readonly to: number;
  readonly onChoose: (track: string, frame: number) => void;
  readonly onMove: (frames: number, value: number) => void;
  readonly onRemove: () => void;
  /** Null where it cannot be done now. */
  readonly onCopy: (() => void) | null;
  readonly onPaste: (() => void) | null;
}

/** Keys that are reached with Tab at once: more would be a thicket; zooming in brings the others. */
const MOST = 150;

/** What the keyboard and screen readers find of the keys in sight. */
export function CurveKeys(props: Props) {
  const { tracks, chosen, scale, ppf, from, to, onChoose, onMove, onRemove, onCopy, onPaste } = props;
  const step = (scale.top - scale.bottom) / 200;
  const onKeyDown = (e: KeyboardEvent): void => {
    const times = e.shiftKey ? 10 : 1;
    const by = MOVES[e.key];
    const control = e.ctrlKey || e.metaKey;
    if (control && e.key === 'c' && onCopy) onCopy();
    else if (control && e.key === 'v' && onPaste) onPaste();
    else if (by) onMove(by[0] * times, by[1] * step * times);
    else if (e.key === 'Delete' || e.key === 'Backspace') onRemove();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const hands: Hands = { onFocus: useStableCallback(onChoose), onKeyDown: useStableCallback(onKeyDown) };
  return keysInSight(tracks, from, to).map(({ track: { id, name, unit }, frame, value }, i) => (
    <KeyInSight
      key={`${id} ${i}`}
      track={id}
      frame={frame}
      label={`Key of ${name} at frame ${Math.round(frame)}, ${Number(value.toFixed(2))} ${unit}`}
      isChosen={chosen.get(id)?.has(frame) ?? false}
      x={frame * ppf}
      y={yOf(scale, value)}
      {...hands}
    />
  ));
}

interface Hands {
  readonly onFocus: (track: string, frame: number) => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

interface KeyProps extends Hands {
  readonly track: string;
  readonly frame: number;
  readonly label: string;
  readonly isChosen: boolean;
  readonly x: number;
  readonly y: number;
}

/** One key for Tab and screen readers; rendered again only where it has changed, so that a drag among many stays quick. */
const KeyInSight = memo(function KeyInSight({
  track,
  frame,
  label,
  isChosen,
  x,
  y,
  onFocus,
  onKeyDown,
}: KeyProps) {
  return (
    <div
      role="button"
      tabIndex={0}
      data-curve-key={track}
      aria-label={label}
      aria-pressed={isChosen}
      className="pointer-events-none absolute size-3 -translate-1/2 rounded-full"
      style={{ left: x, top: y }}
      onFocus={() => onFocus(track, frame)}
      onKeyDown={onKeyDown}
    />
  );
});

interface InSight {
  readonly track: Track;
  readonly frame: number;
  readonly value: number;
}

/** The first keys between two frames, of curves that have not too many there. */
function keysInSight(tracks: readonly Track[], from: number, to: number): InSight[] {
  const found: InSight[] = [];
  for (const track of tracks) {
    const { frames, values } = track.curve;
    const [first, last] = [firstAt(frames, from), firstAt(frames, to)];
    if (last - first > MOST) continue;
    for (let i = first; i < last && found.length < MOST; i++)
      found.push({ track, frame: frames[i] ?? 0, value: values[i] ?? 0 });
    if (found.length === MOST) break;
  }
  return found;
}

/** Frames and steps of value that an arrow key stands for. */
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
