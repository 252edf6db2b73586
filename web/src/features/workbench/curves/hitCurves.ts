import type { ChannelKey } from '@warper/core';
import type { ChosenOnTracks, Track } from './curveSource';
import type { HandlePoint } from './drawing/drawCurves';
import { firstAt } from './drawing/drawCurves';
import type { Scale } from './scale';
import { yOf } from './scale';

/** Pixels from a key, a handle or a curve within which it is taken. */
const NEAR = 7;
/** Pixels that a handle stands from its key. */
const HANDLE = 42;

/** What of the curves is at a place. */
export type CurveHit =
  | { readonly kind: 'handle'; readonly handle: HandlePoint }
  | { readonly kind: 'key'; readonly track: string; readonly frame: number }
  | { readonly kind: 'curve'; readonly track: string }
  | null;

/** @param x pixels from frame 0 @param y pixels from the top */
export function hitCurves(
  tracks: readonly Track[],
  handles: readonly HandlePoint[],
  scale: Scale,
  ppf: number,
  x: number,
  y: number,
): CurveHit {
  const handle = handles.find((h) => Math.hypot(h.x - x, h.y - y) <= NEAR);
  if (handle) return { kind: 'handle', handle };
  let best: { hit: CurveHit; away: number } = { hit: null, away: NEAR };
  for (const { id, curve } of tracks) {
    for (let i = firstAt(curve.frames, (x - NEAR) / ppf); i < curve.frames.length; i++) {
      const frame = curve.frames[i] ?? 0;
      if (frame * ppf > x + NEAR) break;
      const away = Math.hypot(frame * ppf - x, yOf(scale, curve.values[i] ?? 0) - y);
      if (away <= best.away) best = { hit: { kind: 'key', track: id, frame }, away };
    }
  }
  if (best.hit) return best.hit;
  for (const { id, curve } of tracks) {
    const away = Math.abs(yOf(scale, curve.valueAt(x / ppf)) - y);
    if (away < best.away) best = { hit: { kind: 'curve', track: id }, away };
  }
  return best.hit;
}

/** The keys within a box, by their tracks. */
export function keysInBox(
  tracks: readonly Track[],
  scale: Scale,
  ppf: number,
  a: readonly [number, number],
  b: readonly [number, number],
): Map<string, Set<number>> {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  const chosen = new Map<string, Set<number>>();
  for (const { id, curve } of tracks) {
    const frames = new Set<number>();
    for (let i = firstAt(curve.frames, left / ppf); i < curve.frames.length; i++) {
      const frame = curve.frames[i] ?? 0;
      if (frame * ppf > right) break;
      const y = yOf(scale, curve.values[i] ?? 0);
      if (y >= top && y <= bottom) frames.add(frame);
    }
    if (frames.size > 0) chosen.set(id, frames);
  }
  return chosen;
}

/** The handles of free keys in hand, and of smooth ones, which become free when theirs are taken. */
export function handlesOf(
  tracks: readonly Track[],
  chosen: ChosenOnTracks,
  keysAt: (track: string, frames: ReadonlySet<number>) => readonly ChannelKey[],
  scale: Scale,
  ppf: number,
): HandlePoint[] {
  const count = [...chosen.values()].reduce((sum, frames) => sum + frames.size, 0);
  if (count === 0 || count > 24) return [];
  return tracks.flatMap(({ id }) => {
    const frames = chosen.get(id);
    if (!frames) return [];
    return keysAt(id, frames).flatMap((key) => pairOf(id, key, scale, ppf));
  });
}

function pairOf(track: string, key: ChannelKey, scale: Scale, ppf: number): HandlePoint[] {
  if (key.curve === 'hold' || key.curve === 'linear') return [];
  const [fromX, fromY] = [key.frame * ppf, yOf(scale, key.value)];
  const perValue = scale.height / (scale.top - scale.bottom);
  return (['into', 'out'] as const).map((side) => {
    const rise = (key[side] * perValue) / ppf;
    const length = HANDLE / Math.hypot(1, rise);
    const way = side === 'out' ? length : -length;
    return { track, frame: key.frame, side, x: fromX + way, y: fromY - rise * way, fromX, fromY };
  });
}
