import type { Clip, Segment, SegmentSettings } from '@warper/core';
import { InputError, PLAIN_SEGMENT, SETTINGS } from '@warper/core';
import type { CuePart } from './partSheet';
import type { Cue } from './sheet';

/**
 * The segment of a part of a clip, at frame 0 and with a plain seam. All settings that the sheet gives are taken over; one that
 * loops unless it says otherwise is one that repeats.
 *
 * @throws InputError `cues` where in and out are no part of the clip
 */
export function partSegment(cue: CuePart | Cue, clip: Clip, id: string, path: string): Segment {
  const from = cue.in ?? 0;
  const to = cue.out ?? clip.frames;
  if (!(from < to) || to > clip.frames) {
    throw new InputError(
      'cues',
      `In ${from} and out ${to} are no part of ${clip.name}, which has ${clip.frames} samples.`,
      {
        place: { path: `${path}.${to > clip.frames ? 'out' : 'in'}` },
        hint: `Choose 0 <= in < out <= ${clip.frames}.`,
      },
    );
  }
  return {
    ...PLAIN_SEGMENT,
    loop: (cue.repeat ?? 1) !== 1,
    ...settingsOf(cue),
    ...('travel' in cue && cue.travel ? { travel: cue.travel === 'in-place' ? 'in place' : cue.travel } : {}),
    hold: { ...PLAIN_SEGMENT.hold, ...cue.hold },
    look: PLAIN_SEGMENT.look,
    seam: PLAIN_SEGMENT.seam,
    id,
    name: clip.name,
    clip: clip.id,
    in: from,
    out: to,
  };
}

/** The settings that a cue gives. */
function settingsOf(cue: CuePart): Partial<SegmentSettings> {
  const names = Object.keys(SETTINGS).filter((name) => cue[name as keyof CuePart] !== undefined);
  return Object.fromEntries(names.map((name) => [name, cue[name as keyof CuePart]]));
}
