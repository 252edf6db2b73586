import { fixedLibrary } from '../compile/compile';
import type { Clip } from '../clip/clip';
import type { Library } from '../compile/compile';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import { PLAIN_CHARACTER } from '../scene/character';
import { PLAIN_LANE } from '../scene/lane';
import type { Join, Seam, SeamPlacing } from '../scene/seam';
import { PLAIN_SEAM, withSeam } from '../scene/seam';
import { emptyScene } from '../scene/scene';
import { PLAIN_SEGMENT } from '../scene/segment';

/** A plain seam with other values, joined in another way where that is given. */
export const seamOf = (values: Partial<SeamPlacing> = {}, join?: Join): Seam =>
  withSeam(PLAIN_SEAM, values, join);

/** A seam that settles in so many frames. */
export const settling = (frames: number, values: Partial<SeamPlacing> = {}): Seam =>
  seamOf(values, { kind: 'settle', frames });

/** A segment of a clip with everything else as it is by default. */
export function segmentOf(clip: Clip, values: Partial<Segment> = {}): Segment {
  return {
    ...PLAIN_SEGMENT,
    id: values.id ?? `s-${clip.id}`,
    name: clip.name,
    clip: clip.id,
    out: clip.frames,
    ...values,
  };
}

/** A scene with one character, whose lane holds the segments. */
export function sceneOf(
  segments: readonly Segment[],
  rate: number | string = 30,
  start: Scene['characters'][string]['start'] = null,
): Scene {
  return {
    ...emptyScene('test', rate),
    characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'Keeper', body: 'body', start } },
    characterOrder: ['c'],
    lanes: {
      l: { ...PLAIN_LANE, id: 'l', kind: 'body', character: 'c', segments: segments.map((s) => s.id) },
    },
    laneOrder: ['l'],
    segments: Object.fromEntries(segments.map((s) => [s.id, s])),
  };
}

/** A library of clips on one body. */
export function libraryOf(...clips: Clip[]): Library {
  return fixedLibrary({
    clip: (id) => clips.find((c) => c.id === id),
    body: () => clips[0]!.skeleton,
  });
}
