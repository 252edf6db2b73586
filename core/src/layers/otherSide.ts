import type { LayerLane } from '../scene/lane';
import type { Segment } from '../scene/segment';
import type { Skeleton } from '../skeleton/skeleton';
import { carriedLayer } from './carriedLayer';

/** What a layer keeps for itself while it is linked with its other side. */
const OWN_OF_LINKED = ['kind', 'id', 'character', 'name', 'segments', 'pair', 'locked', 'hidden'] as const;

type Shared = Omit<LayerLane, (typeof OWN_OF_LINKED)[number]>;

/** What a linked layer shares with its other side, beside their segments. */
export const sharedOf = (layer: LayerLane): Shared =>
  Object.fromEntries(
    Object.entries(layer).filter(([key]) => !(OWN_OF_LINKED as readonly string[]).includes(key)),
  ) as unknown as Shared;

/**
 * The id of a segment's counterpart on the other side: the one of the same stem that is there already, else the first that nothing has.
 *
 * @param isThere whether the other side has a segment
 * @param isTaken whether anything has it
 */
export function counterpart(
  segment: string,
  isThere: (id: string) => boolean,
  isTaken: (id: string) => boolean,
): string {
  const stem = segment.replace(/~+$/, '') || segment;
  let free: string | null = null;
  for (let id = stem; ; id += '~') {
    if (id === segment) continue;
    if (isThere(id)) return id;
    if (isTaken(id)) continue;
    free ??= id;
    // Behind a free one nothing is looked for.
    if (id.length > segment.length) return free;
  }
}

/** A layer and its segments with left for right, as what is linked with it has them. */
export function otherSideOf(
  layer: LayerLane,
  segments: readonly Segment[],
  skeleton: Skeleton,
  idOf: (segment: string) => string,
): { readonly values: Shared; readonly segments: readonly Segment[] } {
  return {
    values: { ...sharedOf(layer), ...carriedLayer(layer, skeleton, { skeleton, mirrored: true }) },
    segments: segments.map((s) => ({
      ...s,
      id: idOf(s.id),
      name: swappedName(s.name),
      mirror: !s.mirror,
    })),
  };
}

/** A name with left for right. */
export const swappedName = (name: string): string =>
  name.replace(/left|right/gi, (word) => {
    const other = word.toLowerCase() === 'left' ? 'right' : 'left';
    return word.startsWith(word.charAt(0).toUpperCase())
      ? other.charAt(0).toUpperCase() + other.slice(1)
      : other;
  });

/** What the other side of a layer is called; where its name says neither side, it is told apart by a word. */
export function otherSideName(name: string): string {
  const swapped = swappedName(name);
  return swapped === name ? `${name} mirrored` : swapped;
}
