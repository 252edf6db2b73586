import type { Plan } from '@warper/core';
import { evaluate, makePoseBuffer, defined } from '@warper/core';

/** Where the root of the earliest of some segments stands at its first frame: what they are turned about. */
export function pivotOf(plan: Plan, segments: readonly string[]): { x: number; z: number } {
  const wanted = new Set(segments);
  const first = plan.characters
    .flatMap((c) => c.segments.filter((s) => wanted.has(s.id)).map((s) => ({ c, start: s.start })))
    .sort((a, b) => a.start - b.start)[0];
  if (!first) return { x: 0, z: 0 };
  const { root } = evaluate(first.c, first.start, makePoseBuffer(first.c.skeleton));
  return { x: defined(root[0]), z: defined(root[1]) };
}
