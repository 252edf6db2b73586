import { repeatsLoop } from '../edit/sceneEditor';
import type { BodyLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { ClipSource, Placed } from '../timeline/lane';
import { layOut } from '../timeline/lane';

/** A segment of a body lane and the one before it, laid out. */
export interface Neighbours {
  readonly lane: BodyLane;
  readonly before: Placed;
  readonly item: Placed;
  /** Frames that the next segment shares with the incoming one. */
  readonly tail: number;
}

/** A segment and the one before it; null on a layer, and for the first of a lane. */
export function neighboursOf(scene: Scene, id: string, library: ClipSource): Neighbours | null {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  if (!lane || lane.kind === 'layer') return null;
  const placed = layOut(scene, lane, library);
  const i = placed.findIndex((p) => p.segment.id === id);
  const [before, item] = [placed[i - 1], placed[i]];
  return before && item ? { lane, before, item, tail: placed[i + 1]?.overlap ?? 0 } : null;
}

/**
 * Whether there is nothing to be chosen between two neighbours: a gap lies there, or the second goes on with the loop of the first,
 * or with its motion from where that was cut.
 */
export const isGivenJoin = ({ before, item }: Pick<Neighbours, 'before' | 'item'>): boolean =>
  item.gap > 0 || repeatsLoop(before.segment, item.segment) || goesOn(before, item);

const goesOn = ({ segment: a }: Placed, { segment: b, overlap }: Placed): boolean =>
  overlap === 0 &&
  a.clip === b.clip &&
  a.mirror === b.mirror &&
  a.reverse === b.reverse &&
  !a.loop &&
  a.out === b.in;
