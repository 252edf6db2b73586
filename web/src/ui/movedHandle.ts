import type { Handle } from '@warper/core';

/** Least distance of two points of a curve, and of one from either end. */
const APART = 0.01;

/** Where a point of a rising curve comes to be that is moved to a place: between its neighbours, neither beyond nor above or below them. */
export function movedHandle(points: readonly Handle[], index: number, [x, y]: Handle): Handle {
  const before = points[index - 1] ?? [0, 0];
  const after = points[index + 1] ?? [1, 1];
  const clamp = (value: number, least: number, most: number): number =>
    Math.min(Math.max(value, least), most);
  const round = (value: number): number => Math.round(value * 1000) / 1000;
  return [round(clamp(x, before[0] + APART, after[0] - APART)), round(clamp(y, before[1], after[1]))];
}
