import { defined } from '@warper/core';
import { memo } from 'react';
import type { BoneLine, Strip, StripFigure } from './strip';
import { headRadius } from './strip';

interface Props {
  readonly title: string;
  readonly strip: Strip;
  readonly hue: number;
  /** Offsets of the figures, frames from where the two meet. */
  readonly offsets: readonly number[];
  /** The frames of the segment that are used: from and up to, from where the two meet; the others are drawn faintly. */
  readonly used: readonly [from: number, to: number];
  /** The frames that both share. */
  readonly shared: readonly [from: number, to: number];
}

/** Sizes in the drawing's own units; it is drawn as wide as there is room. */
const SLOT = 58;
const FIGURE = 82;
const ROWS = FIGURE + 5;
const HEIGHT = ROWS + 26;
/** How thick the limbs of a person are drawn, metres. */
const THICK = 0.07;

/** Poses around a seam from the side, over the rows of its steps and the frames of its clip; where both meet is in the middle. */
export const PoseStrip = memo(function PoseStrip(props: Props) {
  const { title, strip, hue, offsets, used, shared } = props;
  const width = offsets.length * SLOT;
  const each = (defined(offsets.at(-1)) - defined(offsets[0])) / (offsets.length - 1);
  const x = (offset: number): number => width / 2 + (offset / each) * SLOT;
  const scale = Math.min((FIGURE - 4) / Math.max(0.3, strip.top), (SLOT * 0.62) / Math.max(0.2, strip.reach));
  const clamped = ([from, to]: readonly [number, number]): [number, number] => [
    Math.max(0, x(from)),
    Math.min(width, x(to)),
  ];
  const [from, to] = clamped(shared);
  return (
    <figure className="min-h-0 min-w-0 flex-1">
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMidYMid meet"
        className="h-full w-full"
        role="img"
        aria-label={`${title}: ${strip.figures.length} poses around the seam`}
      >
        {to > from && (
          <rect x={from} width={to - from} y={0} height={ROWS + 12} fill="var(--rule)" opacity={0.45} />
        )}
        <line x1={0} x2={width} y1={FIGURE} y2={FIGURE} stroke="var(--rule)" />
        {strip.figures.map((figure) => (
          <Figure
            key={figure.offset}
            figure={figure}
            x={x(figure.offset)}
            scale={scale}
            size={strip.size}
            colour={`var(--hue-${hue})`}
            faint={figure.offset < used[0] || figure.offset >= used[1]}
          />
        ))}
        <StepRuns planted={strip.planted} hue={hue} clamped={clamped} />
        <FrameNumbers figures={strip.figures} x={x} />
      </svg>
    </figure>
  );
});

interface RunProps extends Pick<Strip, 'planted'> {
  readonly hue: number;
  /** Where a stretch of frames is drawn. */
  readonly clamped: (run: readonly [number, number]) => [number, number];
}

/** When the feet are planted, left above right. */
const StepRuns = ({ planted, hue, clamped }: RunProps) =>
  planted.map((runs, row) =>
    runs.map((run) => {
      const [a, b] = clamped(run);
      return (
        <rect
          key={`${row}-${run[0]}`}
          x={a}
          width={Math.max(1, b - a - 1)}
          y={ROWS + row * 6}
          height={4}
          fill={`var(--hue-${hue})`}
          opacity={0.6}
        />
      );
    }),
  );

/** The samples of the clip below their figures; what meets stands out. */
const FrameNumbers = ({ figures, x }: Pick<Strip, 'figures'> & { readonly x: (offset: number) => number }) =>
  figures.map(({ offset, sample }) => (
    <text
      key={offset}
      x={x(offset)}
      y={HEIGHT - 2}
      textAnchor="middle"
      fontSize={11}
      fontWeight={offset === 0 ? 700 : 400}
      fill={offset === 0 ? 'var(--signal)' : 'var(--soft)'}
    >
      {sample}
    </text>
  ));

interface FigureProps {
  readonly figure: StripFigure;
  readonly x: number;
  readonly scale: number;
  /** Of the body beside a person. */
  readonly size: number;
  readonly colour: string;
  readonly faint: boolean;
}

function Figure({ figure, x, scale, size, colour, faint }: FigureProps) {
  const thick = THICK * size;
  return (
    <g transform={`translate(${x},${FIGURE}) scale(${scale})`} opacity={faint ? 0.28 : 1}>
      <path
        d={pathOf(figure.left)}
        fill="none"
        stroke={colour}
        strokeWidth={thick}
        strokeLinecap="round"
        opacity={0.5}
      />
      <path d={pathOf(figure.others)} fill="none" stroke={colour} strokeWidth={thick} strokeLinecap="round" />
      {figure.head && <circle cx={figure.head[0]} cy={-figure.head[1]} r={headRadius(size)} fill={colour} />}
    </g>
  );
}

const pathOf = (lines: readonly BoneLine[]): string =>
  lines
    .map(([x1, y1, x2, y2]) => `M${x1.toFixed(3)},${(-y1).toFixed(3)}L${x2.toFixed(3)},${(-y2).toFixed(3)}`)
    .join('');
