import type { Segment } from '@warper/core';
import { PLAIN_SEAM, PLAIN_SEGMENT } from '@warper/core';
import type { StoredClip } from '../../../data/db';
import { freshId } from '../../../data/freshId';

/** A segment that plays a whole clip once; one whose last sample doubles its first is ready to be repeated. */
export function newSegment(clip: StoredClip): Segment {
  const { loop, frames } = clip.facts;
  const travels = loop.verdict === 'doubled' && frames > 1 && clip.facts.travelMetres > 0.2;
  return {
    ...PLAIN_SEGMENT,
    id: freshId('g'),
    name: clip.name,
    clip: clip.id,
    out: frames,
    loop: travels,
    // Where it is moved away from the one before it, nothing is to jump.
    seam: { ...PLAIN_SEAM, fit: 'planted foot', gap: 'ease', auto: true },
  };
}
