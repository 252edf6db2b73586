import { useDrag } from '@use-gesture/react';
import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import type { Target } from './geometry';
import { snap } from './geometry';

interface Props {
  readonly label: string;
  /** What it stands at, and between what. */
  readonly value: number;
  readonly least?: number;
  readonly most?: number;
  readonly text?: string;
  /** Its middle, pixels of the lane. */
  readonly left: number;
  readonly top: number;
  /** Pixels of a frame. */
  readonly ppf: number;
  readonly look?: 'bar' | 'peg' | 'point' | 'edge';
  /** What it snaps to while it is dragged, looked up when the drag begins; with Alt to nothing. */
  readonly targets?: () => readonly Target[];
  /** A drag in hand, frames to the right and pixels down; null ends it. */
  readonly onPreview: (by: Shift | null) => void;
  readonly onChange: (by: Shift) => void;
  readonly onRemove?: () => void;
  readonly onEnter?: () => void;
}

/** How far a handle is moved: frames to the right, pixels down. */
export interface Shift {
  readonly frames: number;
  readonly down: number;
}

const LOOKS = {
  bar: 'h-3.5 w-2 rounded-sm border-ink bg-raised cursor-ew-resize',
  peg: 'size-2.5 rounded-full border-ink bg-ink cursor-ew-resize',
  point: 'size-2 rounded-full border-ink bg-raised cursor-move',
  edge: 'h-6 w-1.5 rounded-sm border-soft bg-raised cursor-ew-resize',
} as const;

/** Pixels up to which a press is no drag. */
const TAP = 2;
/** Pixels that an arrow key up or down stands for. */
const STEP_DOWN = 2;

/** Something on a lane that is moved by pointer and by arrow keys. */
export function LaneHandle(props: Props) {
  const { label, value, left, top, ppf, look = 'bar', onChange, onRemove, onEnter } = props;
  // A drag goes on from what there was when it began, whatever it shows meanwhile.
  const begun = useRef({ ...props, snaps: [] as readonly Target[] });
  const bind = useDrag(
    ({ first, last, canceled, movement: [x, y], event }) => {
      event.stopPropagation();
      if (first) begun.current = { ...props, snaps: snapsOf(props) };
      const { value: from, snaps } = begun.current;
      const snapped = event.altKey ? null : snap(from + x / ppf, snaps, ppf);
      const by = { frames: Math.round(snapped === null ? x / ppf : snapped - from), down: y };
      if (!last) return begun.current.onPreview(by);
      begun.current.onPreview(null);
      if (canceled) return;
      if (Math.hypot(x, y) < TAP) onEnter?.();
      else if (by.frames !== 0 || look === 'point') begun.current.onChange(by);
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (e: KeyboardEvent): void => {
    const times = e.shiftKey ? 10 : 1;
    const by = SHIFTS[e.key];
    if (by) onChange({ frames: by.frames * times, down: by.down * times });
    else if ((e.key === 'Delete' || e.key === 'Backspace') && onRemove) onRemove();
    else if (e.key === 'Enter' && onEnter) onEnter();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      {...bind()}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={props.least}
      aria-valuemax={props.most}
      aria-valuenow={Number(value.toFixed(2))}
      aria-valuetext={props.text}
      title={label}
      className={`absolute z-10 -translate-x-1/2 -translate-y-1/2 touch-none border ${LOOKS[look]}`}
      style={{ left, top }}
      onKeyDown={onKeyDown}
      onClick={(e) => e.stopPropagation()}
    />
  );
}

/** What a handle snaps to, but where it stands. */
const snapsOf = ({ targets, value }: Pick<Props, 'targets' | 'value'>): readonly Target[] =>
  targets?.().filter((t) => t.frame !== Math.round(value)) ?? [];

const SHIFTS: Readonly<Record<string, Shift>> = {
  ArrowLeft: { frames: -1, down: 0 },
  ArrowRight: { frames: 1, down: 0 },
  ArrowUp: { frames: 0, down: -STEP_DOWN },
  ArrowDown: { frames: 0, down: STEP_DOWN },
};
