import type { PropShape } from '@warper/core';
import { PROPS } from '@warper/formats';

type Point = readonly [number, number];

/** Turns a prop to the side, and looks at it from above, radians. */
const VIEW = { turn: 0.6, tilt: 0.35 };

/** A part of a drawing: what it is filled with, and its outline as an SVG path. */
export interface DrawnPart {
  readonly tone: 'plain' | 'dark' | 'light';
  readonly path: string;
}

/** A prop as the faces and outlines of its solids, furthest first, fitted into a square of so many pixels. */
export function propDrawing(shape: Exclude<PropShape, 'own file'>, pixels: number): DrawnPart[] {
  const { size, parts } = PROPS[shape];
  const seen = parts(size)
    .solids.map(({ form, at, turned = [0, 0, 0], tone = 'plain' }) => {
      const place = (p: Place): Point => {
        const [x, y, z] = turnedPoint(p, turned);
        return project([x + at[0], y + at[1], z + at[2]]).at;
      };
      const outlines =
        'box' in form
          ? facesOf(form.box)
              .map((face) => face.map(place))
              .filter(isTowardsUs)
          : [hull(pointsOf(form).map(place))];
      return { tone, outlines, depth: project(at).depth };
    })
    .sort((a, b) => a.depth - b.depth);
  const all = seen.flatMap((s) => s.outlines.flat());
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = (pixels - 4) / Math.max(wide, high);
  const [dx, dy] = [(pixels - wide * scale) / 2, (pixels - high * scale) / 2];
  const write = (outline: readonly Point[]): string =>
    `M${outline.map(([x, y]) => `${((x - left) * scale + dx).toFixed(1)},${((y - top) * scale + dy).toFixed(1)}`).join('L')}Z`;
  return seen.flatMap(({ tone, outlines }) => outlines.map((outline) => ({ tone, path: write(outline) })));
}

type Place = readonly [number, number, number];

/** The faces of a box, their corners in turn as seen from outside. */
function facesOf([w, h, d]: Place): Place[][] {
  const [x, y, z] = [w / 2, h / 2, d / 2];
  return [
    [
      [-x, -y, z],
      [x, -y, z],
      [x, y, z],
      [-x, y, z],
    ],
    [
      [x, -y, -z],
      [-x, -y, -z],
      [-x, y, -z],
      [x, y, -z],
    ],
    [
      [x, -y, z],
      [x, -y, -z],
      [x, y, -z],
      [x, y, z],
    ],
    [
      [-x, -y, -z],
      [-x, -y, z],
      [-x, y, z],
      [-x, y, -z],
    ],
    [
      [-x, y, z],
      [x, y, z],
      [x, y, -z],
      [-x, y, -z],
    ],
    [
      [-x, -y, -z],
      [x, -y, -z],
      [x, -y, z],
      [-x, -y, z],
    ],
  ];
}

/** Whether a face is seen from outside: its corners go round against the clock, on a picture whose y goes down. */
function isTowardsUs([a, b, c]: readonly Point[]): boolean {
  if (!a || !b || !c) return false;
  return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) < -1e-9;
}

/** Points of a round solid's outline are taken so many times round. */
const ROUND = 20;

/** Points all over a round solid, whose hull is its outline. */
function pointsOf(form: Exclude<Solid['form'], { readonly box: unknown }>): Place[] {
  const round = (at: (c: number, s: number) => Place[]): Place[] =>
    Array.from({ length: ROUND }, (_, i) => {
      const a = (2 * Math.PI * i) / ROUND;
      return at(Math.cos(a), Math.sin(a));
    }).flat();
  if ('ball' in form) {
    const [x, y, z] = form.ball;
    return round((c, s) => [
      [x * c, y * s, 0],
      [0, y * c, z * s],
      [x * c, 0, z * s],
      [0.7 * x * c, y * s, 0.7 * z * c],
      [0.7 * x * c, y * s, -0.7 * z * c],
    ]);
  }
  if ('cylinder' in form) {
    const [radius, height, top = radius] = form.cylinder;
    return round((c, s) => [
      [radius * c, -height / 2, radius * s],
      [top * c, height / 2, top * s],
    ]);
  }
  const [radius] = form.ring;
  return round((c, s) => [[radius * c, radius * s, 0]]);
}

type Solid = ReturnType<(typeof PROPS)['box']['parts']>['solids'][number];

function turnedPoint([x, y, z]: Place, [ax, ay, az]: Place): [number, number, number] {
  const [cx, sx, cy, sy, cz, sz] = [ax, ay, az].flatMap((a) => [Math.cos(a), Math.sin(a)]) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const [y1, z1] = [y * cx - z * sx, y * sx + z * cx];
  const [x2, z2] = [x * cy + z1 * sy, -x * sy + z1 * cy];
  return [x2 * cz - y1 * sz, x2 * sz + y1 * cz, z2];
}

function project([x, y, z]: Place): { at: Point; depth: number } {
  const across = x * Math.cos(VIEW.turn) - z * Math.sin(VIEW.turn);
  const towards = x * Math.sin(VIEW.turn) + z * Math.cos(VIEW.turn);
  return {
    at: [across, -y * Math.cos(VIEW.tilt) + towards * Math.sin(VIEW.tilt)],
    depth: towards * Math.cos(VIEW.tilt) + y * Math.sin(VIEW.tilt),
  };
}

/** The convex hull of points (Andrew's monotone chain). */
function hull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: readonly Point[]): Point[] => {
    const out: Point[] = [];
    for (const p of list) {
      for (let n = out.length; n > 1; n--) {
        const [a, b] = [out[n - 2], out[n - 1]] as [Point, Point];
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
        out.pop();
      }
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}
