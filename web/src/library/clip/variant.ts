import type { Clip, Scene, Travel } from '@warper/core';
import { PLAIN_SEGMENT, emptyScene } from '@warper/core';

/** How a clip is looked at, and what a new clip is made from. */
export interface Variant {
  /** Samples [in, out). */
  readonly in: number;
  readonly out: number;
  /** Played over and over, each cycle on the one before. */
  readonly loop: boolean;
  readonly mirror: boolean;
  readonly reverse: boolean;
  readonly straighten: boolean;
  readonly travel: Exclude<Travel, 'path'>;
}

/** A clip as it was recorded. */
export const asRecorded = (clip: Clip): Variant => ({
  in: 0,
  out: clip.frames,
  loop: false,
  mirror: false,
  reverse: false,
  straighten: false,
  travel: 'recorded',
});

/** Cycles of a loop on trial. */
export const TRIAL_CYCLES = 6;

/** The clip by itself in a scene of its own rate, so that what is seen here is what a scene would show. */
export function variantScene(clip: Clip, body: string, variant: Variant, cycles = TRIAL_CYCLES): Scene {
  const { in: from, out, loop, mirror, reverse, straighten, travel } = variant;
  return {
    ...emptyScene(clip.name, clip.rate),
    characters: { c: { id: 'c', name: clip.name, body, hue: 0, start: null, footLock: false } },
    characterOrder: ['c'],
    lanes: { l: { id: 'l', kind: 'body', character: 'c', segments: ['s'] } },
    laneOrder: ['l'],
    segments: {
      s: {
        ...PLAIN_SEGMENT,
        id: 's',
        name: clip.name,
        clip: clip.id,
        in: from,
        out,
        loop,
        repeat: loop ? cycles : 1,
        mirror,
        reverse,
        straighten,
        travel,
      },
    },
  };
}

/** What a variant is called: the clip's name and what was done with it. */
export function variantName(name: string, clip: Clip, v: Variant): string {
  const parts = [
    v.mirror && 'mirrored',
    v.reverse && 'backwards',
    v.straighten && 'straight',
    v.travel !== 'recorded' && v.travel,
    (v.in > 0 || v.out < clip.frames) && `${v.in} to ${v.out}`,
  ].filter(Boolean);
  return parts.length > 0 ? `${name}, ${parts.join(', ')}` : name;
}
