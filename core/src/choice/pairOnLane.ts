import { framesPerSecond, parseRate } from '../math/rate';
import type { ChoiceLimits } from '../scene/choice';
import type { Scene } from '../scene/scene';
import type { ClipSource, Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import type { Bounds } from './momentMap';
import { isGivenJoin, neighboursOf } from './neighbours';

/** Seconds of either clip that stay at least. */
const KEPT_SECONDS = 1;

/** Frames by which an end may move at most: the map of moments grows with their square. */
const MOST_FRAMES = 1200;

/** Two neighbours by themselves, and what holds them in their lane. */
export interface PairOnLane {
  readonly scene: Scene;
  readonly before: Placed;
  readonly item: Placed;
  /** Frames that the next segment shares with the incoming one. */
  readonly tail: number;
}

/** A segment and the one before it; null where it has none that it joins, or goes on with its loop. */
export function pairOf(scene: Scene, id: string, library: ClipSource): PairOnLane | null {
  const pair = neighboursOf(scene, id, library);
  if (!pair || isGivenJoin(pair)) return null;
  const { lane, before, item, tail } = pair;
  const character = scene.characters[lane.character]!;
  return {
    scene: {
      ...scene,
      characters: { [character.id]: { ...character, leadIn: 0 } },
      characterOrder: [character.id],
      lanes: { [lane.id]: { ...lane, muted: false, locked: false, segments: [before.segment.id, id] } },
      laneOrder: [lane.id],
      segments: {
        [before.segment.id]: { ...before.segment, start: 0 },
        [id]: { ...item.segment, start: item.start - before.start },
      },
      groups: {},
    },
    before,
    item,
    tail,
  };
}

/** How many frames the outgoing segment may fill, and how many the incoming one may lose at its start. */
export interface JoinBounds {
  readonly filled: Bounds;
  readonly lost: Bounds;
}

/** Finds the bounds of a join: how many frames the outgoing segment may fill, and how many the incoming one may lose at its start. */
export function boundsOf(
  { scene, before, item, tail }: PairOnLane,
  library: ClipSource,
  limits: ChoiceLimits,
): JoinBounds {
  const fps = framesPerSecond(parseRate(scene.rate));
  const within = Math.min(Math.round(limits.within * fps), MOST_FRAMES);
  const kept = Math.round(KEPT_SECONDS * fps);
  const filled = before.timing.frames;
  const own = item.timing.frames;
  const fixedEnd = limits.keepEnd || !movable(before, 'end');
  const fixedStart = limits.keepStart || !movable(item, 'start');
  return {
    filled: fixedEnd
      ? { least: filled, most: filled }
      : {
          least: Math.max(filled - within, Math.min(filled, Math.max(kept, before.overlap + 1))),
          most: filled + Math.min(within, spareFrames(before, 'end', library)),
        },
    lost: fixedStart
      ? { least: 0, most: 0 }
      : {
          least: 0 - Math.min(within, spareFrames(item, 'start', library)),
          most: Math.min(within, own - Math.min(own, Math.max(kept, tail + 1))),
        },
  };
}

/** Whether an edge can be trimmed without anything else of the segment changing. */
const movable = ({ segment }: Placed, edge: 'start' | 'end'): boolean =>
  segment.speedCurve === null &&
  segment.hold[edge] === 0 &&
  segment.path.length === 0 &&
  segment.marks.length === 0;

function spareFrames({ segment, timing }: Placed, edge: 'start' | 'end', library: ClipSource): number {
  if (segment.loop) return Infinity;
  const { frames } = requireClip(segment, library);
  const samples = (edge === 'end') !== segment.reverse ? frames - segment.out : segment.in;
  return Math.max(0, Math.floor(samples / timing.samplesPerFrame + 1e-9));
}
