import type { Clip, Dials, Scene, Travel } from '@warper/core';
import { clipScene } from '@warper/core';

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
  readonly dials: Dials;
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
  dials: {},
});

/** Cycles of a loop on trial. */
const TRIAL_CYCLES = 6;

/** The clip by itself, as a scene of its own rate. */
export const variantScene = (clip: Clip, body: string, variant: Variant, cycles = TRIAL_CYCLES): Scene =>
  clipScene(clip, body, { ...variant, repeat: variant.loop ? cycles : 1 });

/** What a variant is called: the clip's name and what was done with it. */
export function variantName(name: string, clip: Clip, v: Variant): string {
  const parts = [
    v.mirror && 'mirrored',
    v.reverse && 'backwards',
    v.straighten && 'straight',
    v.travel !== 'recorded' && v.travel,
    Object.keys(v.dials).length > 0 && 'posed',
    (v.in > 0 || v.out < clip.frames) && `${v.in} to ${v.out}`,
  ].filter(Boolean);
  return parts.length > 0 ? `${name}, ${parts.join(', ')}` : name;
}
