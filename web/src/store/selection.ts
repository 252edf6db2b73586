import type { Scene } from '@warper/core';
import { segmentsOfGroup } from '@warper/core';
import type { Selection } from './sessionState';

/** The segments that are in hand: one, several, or those of a group. */
export function selectedSegments(selection: Selection, scene: Scene | null): readonly string[] {
  if (!scene) return [];
  const ids =
    selection.kind === 'segment'
      ? [selection.id, ...(selection.with ?? [])]
      : selection.kind === 'group'
        ? segmentsOfGroup(scene, selection.id)
        : [];
  return ids.filter((id) => scene.segments[id]);
}

/** Whether the same segments are in two lists, in the same order. */
export const isEqualSelection = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((id, i) => id === b[i]);

/** The selection of some segments; the scene where there is none. */
export function selectionOf(segments: readonly string[]): Selection {
  const [id, ...others] = segments;
  if (id === undefined) return { kind: 'scene' };
  return others.length > 0 ? { kind: 'segment', id, with: others } : { kind: 'segment', id };
}

/** A selection with a segment put in, or taken out where it was in. */
export function toggled(selection: Selection, segment: string, scene: Scene | null): Selection {
  const current = selectedSegments(selection, scene);
  return selectionOf(
    current.includes(segment) ? current.filter((s) => s !== segment) : [segment, ...current],
  );
}
