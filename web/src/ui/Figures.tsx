import { defined } from '@warper/core';
import type { Span } from '@warper/core';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { Preview } from '@warper/formats';
import { previewHeight, tellingFigure } from '@warper/formats';

/** Of a body of this height, metres: how thick its lines are, how large its head, and how far that is from its joint. */
const HUMAN = 1.7;
const LINE = 0.085;
const HEAD_RADIUS = 0.1;
const HEAD_AHEAD = 0.09;

/** One figure of a preview, in metres with up negative, standing on 0. */
function Figure({ preview, index }: { preview: Preview; index: number }) {
  const { lines, places } = preview;
  const at = (line: number, k: number): number => defined(places[(index * lines + line) * 4 + k]) / 1000;
  // Small bodies have thin lines. The head is where the neck points to.
  const size = Math.min(1, previewHeight(preview) / HUMAN);
  const [dx, dy]: [number, number] = lines > 0 ? [at(0, 2) - at(0, 0), at(0, 3) - at(0, 1)] : [0, 1];
  const ahead = (HEAD_AHEAD * size) / (Math.hypot(dx, dy) || 1);
  const head: [number, number] = lines > 0 ? [at(0, 2) + dx * ahead, at(0, 3) + dy * ahead] : [0, 0];
  let path = '';
  for (let i = 0; i < lines; i++) path += `M${at(i, 0)},${-at(i, 1)}L${at(i, 2)},${-at(i, 3)}`;
  return (
    <>
      <path d={path} fill="none" stroke="var(--hue-0)" strokeWidth={LINE * size} strokeLinecap="round" />
      {lines > 0 && (
        <circle cx={head[0]} cy={-head[1]} r={HEAD_RADIUS * (0.4 + 0.6 * size)} fill="var(--hue-0)" />
      )}
    </>
  );
}

interface StripProps {
  readonly preview: Preview;
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
  readonly frames: number;
  readonly width: number;
}

const STRIP_FIGURES = 6;
const FIGURE_HEIGHT = 30;
const ROWS_AT = 33;

/** Small figures along a clip, over its steps: left foot above right. */
export const StripDrawing = memo(function StripDrawing(props: StripProps) {
  const { preview, leftFoot, rightFoot, frames, width } = props;
  const scale = (FIGURE_HEIGHT - 3) / Math.max(1, previewHeight(preview));
  const count = Math.min(STRIP_FIGURES, preview.figures);
  return (
    <svg width={width} height={ROWS_AT + 11} aria-hidden className="block overflow-visible">
      {Array.from({ length: count }, (_, i) => (
        <g key={i} transform={`translate(${((i + 0.5) * width) / count},${FIGURE_HEIGHT}) scale(${scale})`}>
          <Figure preview={preview} index={Math.floor((i * preview.figures) / count)} />
        </g>
      ))}
      <g transform={`translate(0,${ROWS_AT})`}>
        <StepRows leftFoot={leftFoot} rightFoot={rightFoot} frames={frames} width={width} />
      </g>
    </svg>
  );
});

/** The spans in which the feet are planted as two thin rows, left above right; 10 pixels high. */
export function StepRows({ leftFoot, rightFoot, frames, width }: Omit<StripProps, 'preview'>) {
  return (
    <>
      {[leftFoot, rightFoot].map((spans, row) => (
        <path key={row} d={stepPath(spans, width / frames, row * 6)} fill="var(--hue-0)" opacity={0.55} />
      ))}
    </>
  );
}

/** Steps as one path. Those that lie less than half a pixel apart are drawn as one: a long clip has thousands. */
function stepPath(spans: readonly Span[], scale: number, y: number): string {
  let d = '';
  let [from, to] = [-1, -1];
  const flush = (): void => {
    if (from >= 0)
      d += `M${from.toFixed(1)},${y}h${Math.max(1, to - from - 0.5).toFixed(1)}v4H${from.toFixed(1)}z`;
  };
  for (const span of spans) {
    const [a, b] = [span.start * scale, span.end * scale];
    if (from >= 0 && a - to < 0.5) to = b;
    else {
      flush();
      [from, to] = [a, b];
    }
  }
  flush();
  return d;
}

interface MovingProps {
  readonly preview: Preview;
  readonly seconds: number;
  readonly playing: boolean;
  readonly width: number;
  readonly height: number;
}

/** One figure that moves while it plays, and stands in its most telling pose where it does not. */
export function MovingFigure({ preview, seconds, playing, width, height }: MovingProps) {
  const [playedIndex, setIndex] = useState<number | null>(null);
  const telling = useMemo(() => tellingFigure(preview), [preview]);
  const index = playedIndex ?? telling;
  const since = useRef(0);
  const moves = playing && preview.figures > 1 && !matchMedia('(prefers-reduced-motion: reduce)').matches;
  useEffect(() => {
    if (!moves) return;
    since.current = performance.now();
    let request = requestAnimationFrame(function show(current) {
      const played = ((current - since.current) / 1000 / Math.max(0.1, seconds)) % 1;
      setIndex(Math.min(preview.figures - 1, Math.floor(Math.max(0, played) * preview.figures)));
      request = requestAnimationFrame(show);
    });
    return () => {
      cancelAnimationFrame(request);
      setIndex(null);
    };
  }, [moves, seconds, preview.figures]);
  const scale = (height - 14) / Math.max(1, previewHeight(preview) + HEAD_RADIUS);
  return (
    <svg width={width} height={height} aria-hidden className="block">
      <line x1={width * 0.2} x2={width * 0.8} y1={height - 5} y2={height - 5} stroke="var(--rule)" />
      <g transform={`translate(${width / 2},${height - 6}) scale(${scale})`}>
        <Figure preview={preview} index={Math.min(index, preview.figures - 1)} />
      </g>
    </svg>
  );
}
