import type { KeyboardEvent } from 'react';
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
  readonly onChoose: (track: string, frame: number, more: boolean) => void;
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
  const inSight = tracks.flatMap(({ id, name, unit, curve }) => {
    const [first, last] = [firstAt(curve.frames, from), firstAt(curve.frames, to)];
    return last - first > MOST
      ? []
      : [...curve.frames.slice(first, last)].map((frame, i) => ({
          id,
          frame,
          value: curve.values[first + i] ?? 0,
          label: `Key of ${name} at frame ${Math.round(frame)}`,
          unit,
        }));
  });
  return inSight
    .slice(0, MOST)
    .map(({ id, frame, value, label, unit }, i) => (
      <div
        key={`${id} ${i}`}
        role="button"
        tabIndex={0}
        data-curve-key={id}
        aria-label={`${label}, ${Number(value.toFixed(2))} ${unit}`}
        aria-pressed={chosen.get(id)?.has(frame) ?? false}
        className="pointer-events-none absolute size-3 -translate-1/2 rounded-full"
        style={{ left: frame * ppf, top: yOf(scale, value) }}
        onFocus={() => onChoose(id, frame, false)}
        onKeyDown={onKeyDown}
      />
    ));
}

/** Frames and steps of value that an arrow key stands for. */
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
