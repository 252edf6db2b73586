import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, shortestTurn } from '../math/floorMove';
import { smoothGaussian } from '../math/smoothing';

/** Root places of whole frames, packed frames x 3: x, z, heading. */
export type FloorRoute = Float64Array;

/** A spot that a root is to hit, so many frames after the start: metres and radians. */
export interface Spot extends FloorMove {
  readonly frame: number;
}

/** Width in seconds of the Gaussian that takes the sway out of a way before its direction is read. */
const SWAY_SECONDS = 0.3;
/** Speed (metres a second) below which a body is not going anywhere, and faces where it is told to. */
const GOING = 0.25;

const at = (way: FloorRoute, f: number): FloorMove => ({
  x: way[f * 3]!,
  z: way[f * 3 + 1]!,
  turn: way[f * 3 + 2]!,
});

/** The floor moves, frame by frame, that take one way onto another: to = W from. */
export function movesBetween(from: FloorRoute, to: FloorRoute): Float64Array {
  const moves = new Float64Array(from.length);
  for (let f = 0; f * 3 < from.length; f++) {
    const m = composeMoves(at(to, f), invertMove(at(from, f)));
    moves.set([m.x, m.z, m.turn], f * 3);
  }
  return moves;
}

/**
 * A way bent so that it passes through spots: between two of them it goes over from the way as it leads on from the first
 * to the way as it leads up to the second, with a quintic whose ends have neither slope nor bend; the body turns with the
 * direction in which it goes. Before the first spot the way starts where it did, after the last it goes on from there.
 *
 * @param way frames x 3, from the segment's first frame on
 * @param spots in order of frames; those beyond the way are left out
 */
export function wayThroughSpots(
  way: FloorRoute,
  spots: readonly Spot[],
  framesPerSecond: number,
): FloorRoute {
  const frames = way.length / 3;
  const out = way.slice();
  let before: FloorMove = { x: 0, z: 0, turn: 0 };
  let from = 0;
  for (const spot of spots) {
    if (spot.frame >= frames || spot.frame <= from) continue;
    let turn = spot.turn - at(way, spot.frame).turn;
    // The nearer way round from where the way led before.
    turn = before.turn + shortestTurn(turn - before.turn);
    const wanted = { x: spot.x, z: spot.z, turn: at(way, spot.frame).turn + turn };
    const after = composeMoves(wanted, invertMove(at(way, spot.frame)));
    bend(way, from, spot.frame, before, after, out);
    before = after;
    from = spot.frame;
  }
  for (let f = from; f < frames; f++) {
    const m = composeMoves(before, at(way, f));
    out.set([m.x, m.z, m.turn], f * 3);
  }
  const fixed = [0, ...spots.map((s) => s.frame).filter((f) => f > 0 && f < frames)];
  return faceAlong(way, out, fixed, framesPerSecond);
}

const quintic = (u: number): number => u * u * u * (10 - 15 * u + 6 * u * u);

/** Writes the way from one frame to another, going over from one move to the next. */
function bend(way: FloorRoute, from: number, to: number, a: FloorMove, b: FloorMove, out: FloorRoute): void {
  for (let f = from; f <= to; f++) {
    const h = quintic((f - from) / (to - from));
    const p = composeMoves(a, at(way, f));
    const q = composeMoves(b, at(way, f));
    out.set([p.x + h * (q.x - p.x), p.z + h * (q.z - p.z), p.turn + h * (q.turn - p.turn)], f * 3);
  }
}

/**
 * Turns the body of a bent way with its direction: the heading keeps the angle that it had to the direction of travel,
 * where the body is going anywhere.
 *
 * @param fixed frames at which the heading is given and stays what it is, in order
 */
function faceAlong(
  way: FloorRoute,
  bent: FloorRoute,
  fixed: readonly number[],
  framesPerSecond: number,
): FloorRoute {
  const frames = way.length / 3;
  const directionsBefore = directions(way, framesPerSecond);
  const current = directions(bent, framesPerSecond);
  const extra = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    const turned = bent[f * 3 + 2]! - way[f * 3 + 2]!;
    const going = Math.min(1, Math.min(directionsBefore.speed[f]!, current.speed[f]!) / GOING);
    extra[f] = going * going * shortestTurn(current.angle[f]! - directionsBefore.angle[f]! - turned);
  }
  const out = bent.slice();
  let k = 0;
  for (let f = 0; f < frames; f++) {
    while (k + 1 < fixed.length && fixed[k + 1]! <= f) k++;
    const [a, b] = [fixed[k]!, fixed[k + 1] ?? fixed[k]!];
    const t = b > a ? (f - a) / (b - a) : 0;
    out[f * 3 + 2]! += extra[f]! - (extra[a]! + t * (extra[b]! - extra[a]!));
  }
  return out;
}

/** Direction (radians) and speed (metres a second) of a way without its sway, at each frame. */
function directions(way: FloorRoute, framesPerSecond: number): { angle: Float64Array; speed: Float64Array } {
  const { x, z } = withoutSway(way, framesPerSecond);
  const frames = x.length;
  const angle = new Float64Array(frames);
  const speed = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    const a = Math.max(0, f - 1);
    const b = Math.min(frames - 1, f + 1);
    const [dx, dz] = [x[b]! - x[a]!, z[b]! - z[a]!];
    angle[f] = Math.atan2(dx, dz);
    speed[f] = b > a ? (Math.hypot(dx, dz) * framesPerSecond) / (b - a) : 0;
  }
  return { angle, speed };
}

function withoutSway(way: FloorRoute, framesPerSecond: number): { x: Float64Array; z: Float64Array } {
  const column = (k: number): Float64Array =>
    Float64Array.from({ length: way.length / 3 }, (_, f) => way[f * 3 + k]!);
  const sigma = SWAY_SECONDS * framesPerSecond;
  return { x: smoothGaussian(column(0), sigma), z: smoothGaussian(column(1), sigma) };
}

/** Points in which a drawn path is cut up between two of its corners. */
const PIECES = 32;

/**
 * A way along a drawn path: from where the way starts, in the direction in which it starts, through the points. How far
 * along it the body is at each frame follows from how far its own way had gone; sway and facing stay relative to the
 * direction. A path that is too short is carried on straight.
 *
 * @param points at least one, metres
 */
export function wayAlongPath(
  way: FloorRoute,
  points: readonly (readonly [number, number])[],
  framesPerSecond: number,
): FloorRoute {
  const frames = way.length / 3;
  const calm = withoutSway(way, framesPerSecond);
  const directionsBefore = directions(way, framesPerSecond);
  const start = steadyAngle(directionsBefore, way);
  const curve = pathCurve([calm.x[0]!, calm.z[0]!], start, points);
  const out = way.slice();
  let gone = 0;
  let angle = start;
  for (let f = 0; f < frames; f++) {
    if (f > 0) gone += Math.hypot(calm.x[f]! - calm.x[f - 1]!, calm.z[f]! - calm.z[f - 1]!);
    const on = pointAt(curve, gone);
    angle += shortestTurn((directionsBefore.speed[f]! > GOING ? directionsBefore.angle[f]! : angle) - angle);
    const turn = shortestTurn(on.angle - angle);
    const s = Math.sin(turn);
    const c = Math.cos(turn);
    const dx = way[f * 3]! - calm.x[f]!;
    const dz = way[f * 3 + 1]! - calm.z[f]!;
    const last = f > 0 ? out[f * 3 - 1]! - way[f * 3 - 1]! : 0;
    out[f * 3] = on.x + dx * c + dz * s;
    out[f * 3 + 1] = on.z - dx * s + dz * c;
    out[f * 3 + 2] = way[f * 3 + 2]! + last + shortestTurn(turn - last);
  }
  return startingWith(out, way, framesPerSecond);
}

/** Seconds in which a way along a path leaves the place and the facing in which it sets out. */
const SET_OUT_SECONDS = 1;

/** A way that begins exactly where and as another one does: the difference at the start decays. */
function startingWith(way: FloorRoute, other: FloorRoute, framesPerSecond: number): FloorRoute {
  const apart = [0, 1, 2].map((k) => other[k]! - way[k]!);
  apart[2] = shortestTurn(apart[2]!);
  for (let f = 0; f * 3 < way.length; f++) {
    const left = 1 - quintic(Math.min(1, f / (SET_OUT_SECONDS * framesPerSecond)));
    for (let k = 0; k < 3; k++) way[f * 3 + k]! += left * apart[k]!;
  }
  return way;
}

/** The direction in which a way sets out: where it first goes anywhere, else where the body faces. */
function steadyAngle(
  directionsBefore: { angle: Float64Array; speed: Float64Array },
  way: FloorRoute,
): number {
  const f = directionsBefore.speed.findIndex((v) => v > GOING);
  return f >= 0 ? directionsBefore.angle[f]! : way[2]!;
}

/** A path as many short straight pieces: places, and how far along each lies. */
interface PathCurve {
  readonly x: number[];
  readonly z: number[];
  readonly along: number[];
}

/** A centripetal Catmull-Rom curve (Catmull and Rom 1974; Yuksel, Schaefer, Keyser 2011) that sets out in a direction. */
function pathCurve(
  start: readonly [number, number],
  direction: number,
  points: readonly (readonly [number, number])[],
): PathCurve {
  const list = [start, ...points];
  const first = points[0]!;
  const step = Math.max(1e-3, Math.hypot(first[0] - start[0], first[1] - start[1]));
  const before: readonly [number, number] = [
    start[0] - step * Math.sin(direction),
    start[1] - step * Math.cos(direction),
  ];
  const end = list.at(-1)!;
  const prior = list.at(-2)!;
  const all = [before, ...list, [2 * end[0] - prior[0], 2 * end[1] - prior[1]] as const];
  const curve: PathCurve = { x: [start[0]], z: [start[1]], along: [0] };
  for (let i = 1; i + 2 < all.length; i++)
    for (let n = 1; n <= PIECES; n++) {
      const [x, z] = catmullRom(all[i - 1]!, all[i]!, all[i + 1]!, all[i + 2]!, n / PIECES);
      const length = Math.hypot(x - curve.x.at(-1)!, z - curve.z.at(-1)!);
      curve.x.push(x);
      curve.z.push(z);
      curve.along.push(curve.along.at(-1)! + length);
    }
  return curve;
}

type Point = readonly [number, number];

/** The point at u in [0, 1] between b and c (Barry and Goldman's pyramid, 1988). */
function catmullRom(a: Point, b: Point, c: Point, d: Point, u: number): Point {
  const gap = (p: Point, q: Point): number => Math.max(1e-6, Math.hypot(q[0] - p[0], q[1] - p[1]) ** 0.5);
  const t0 = 0;
  const t1 = t0 + gap(a, b);
  const t2 = t1 + gap(b, c);
  const t3 = t2 + gap(c, d);
  const t = t1 + u * (t2 - t1);
  const mix = (p: Point, q: Point, from: number, to: number): Point => {
    const w = (t - from) / (to - from);
    return [p[0] + w * (q[0] - p[0]), p[1] + w * (q[1] - p[1])];
  };
  const ab = mix(a, b, t0, t1);
  const bc = mix(b, c, t1, t2);
  const cd = mix(c, d, t2, t3);
  return mix(mix(ab, bc, t0, t2), mix(bc, cd, t1, t3), t1, t2);
}

/** Place and direction so many metres along a path; beyond its end straight on. */
function pointAt(curve: PathCurve, along: number): { x: number; z: number; angle: number } {
  const last = curve.along.length - 1;
  let i = 0;
  let high = last - 1;
  while (i < high) {
    const middle = (i + high + 1) >> 1;
    if (curve.along[middle]! <= along) i = middle;
    else high = middle - 1;
  }
  const [dx, dz] = [curve.x[i + 1]! - curve.x[i]!, curve.z[i + 1]! - curve.z[i]!];
  const length = Math.hypot(dx, dz) || 1;
  const t = (along - curve.along[i]!) / length;
  return { x: curve.x[i]! + t * dx, z: curve.z[i]! + t * dz, angle: Math.atan2(dx, dz) };
}
