import type { Curve, Handle } from '@warper/core';
import { defined } from '@warper/core';
import { curveWeight, prepareCurve } from '@warper/core/kernels';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useState } from 'react';
import { movedHandle } from './movedHandle';

interface Props {
  /** What it is, for screen readers: "Weight over the overlap". */
  readonly label: string;
  readonly curve: Curve;
  /** What the two axes are called. */
  readonly across: string;
  readonly up: string;
  /** Shows a curve while a handle is dragged; null ends that. */
  readonly onPreview?: (curve: Curve | null) => void;
  readonly onChange: (curve: Curve | null) => void;
}

const WIDTH = 250;
const HEIGHT = 96;
const SAMPLES = 60;

/**
 * A curve from nothing to all, with a handle for each of the user's own points: dragged, or moved by the arrow keys (with Shift
 * by ten in a hundred); a double click puts one there, Delete takes one away.
 */
export function CurveField({ label, curve, across, up, onPreview, onChange }: Props) {
  const [dragged, setDragged] = useState<readonly Handle[] | null>(null);
  const shown = dragged ?? curve;
  const own: readonly Handle[] = typeof shown === 'string' ? [] : shown;
  const show = (points: readonly Handle[] | null): void => {
    setDragged(points);
    onPreview?.(points);
  };
  const move = (i: number, to: Handle): Handle[] =>
    own.map((p, k) => (k === i ? movedHandle(own, i, to) : p));
  const remove = (i: number): void => {
    const rest = own.filter((_, k) => k !== i);
    onChange(rest.length > 0 ? rest : null);
  };
  return (
    <figure className="my-1">
      <svg
        width={WIDTH}
        height={HEIGHT}
        className="block touch-none overflow-visible border"
        role="group"
        aria-label={label}
        onDoubleClick={(e) => {
          const [x, y] = placeOf(e.currentTarget, e);
          const points = [...own, [x, y] as const].sort((a, b) => a[0] - b[0]);
          const at = points.findIndex((p) => p[0] === x && p[1] === y);
          onChange(points.map((p, k) => (k === at ? movedHandle(points, at, p) : p)));
        }}
      >
        <line x1={0} x2={WIDTH} y1={HEIGHT} y2={0} stroke="var(--rule)" />
        <path d={pathOf(shown)} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
        {own.map((point, i) => (
          <CurveHandle
            key={i}
            point={point}
            label={`${label}, point ${i + 1} of ${own.length}`}
            words={`${percent(point[0])} ${across}, ${percent(point[1])} ${up}`}
            onDrag={(to) => show(move(i, to))}
            onDrop={() => {
              const points = dragged;
              show(null);
              if (points) onChange(points);
            }}
            onGiveUp={() => show(null)}
            onNudge={(dx, dy) => onChange(move(i, [point[0] + dx, point[1] + dy]))}
            onRemove={() => remove(i)}
          />
        ))}
      </svg>
      <figcaption
        className="flex justify-between text-tick whitespace-nowrap text-soft"
        style={{ width: WIDTH }}
      >
        <span>↑ {up.replace(OF_THE, '')}</span>
        <span>Double-click adds a point</span>
        <span>→ {across.replace(OF_THE, '')}</span>
      </figcaption>
    </figure>
  );
}

interface HandleProps {
  readonly point: Handle;
  readonly label: string;
  readonly words: string;
  readonly onDrag: (to: Handle) => void;
  readonly onDrop: () => void;
  readonly onGiveUp: () => void;
  readonly onNudge: (dx: number, dy: number) => void;
  readonly onRemove: () => void;
}

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, 0.01],
  ArrowDown: [0, -0.01],
};

/** One point of the curve, to be dragged. */
function CurveHandle(props: HandleProps) {
  const { point, label, words, onDrag, onDrop, onGiveUp, onNudge, onRemove } = props;
  const onKeyDown = (e: KeyboardEvent): void => {
    const step = STEPS[e.key];
    const by = e.shiftKey ? 10 : 1;
    if (step) onNudge(step[0] * by, step[1] * by);
    else if (e.key === 'Delete' || e.key === 'Backspace') onRemove();
    else if (e.key === 'Escape') onGiveUp();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const isHeld = (e: PointerEvent): boolean => e.currentTarget.hasPointerCapture(e.pointerId);
  return (
    <circle
      cx={point[0] * WIDTH}
      cy={(1 - point[1]) * HEIGHT}
      r={6}
      fill="var(--raised)"
      stroke="var(--ink)"
      strokeWidth={1.6}
      className="cursor-move"
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Math.round(point[1] * 100)}
      aria-valuetext={words}
      onKeyDown={onKeyDown}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        e.currentTarget.focus();
      }}
      onPointerMove={(e) => isHeld(e) && onDrag(placeOf(defined(e.currentTarget.ownerSVGElement), e))}
      onPointerUp={onDrop}
      onPointerCancel={onGiveUp}
      onDoubleClick={(e) => e.stopPropagation()}
    />
  );
}

/** Where the pointer is on the drawing, from 0 to 1 to the right and upwards. */
function placeOf(svg: Element, e: { readonly clientX: number; readonly clientY: number }): Handle {
  const box = svg.getBoundingClientRect();
  return [(e.clientX - box.left) / box.width, 1 - (e.clientY - box.top) / box.height];
}

function pathOf(curve: Curve): string {
  const weights = prepareCurve(curve);
  return Array.from({ length: SAMPLES + 1 }, (_, i) => {
    const u = i / SAMPLES;
    return `${i === 0 ? 'M' : 'L'}${(u * WIDTH).toFixed(1)},${((1 - curveWeight(weights, u)) * HEIGHT).toFixed(1)}`;
  }).join('');
}

/** What an axis is called without "of the". */
const OF_THE = /^of the /;

const percent = (share: number): string => `${Math.round(share * 100)} %`;
