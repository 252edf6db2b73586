import type { Scene } from '@warper/core';
import type { BakeSpan } from './settings';

/**
 * The regions of a scene, in order; without any, what lies from each marker to the next.
 *
 * @param end scene frame at which the last of these ends
 */
export function regionSpans({ markers }: Pick<Scene, 'markers'>, end: number): BakeSpan[] {
  const regions = markers.flatMap((m) =>
    m.end === null ? [] : [{ name: m.name, from: m.frame, to: m.end }],
  );
  if (regions.length > 0) return regions.sort((a, b) => a.from - b.from);
  const points = [...markers].sort((a, b) => a.frame - b.frame);
  return points.flatMap((m, i) => {
    const to = points[i + 1]?.frame ?? end;
    return to > m.frame ? [{ name: m.name, from: m.frame, to }] : [];
  });
}

/** Reads a part of a scene: "FROM-TO", and its name behind a space; null where it is none. */
export function parseSpan(text: string): BakeSpan | null {
  const [, from, to, name = ''] = /^(-?\d{1,8})-(-?\d{1,8})(?: (.{1,100}))?$/.exec(text) ?? [];
  if (from === undefined || to === undefined || !(Number(from) < Number(to))) return null;
  return { name, from: Number(from), to: Number(to) };
}
