import type { Clip, Segment } from '@warper/core';
import { InputError, PLAIN_SEGMENT } from '@warper/core';
import type { CuePart } from './sheet';

/**
 * The segment of a part of a clip, at frame 0 and with a plain seam.
 *
 * @throws InputError `cues` where in and out are no part of the clip
 */
export function partSegment(cue: CuePart, clip: Clip, id: string, path: string): Segment {
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
  const repeat = cue.repeat ?? 1;
  return {
    ...PLAIN_SEGMENT,
    id,
    name: clip.name,
    clip: clip.id,
    in: from,
    out: to,
    repeat,
    loop: cue.loop ?? repeat !== 1,
    speed: cue.speed ?? 1,
    length: cue.length ?? null,
    reverse: cue.reverse ?? false,
    mirror: cue.mirror ?? false,
    hold: { start: cue.hold?.start ?? 0, end: cue.hold?.end ?? 0 },
    speedCurve: cue.speedCurve ?? null,
  };
}
