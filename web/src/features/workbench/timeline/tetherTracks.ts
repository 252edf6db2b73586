import type { Scene, Tether } from '@warper/core';

/** A tether, and on which of the ribbons under its lane it lies, 0 the uppermost. */
export interface TetherTrack {
  readonly tether: Tether;
  readonly track: number;
}

/** The tethers of a character or prop by start; those that overlap lie one below the other. */
export function tetherTracks(tethers: Scene['tethers'], character: string): readonly TetherTrack[] {
  const own = Object.values(tethers)
    .filter((t) => t.child === character)
    .sort((a, b) => a.start - b.start || a.id.localeCompare(b.id));
  const ends: number[] = [];
  return own.map((tether) => {
    const free = ends.findIndex((end) => end <= tether.start);
    const track = free < 0 ? ends.length : free;
    ends[track] = tether.end ?? Infinity;
    return { tether, track };
  });
}

/** How many ribbons lie under the lane of a character. */
export const trackCount = (tethers: Scene['tethers'], character: string): number =>
  tetherTracks(tethers, character).reduce((most, { track }) => Math.max(most, track + 1), 0);
