import type { Moments, SeamMap } from '@warper/core';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useEffect, useRef, useState } from 'react';
import { cm } from '../../../ui/grade';
import { DISTANCE_LIMITS } from './distanceGrade';

interface Props {
  readonly map: SeamMap;
  /** Called with the moments under the pointer, null once it leaves. */
  readonly onHover: (moments: Moments | null) => void;
  /** Called with moments that the keys have moved to, to be seen; null where they are left. */
  readonly onTry: (moments: Moments | null) => void;
  readonly onChoose: (moments: Moments) => void;
}

/** Size of the drawing, in CSS pixels; what is longer than wide keeps its proportions up to this height. */
const WIDTH = 254;
const MOST_HEIGHT = 170;
const LEAST_HEIGHT = 24;

const ARROWS: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/**
 * The distances of all moments around a seam: to the right the incoming clip's, downwards the outgoing one's, the darker
 * the more alike. What meets now is framed, the ranked pairs are numbered. A click takes any moment; the arrow keys move
 * about, with Shift ten frames at a time, and Enter takes what they have come to.
 */
export function MatchMap({ map, onHover, onTry, onChoose }: Props) {
  const { rows, columns, now } = map;
  const height = Math.round(Math.min(MOST_HEIGHT, Math.max(LEAST_HEIGHT, (WIDTH * rows) / columns)));
  const { tried, onKeyDown, leave } = useMapKeys(map, onTry, onChoose);
  const x = (into: number): number => (into - map.first.in + 0.5) * (WIDTH / columns);
  const y = (out: number): number => (out - map.first.out + 0.5) * (height / rows);
  const at = (e: PointerEvent<HTMLElement>): Moments => {
    const box = e.currentTarget.getBoundingClientRect();
    const share = (v: number): number => Math.min(1 - 1e-9, Math.max(0, v));
    return {
      out: map.first.out + Math.floor(share((e.clientY - box.top) / box.height) * rows),
      in: map.first.in + Math.floor(share((e.clientX - box.left) / box.width) * columns),
    };
  };
  return (
    <figure className="my-1">
      <div
        role="application"
        aria-roledescription="map of matching frames"
        aria-label={`Matching frames. ${wordsOf(map, tried ?? now)}${tried ? ', Enter takes it' : ', meet now'}`}
        tabIndex={0}
        data-match-map
        className="relative cursor-crosshair border"
        style={{ width: WIDTH + 2 }}
        onKeyDown={onKeyDown}
        onBlur={() => tried && leave()}
        onPointerMove={(e) => onHover(at(e))}
        onPointerLeave={() => onHover(null)}
        onClick={(e) => onChoose(at(e as unknown as PointerEvent<HTMLElement>))}
      >
        <Shades map={map} height={height} />
        <svg
          width={WIDTH}
          height={height}
          className="pointer-events-none absolute inset-0 overflow-visible"
          aria-hidden
        >
          <MapMarks map={map} x={x} y={y} tried={tried} />
        </svg>
      </div>
      <figcaption className="flex justify-between text-note text-soft" style={{ width: WIDTH }}>
        <span>↓ outgoing {spanOf(map.samples.out)}</span>
        <span>→ incoming {spanOf(map.samples.in)}</span>
      </figcaption>
    </figure>
  );
}

/** The arrow keys move about on the map and show what would meet there; Enter takes it, Escape leaves it. */
function useMapKeys(map: SeamMap, onTry: Props['onTry'], onChoose: Props['onChoose']) {
  const { rows, columns, now } = map;
  const [tried, setTried] = useState<Moments | null>(null);
  const leave = (): void => {
    setTried(null);
    onTry(null);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const arrow = ARROWS[e.key];
    if (arrow) {
      const by = e.shiftKey ? 10 : 1;
      const from = tried ?? now;
      const next = {
        out: clamp(from.out + arrow[0] * by, map.first.out, rows),
        in: clamp(from.in + arrow[1] * by, map.first.in, columns),
      };
      setTried(next);
      onTry(next);
    } else if (e.key === 'Enter' && tried) {
      setTried(null);
      onChoose(tried);
    } else if (e.key === 'Escape' && tried) leave();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return { tried, onKeyDown, leave };
}

interface MarkProps {
  readonly map: SeamMap;
  readonly x: (into: number) => number;
  readonly y: (out: number) => number;
  readonly tried: Moments | null;
}

/** The ranked pairs by number, what meets now, and what the keys have come to. */
const MapMarks = ({ map, x, y, tried }: MarkProps) => (
  <>
    {map.pairs.map((p, i) => (
      <g key={`${p.out}-${p.in}`} transform={`translate(${x(p.in)},${y(p.out)})`}>
        <circle r={7} fill="var(--raised)" stroke="var(--ink)" />
        <text textAnchor="middle" dy="0.35em" fontSize={10.5} fill="var(--ink)">
          {i + 1}
        </text>
      </g>
    ))}
    <Frame x={x(map.now.in)} y={y(map.now.out)} colour="var(--signal)" />
    {tried && <Frame x={x(tried.in)} y={y(tried.out)} colour="var(--ink)" />}
  </>
);

/** Where two moments meet, in words: "41 onto 7, 3.2 cm apart". */
function wordsOf(map: SeamMap, { out, in: into }: Moments): string {
  const [row, column] = [out - map.first.out, into - map.first.in];
  const distance = map.distancesCm[row * map.columns + column];
  const apart = distance === undefined || Number.isNaN(distance) ? '' : `, ${cm(distance)} apart`;
  return `${map.samples.out[row] ?? out} onto ${map.samples.in[column] ?? into}${apart}`;
}

const clamp = (value: number, first: number, count: number): number =>
  Math.min(first + count - 1, Math.max(first, value));

/** The samples of an axis that its clip has: "12 to 71". */
function spanOf(samples: Int32Array): string {
  const has = samples.filter((s) => s >= 0);
  return has.length > 0 ? `${Math.min(...has)} to ${Math.max(...has)}` : '';
}

/** The pair that meets, framed. */
const Frame = ({ x, y, colour }: { x: number; y: number; colour: string }) => (
  <rect x={x - 5} y={y - 5} width={10} height={10} fill="none" stroke={colour} strokeWidth={2} />
);

/** The map itself. */
function Shades({ map, height }: { map: SeamMap; height: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    element.width = map.columns;
    element.height = map.rows;
    context.putImageData(new ImageData(shades(map, inkOf(element)), map.columns, map.rows), 0, 0);
  }, [map]);
  return <canvas ref={canvas} aria-hidden className="block" style={{ width: WIDTH, height }} />;
}

/** The ink of the theme in hand, red green blue. */
function inkOf(element: Element): [number, number, number] {
  const hex = getComputedStyle(element).getPropertyValue('--ink').trim().replace('#', '');
  const part = (k: number): number => parseInt(hex.slice(k * 2, k * 2 + 2), 16) || 0;
  return [part(0), part(1), part(2)];
}

/** Ink laid on by likeness: full where two moments are the same, none from where no match exists any more. */
function shades(
  { distancesCm }: SeamMap,
  ink: readonly [number, number, number],
): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(distancesCm.length * 4);
  distancesCm.forEach((distance, i) => {
    pixels.set(ink, i * 4);
    // Steeper where it counts: what matches stands out from what is merely near.
    const likeness = Math.max(0, 1 - distance / DISTANCE_LIMITS.none);
    pixels[i * 4 + 3] = 235 * likeness * likeness;
  });
  return pixels;
}
