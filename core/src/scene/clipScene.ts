import type { Clip } from '../clip/clip';
import type { Scene } from './scene';
import type { Segment } from './segment';
import { PLAIN_CHARACTER } from './character';
import { PLAIN_LANE } from './lane';
import { emptyScene } from './scene';
import { PLAIN_SEGMENT } from './segment';

/** How a clip is used by itself: any of what a segment says of its clip; the rest is as it was recorded. */
export type ClipUse = Partial<
  Pick<
    Segment,
    | 'in'
    | 'out'
    | 'loop'
    | 'repeat'
    | 'speed'
    | 'mirror'
    | 'reverse'
    | 'straighten'
    | 'travel'
    | 'holdFacing'
    | 'dials'
    | 'look'
  >
>;

/** The character of a scene that `clipScene` makes. */
export const CLIP_SCENE_CHARACTER = 'c';

/**
 * One clip by itself on one body, so that what is seen or written of it is what a scene would show.
 *
 * @param body id of the body
 * @param rate frames a second; default the clip's own, so that every frame is a sample
 */
export function clipScene(
  clip: Pick<Clip, 'id' | 'name' | 'frames' | 'rate'>,
  body: string,
  use: ClipUse = {},
  rate: Scene['rate'] = clip.rate,
): Scene {
  const character = CLIP_SCENE_CHARACTER;
  const segment = {
    ...PLAIN_SEGMENT,
    out: clip.frames,
    // Tried by itself, it is asked for.
    otherLegs: true,
    ...use,
    id: 's',
    name: clip.name,
    clip: clip.id,
  };
  return {
    ...emptyScene(clip.name, rate),
    characters: {
      [character]: { ...PLAIN_CHARACTER, id: character, name: clip.name, body },
    },
    characterOrder: [character],
    lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body', character, segments: ['s'] } },
    laneOrder: ['l'],
    segments: { s: segment },
  };
}
