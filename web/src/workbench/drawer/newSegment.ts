import type { Segment } from '@warper/core';
import { PLAIN_SEAM } from '@warper/core';
import type { StoredClip } from '../../storage/db';
import { freshId } from '../../store/edits';

/** A segment that plays a whole clip once; one whose last sample doubles its first is ready to be repeated. */
export function newSegment(clip: StoredClip): Segment {
  const { loop, frames } = clip.facts;
  const travels = loop.verdict === 'doubled' && frames > 1 && clip.facts.travelMetres > 0.2;
  return {
    id: freshId('g'),
    name: clip.name,
    clip: clip.id,
    start: 0,
    in: 0,
    out: frames,
    repeat: 1,
    loop: travels,
    speed: 1,
    length: null,
    travel: 'recorded',
    seam: { ...PLAIN_SEAM, fit: 'planted foot' },
  };
}
