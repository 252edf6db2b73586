import { defined } from '@warper/core';
import type { Preview } from '@warper/formats';

/** Metres that the picture shows at least, and what has to be moved or turned (degrees) for there to be one. */
const LEAST_METRES = 1;
const STILL = { metres: 0.15, degrees: 12 };
const EDGE = 6;

/** The way of a clip over the floor from above, up being where it faces at first, with an arrow for where it faces at last. */
export function FloorPath({ preview, size }: { readonly preview: Preview; readonly size: number }) {
  const way = floorWay(preview, size);
  if (!way) return null;
  return (
    <svg width={size} height={size} aria-hidden className="overflow-visible">
      <path d={way.line} fill="none" stroke="var(--soft)" strokeWidth={1.4} strokeLinejoin="round" />
      <circle cx={way.start[0]} cy={way.start[1]} r={2.2} fill="var(--soft)" />
      <path
        d="M0,-6L3.4,2.6L0,1L-3.4,2.6Z"
        fill="var(--signal)"
        transform={`translate(${way.end[0]},${way.end[1]}) rotate(${way.turned})`}
      />
    </svg>
  );
}

/** What is drawn of a way: pixels, and how far it has turned, degrees clockwise; null where a clip stays where it is. */
export function floorWay(
  { floor }: Pick<Preview, 'floor'>,
  size: number,
): { line: string; start: [number, number]; end: [number, number]; turned: number } | null {
  if (!floor || floor.length < 6) return null;
  const points = Array.from({ length: floor.length / 3 }, (_, i): [number, number] => [
    // What is to the left in the scene is to the left in the picture.
    -defined(floor[i * 3]) / 1000,
    -defined(floor[i * 3 + 1]) / 1000,
  ]);
  const turned = (-defined(floor.at(-1)) / 1000) * (180 / Math.PI);
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  if (Math.max(wide, high) < STILL.metres && Math.abs(turned) < STILL.degrees) return null;
  const scale = (size - 2 * EDGE) / Math.max(wide, high, LEAST_METRES);
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    (x - left - wide / 2) * scale + size / 2,
    (y - top - high / 2) * scale + size / 2,
  ];
  const drawn = points.map(at);
  const line = drawn.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)},${y.toFixed(1)}`).join('');
  return { line, start: defined(drawn[0]), end: defined(drawn.at(-1)), turned };
}
