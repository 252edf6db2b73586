import type { Join } from '../edit/edits/join';
import { joinOf } from '../scene/seam';
import type { Bounds } from './momentMap';
import type { JoinBounds, PairOnLane } from './pairOnLane';

/** Two moments: frames from the starts of the outgoing and the incoming segment. */
export interface Moments {
  readonly out: number;
  readonly in: number;
}

/** The moments of both sides that can meet in the middle of the overlap that a join has. */
export interface Reach {
  readonly out: Bounds;
  readonly in: Bounds;
}

/** Frames of an overlap before the pair that meets, and from it on: the middle of an odd one lies between two frames. */
const halvesOf = ({ item: { overlap } }: PairOnLane): { half: number; rest: number } => {
  const half = Math.floor(overlap / 2);
  return { half, rest: overlap - half };
};

/** The moments that meet as a join is. */
export function meetingOf(pair: PairOnLane): Moments {
  const { half, rest } = halvesOf(pair);
  return { out: pair.before.timing.frames - rest, in: half };
}

/** Which moments can meet within the bounds of a join, with the overlap that it has. */
export function reachOf(pair: PairOnLane, { filled, lost }: JoinBounds): Reach {
  const { half, rest } = halvesOf(pair);
  const { before, item, tail } = pair;
  const ends = Math.max(filled.least, item.overlap + before.overlap + 1);
  const starts = item.overlap + tail + 1;
  return {
    out: { least: ends - rest, most: filled.most - rest },
    in: { least: lost.least + half, most: Math.min(lost.most, item.timing.frames - starts) + half },
  };
}

/** Makes two moments meet in the middle of the overlap that a join has; nothing else of it changes. */
export function joinMeeting(pair: PairOnLane, { out, in: into }: Moments, values: Join['values'] = {}): Join {
  const { half, rest } = halvesOf(pair);
  const { segment, timing, overlap } = pair.item;
  return {
    type: 'join',
    segment: segment.id,
    before: out + rest,
    own: timing.frames - (into - half),
    overlap,
    values,
    join: joinOf(segment.seam, overlap),
  };
}
