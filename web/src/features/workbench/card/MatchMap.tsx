import { useEffect, useRef } from 'react';
import type { SeamMatch } from '../../../workers/matchSeam';
import { DISTANCE_LIMITS } from './distanceGrade';

interface Props {
  readonly match: SeamMatch;
  /** Called with a sample of the outgoing and one of the incoming clip. */
  readonly onChoose: (out: number, into: number) => void;
}

/** Size of the drawing, in CSS pixels; what is longer than wide keeps its proportions up to this height. */
const WIDTH = 244;
const MOST_HEIGHT = 200;

/**
 * The distances of all moments around a seam: to the right the incoming clip's, downwards the outgoing one's, the darker
 * the more alike. The ranked pairs are numbered; a click takes any moment.
 */
export function MatchMap({ match, onChoose }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { outgoingMoments: rows, incomingMoments: columns, outgoing, incoming, incomingStep } = match;
  const height = Math.round(Math.min(MOST_HEIGHT, Math.max(40, (WIDTH * rows) / columns)));
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    element.width = columns;
    element.height = rows;
    context.putImageData(new ImageData(shades(match, inkOf(element)), columns, rows), 0, 0);
  }, [match, rows, columns]);
  const x = (into: number): number => ((into - incoming.start) / incomingStep + 0.5) * (WIDTH / columns);
  const y = (out: number): number => (out - outgoing.start + 0.5) * (height / rows);
  const choose = (px: number, py: number): void => {
    const column = Math.min(columns - 1, Math.max(0, Math.floor((px / WIDTH) * columns)));
    const row = Math.min(rows - 1, Math.max(0, Math.floor((py / height) * rows)));
    onChoose(outgoing.start + row, Math.round(incoming.start + column * incomingStep));
  };
  return (
    <figure className="my-1">
      <div className="relative border" style={{ width: WIDTH + 2 }}>
        <canvas
          ref={canvas}
          aria-hidden
          data-match-map
          className="block cursor-crosshair"
          style={{ width: WIDTH, height }}
          onClick={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            choose(e.clientX - box.left, e.clientY - box.top);
          }}
        />
        <svg
          width={WIDTH}
          height={height}
          className="pointer-events-none absolute inset-0 overflow-visible"
          aria-hidden
        >
          {match.pairs.map((p, i) => (
            <g key={`${p.out}-${p.in}`} transform={`translate(${x(p.in)},${y(p.out)})`}>
              <circle r={7} fill="var(--raised)" stroke="var(--ink)" />
              <text textAnchor="middle" dy="0.35em" fontSize={10.5} fill="var(--ink)">
                {i + 1}
              </text>
            </g>
          ))}
        </svg>
      </div>
      <figcaption className="flex justify-between text-note text-soft" style={{ width: WIDTH }}>
        <span>
          ↓ outgoing {outgoing.start}–{outgoing.end - 1}
        </span>
        <span>
          → incoming {incoming.start}–{incoming.end - 1}
        </span>
      </figcaption>
    </figure>
  );
}

/** The ink of the theme in hand, red green blue. */
function inkOf(element: Element): [number, number, number] {
  const hex = getComputedStyle(element).getPropertyValue('--ink').trim().replace('#', '');
  const part = (k: number): number => parseInt(hex.slice(k * 2, k * 2 + 2), 16) || 0;
  return [part(0), part(1), part(2)];
}

/** Ink laid on by likeness: full where two moments are the same, none from where no match exists any more. */
function shades(
  { distances }: SeamMatch,
  ink: readonly [number, number, number],
): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(distances.length * 4);
  distances.forEach((metres, i) => {
    pixels.set(ink, i * 4);
    // Steeper where it counts: what is isEqualSelection stands out from what is merely near.
    const likeness = Math.max(0, 1 - (metres * 100) / DISTANCE_LIMITS.none);
    pixels[i * 4 + 3] = 235 * likeness * likeness;
  });
  return pixels;
}
