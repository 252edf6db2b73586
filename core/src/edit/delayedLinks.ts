import type { Scene } from '../scene/scene';
import type { ClipSource } from '../timeline/lane';
import { momentName } from './momentName';
import { frameOfMoment } from './momentFrame';

/** Something that begins later because it waits for something, and what else might. */
export interface DelayedLinks {
  /** What is delayed. */
  readonly name: string;
  /** The frame at which it began before, and by how many frames it begins later now. */
  readonly from: number;
  readonly frames: number;
  /** Characters and props that have something at or behind that frame, and did not move. */
  readonly characters: readonly string[];
  /** Whether there are markers there that did not move. */
  readonly markers: boolean;
}

/** What an edit has delayed by links, the first of it; null where nothing was, or nothing else could wait. */
export function delayedLinks(before: Scene, after: Scene, library: ClipSource): DelayedLinks | null {
  let first: Pick<DelayedLinks, 'name' | 'from' | 'frames'> | null = null;
  for (const { id, follower, leader } of Object.values(after.links)) {
    const previous = before.links[id];
    if (!previous) continue;
    const by = (from: typeof leader, to: typeof leader): number =>
      (frameOfMoment(after, to, library) ?? NaN) - (frameOfMoment(before, from, library) ?? NaN);
    const frames = by(previous.follower, follower);
    const from = frameOfMoment(before, previous.follower, library);
    if (!(frames > 0) || by(previous.leader, leader) !== frames || from === null) continue;
    if (!first || from < first.from) first = { name: momentName(after, follower), from, frames };
  }
  if (!first) return null;
  const { from } = first;
  const characters = after.characterOrder.filter((id) => waits(before, after, id, from));
  const markers = after.markers.some(
    (m) => m.frame >= from && before.markers.some((b) => b.id === m.id && b.frame === m.frame),
  );
  return characters.length > 0 || markers ? { ...first, characters, markers } : null;
}

/** Whether somebody has segments from a frame on, none of whose have moved. */
function waits(before: Scene, after: Scene, character: string, from: number): boolean {
  const own = Object.values(after.lanes)
    .filter((l) => l.character === character)
    .flatMap((l) => l.segments);
  const starts = own.map((s) => [before.segments[s]?.start, after.segments[s]?.start] as const);
  return starts.every(([was, is]) => was === is) && starts.some(([, is]) => is !== undefined && is >= from);
}
