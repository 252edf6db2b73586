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

/** A prop as outlines of its solids, furthest first, fitted into a square of so many pixels. */
export function propDrawing(shape: Exclude<PropShape, 'own file'>, pixels: number): DrawnPart[] {
  const { size, parts } = PROPS[shape];
  const seen = parts(size)
    .solids.map(({ form, at, turned = [0, 0, 0], tone = 'plain' }) => {
      const [w, h, d] = boxOf(form);
      const corners = [-1, 1].flatMap((x) =>
        [-1, 1].flatMap((y) =>
          [-1, 1].map((z) => turnedPoint([(x * w) / 2, (y * h) / 2, (z * d) / 2], turned)),
        ),
      );
      const points = corners.map((c) => project([c[0] + at[0], c[1] + at[1], c[2] + at[2]]));
      return { tone, outline: hull(points.map((p) => p.at)), depth: project(at).depth };
    })
    .sort((a, b) => a.depth - b.depth);
  const all = seen.flatMap((s) => s.outline);
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = (pixels - 4) / Math.max(wide, high);
  const [dx, dy] = [(pixels - wide * scale) / 2, (pixels - high * scale) / 2];
  return seen.map(({ tone, outline }) => ({
    tone,
    path: `M${outline.map(([x, y]) => `${((x - left) * scale + dx).toFixed(1)},${((y - top) * scale + dy).toFixed(1)}`).join('L')}Z`,
  }));
}

type Solid = ReturnType<(typeof PROPS)['box']['parts']>['solids'][number];

function boxOf(form: Solid['form']): readonly [number, number, number] {
  if ('box' in form) return form.box;
  if ('ball' in form) return [2 * form.ball[0], 2 * form.ball[1], 2 * form.ball[2]];
  if ('cylinder' in form) return [2 * form.cylinder[0], form.cylinder[1], 2 * form.cylinder[0]];
  const [radius, thickness] = form.ring;
  return [2 * radius, 2 * radius, 2 * thickness];
}

function turnedPoint(
  [x, y, z]: readonly [number, number, number],
  [ax, ay, az]: readonly [number, number, number],
): [number, number, number] {
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

function project([x, y, z]: readonly [number, number, number]): { at: Point; depth: number } {
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
