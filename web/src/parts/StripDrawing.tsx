import type { Span } from '@warper/core';
import { memo } from 'react';
import type { Strip } from '../motion/strip';

interface Props {
  readonly strip: Strip;
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
  readonly frames: number;
  readonly width: number;
}

const FIGURE_HEIGHT = 30;
const ROWS_AT = 33;

/** Small figures along a clip, over its steps: left foot above right. */
export const StripDrawing = memo(function StripDrawing({ strip, leftFoot, rightFoot, frames, width }: Props) {
  const high = Math.max(1, ...strip.flatMap((f) => f.flatMap((l) => [l[1], l[3]])));
  const scale = (FIGURE_HEIGHT - 3) / high;
  const x = (frame: number): number => (frame / frames) * width;
  return (
    <svg width={width} height={ROWS_AT + 11} aria-hidden className="block overflow-visible">
      {strip.map((figure, i) => (
        <g
          key={i}
          transform={`translate(${((i + 0.5) * width) / strip.length},${FIGURE_HEIGHT}) scale(${scale},${-scale})`}
        >
          {figure.map(([x1, y1, x2, y2], k) => (
            <line
              key={k}
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              stroke="var(--hue-0)"
              strokeWidth={0.085}
              strokeLinecap="round"
            />
          ))}
          <circle cx={headOf(figure)[0]} cy={headOf(figure)[1] + 0.09} r={0.1} fill="var(--hue-0)" />
        </g>
      ))}
      {[leftFoot, rightFoot].map((spans, row) =>
        spans.map((s, i) => (
          <rect
            key={`${row}-${i}`}
            x={x(s.start)}
            y={ROWS_AT + row * 6}
            width={Math.max(1, x(s.end) - x(s.start) - 0.5)}
            height={4}
            rx={1}
            fill="var(--hue-0)"
            opacity={0.55}
          />
        )),
      )}
    </svg>
  );
});

/** Where a figure's head goes: the end of its first line. */
const headOf = (figure: Strip[number]): [number, number] => [figure[0]?.[2] ?? 0, figure[0]?.[3] ?? 0];
