import { defined } from '@warper/core';
import { useDrag } from '@use-gesture/react';
import type { Span } from '@warper/core';
import { Plus } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import type { StepRow } from './stepSpans';
import { addStep, moveEnd, removeStep } from './stepSpans';
import { Button } from '../../../../ui/controls';

interface Props {
  readonly rows: readonly StepRow[];
  readonly frames: number;
  readonly rate: number;
  /** Sample that is shown. */
  readonly sample: number;
  readonly onChange: (rows: StepRow[]) => void;
  /** Shows a sample, so that an end is seen where it is put. */
  readonly onShow: (sample: number) => void;
}

/** The spans in which each foot joint is planted: their ends are dragged, or moved by arrow keys; Delete takes a step away. */
export function StepEditor({ rows, frames, rate, sample, onChange, onShow }: Props) {
  const put = (joint: string, spans: readonly Span[]): void =>
    onChange(rows.map((r) => (r.joint === joint ? { ...r, spans } : r)));
  return (
    <ul aria-label="Steps" className="flex flex-col gap-1.5">
      {rows.map((row) => (
        <li key={row.joint} className="grid grid-cols-[8.5rem_minmax(0,1fr)_auto] items-center gap-2">
          <span className="truncate text-soft">{row.label}</span>
          <Track
            row={row}
            frames={frames}
            sample={sample}
            onSpans={(spans) => put(row.joint, spans)}
            onShow={onShow}
            onAdd={(at) => {
              const spans = addStep(row.spans, at, { frames, rate });
              if (spans) put(row.joint, spans);
            }}
          />
          <Button
            look="soft"
            aria-label={`Add a step of the ${row.label} here`}
            title="Add a step at the sample that is shown"

            disabled={addStep(row.spans, sample, { frames, rate }) === null}
            onClick={() => put(row.joint, addStep(row.spans, sample, { frames, rate }) ?? row.spans)}
          >
            <Plus size={15} aria-hidden />
          </Button>
        </li>
      ))}
    </ul>
  );
}

interface TrackProps {
  readonly row: StepRow;
  readonly frames: number;
  readonly sample: number;
  readonly onSpans: (spans: readonly Span[]) => void;
  readonly onShow: (sample: number) => void;
  readonly onAdd: (at: number) => void;
}

function Track({ row, frames, sample, onSpans, onShow, onAdd }: TrackProps) {
  const track = useRef<HTMLDivElement>(null);
  const percent = (at: number): string => `${(at / frames) * 100}%`;
  const sampleAt = (x: number): number => {
    const box = defined(track.current).getBoundingClientRect();
    return ((x - box.left) / box.width) * frames;
  };
  const move = (index: number, end: 'start' | 'end', to: number): void => {
    const spans = moveEnd(row.spans, index, end, to, frames);
    onSpans(spans);
    const { start, end: after } = defined(spans[index]);
    onShow(end === 'start' ? start : after - 1);
  };
  return (
    <div
      ref={track}
      data-step-track={row.joint}
      className="relative h-6 rounded bg-raised ring-1 ring-rule"
      title="Double-click to add a step"
      onDoubleClick={(e) => e.target === track.current && onAdd(sampleAt(e.clientX))}
    >
      {row.spans.map((span, i) => (
        <div
          key={i}
          className="absolute inset-y-1 rounded-sm bg-[var(--hue-0)]/45"
          style={{ left: percent(span.start), width: percent(span.end - span.start) }}
        >
          {(['start', 'end'] as const).map((end) => (
            <End
              key={end}
              label={`${row.label}, step ${i + 1} ${end === 'start' ? 'begins' : 'ends'}`}
              end={end}
              value={span[end]}
              frames={frames}
              sampleAt={sampleAt}
              onMove={(to) => move(i, end, to)}
              onRemove={() => onSpans(removeStep(row.spans, i))}
            />
          ))}
        </div>
      ))}
      <div
        className="pointer-events-none absolute inset-y-0 w-px bg-signal"
        style={{ left: percent(sample + 0.5) }}
      />
    </div>
  );
}

interface EndProps {
  readonly label: string;
  readonly end: 'start' | 'end';
  readonly value: number;
  readonly frames: number;
  readonly sampleAt: (x: number) => number;
  readonly onMove: (to: number) => void;
  readonly onRemove: () => void;
}

function End({ label, end, value, frames, sampleAt, onMove, onRemove }: EndProps) {
  const bind = useDrag(({ xy: [x], tap }) => !tap && onMove(sampleAt(x)), {
    filterTaps: true,
    pointer: { keys: false },
  });
  const onKeyDown = (e: KeyboardEvent): void => {
    const by = e.shiftKey ? 10 : 1;
    if (e.key === 'ArrowLeft') onMove(value - by);
    else if (e.key === 'ArrowRight') onMove(value + by);
    else if (e.key === 'Delete' || e.key === 'Backspace') onRemove();
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
      aria-valuemin={0}
      aria-valuemax={frames}
      aria-valuenow={value}
      className={`absolute inset-y-0 w-2 cursor-ew-resize touch-none rounded-sm bg-[var(--hue-0)] ${end === 'start' ? 'left-0' : 'right-0'}`}
      onKeyDown={onKeyDown}
    />
  );
}
