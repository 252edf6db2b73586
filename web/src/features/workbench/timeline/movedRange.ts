import type { FrameSpan } from '@warper/core';

/** The play range with one of its ends moved to a frame: at least a frame long; null where it is the whole scene. */
export function movedRange(
  range: FrameSpan | null,
  side: keyof FrameSpan,
  to: number,
  sceneEnd: number,
): FrameSpan | null {
  const { from, to: end } = range ?? { from: 0, to: Math.max(1, sceneEnd) };
  const frame = Math.round(to);
  const moved =
    side === 'from'
      ? { from: Math.min(Math.max(0, frame), end - 1), to: end }
      : { from, to: Math.max(from + 1, frame) };
  return moved.from === 0 && moved.to === sceneEnd ? null : moved;
}
