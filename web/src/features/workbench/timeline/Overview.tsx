import { useDrag } from '@use-gesture/react';
import { memo, useEffect, useRef, useState } from 'react';
import { BelowSwitch } from '../BelowSwitch';
import type { Row } from './rows';
import { timelineElement } from './useTimelineDrag';
import { HEADER_WIDTH } from './geometry';

interface Props {
  readonly rows: readonly Row[];
  /** Frames of the whole strip. */
  readonly frames: number;
  readonly pixelsPerFrame: number;
}

const HEIGHT = 24;

/** The whole piece at a glance, with the part in sight as a frame that is dragged along. */
export function Overview({ rows, frames, pixelsPerFrame }: Props) {
  const strip = useRef<HTMLDivElement>(null);
  const { from, to } = useInSight(pixelsPerFrame);
  const show = (x: number): void => {
    const box = strip.current?.getBoundingClientRect();
    const scroller = timelineElement();
    if (!box || !scroller) return;
    const middle = ((x - box.left) / box.width) * frames;
    scroller.scrollLeft = (middle - (to - from) / 2) * pixelsPerFrame;
  };
  const bind = useDrag(({ xy: [x] }) => show(x), { pointer: { keys: false } });
  const share = (f: number): string => `${(100 * Math.min(f, frames)) / frames}%`;
  return (
    <div className="flex shrink-0 border-t" style={{ height: HEIGHT + 1 }}>
      <div className="shrink-0 border-r pr-2" style={{ minWidth: HEADER_WIDTH }}>
        <BelowSwitch />
      </div>
      <div
        ref={strip}
        role="scrollbar"
        tabIndex={0}
        aria-label="Visible part of the scene"
        aria-orientation="horizontal"
        aria-controls="timeline-lanes"
        aria-valuemin={0}
        aria-valuemax={Math.round(frames)}
        aria-valuenow={Math.round(from)}
        className="relative min-w-0 flex-1 cursor-pointer touch-none"
        onKeyDown={(e) => {
          const scroller = timelineElement();
          const ways: Record<string, number> = {
            ArrowLeft: -0.25,
            ArrowRight: 0.25,
            PageUp: -0.9,
            PageDown: 0.9,
          };
          const way = ways[e.key];
          if (way === undefined || !scroller) return;
          scroller.scrollLeft += way * (scroller.clientWidth - HEADER_WIDTH);
          e.preventDefault();
          e.stopPropagation();
        }}
        {...bind()}
      >
        <Bars rows={rows} frames={frames} />
        <div
          className="pointer-events-none absolute inset-y-0 rounded-[3px] border border-ink/60 bg-ink/5"
          style={{ left: share(Math.max(0, from)), right: `calc(100% - ${share(to)})` }}
        />
      </div>
    </div>
  );
}

/** The frames in sight, to the pixel; it follows every scroll. */
function useInSight(pixelsPerFrame: number): { from: number; to: number } {
  const [pixels, setPixels] = useState({ left: 0, width: 1 });
  useEffect(() => {
    const scroller = timelineElement();
    if (!scroller) return;
    const look = (): void =>
      setPixels({ left: scroller.scrollLeft, width: scroller.clientWidth - HEADER_WIDTH });
    look();
    scroller.addEventListener('scroll', look, { passive: true });
    const size = new ResizeObserver(look);
    size.observe(scroller);
    return () => {
      scroller.removeEventListener('scroll', look);
      size.disconnect();
    };
  }, []);
  return { from: pixels.left / pixelsPerFrame, to: (pixels.left + pixels.width) / pixelsPerFrame };
}

const Bars = memo(function Bars({ rows, frames }: Pick<Props, 'rows' | 'frames'>) {
  const each = HEIGHT / Math.max(3, rows.length);
  return (
    <svg
      viewBox={`0 0 ${frames} ${HEIGHT}`}
      preserveAspectRatio="none"
      className="absolute inset-0 size-full"
      aria-hidden
    >
      {rows.map((row, i) => (
        <Bar key={row.lane.id} row={row} top={(i + 0.15) * each} height={each * 0.7} />
      ))}
    </svg>
  );
});

const Bar = memo(function Bar({ row, top, height }: { row: Row; top: number; height: number }) {
  return (
    <path
      d={row.segments.map((s) => `M${s.start},${top}H${s.end}v${height}H${s.start}z`).join('')}
      fill={`var(--hue-${row.plan.character.hue})`}
      opacity={0.55}
    />
  );
});
