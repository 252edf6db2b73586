import type { Clip } from '../clip/clip';
import { framesPerSecond, parseRate } from '../math/rate';
import type { Character } from './character';
import { PLAIN_CHARACTER } from './character';
import type { Lane } from './lane';
import { PLAIN_LANE } from './lane';
import type { Marker } from './marker';
import { PLAIN_MARKER } from './marker';
import type { Scene } from './scene';
import { emptyScene } from './scene';
import type { Segment } from './segment';
import { PLAIN_SEGMENT } from './segment';
import { PLAIN_SEAM, withSeam } from './seam';

/** A clip, and the body that performs it. */
export interface ClipOnBody {
  readonly clip: Pick<Clip, 'id' | 'name' | 'frames' | 'rate'>;
  /** Id of the body, and what its character is called. */
  readonly body: string;
  readonly bodyName: string;
}

/** Seconds from the end of a clip to the start of the next. */
const APART = 0.5;
const HUES = 8;

/**
 * Clips one after the other, each as it was recorded, on a character for each body; a region for each clip, so that each can be baked by
 * itself.
 *
 * @param name of the scene
 * @param clips at least one; the scene has the rate of the first
 */
export function clipsScene(name: string, clips: readonly ClipOnBody[]): Scene {
  const scene = emptyScene(name, clips[0]?.clip.rate);
  const rate = framesPerSecond(parseRate(scene.rate));
  const bodies = [...new Set(clips.map((c) => c.body))];
  const characters: Record<string, Character> = {};
  const lanes: Record<string, Lane> = {};
  const segments: Record<string, Segment> = {};
  const markers: Marker[] = [];
  let start = 0;
  clips.forEach(({ clip }, i) => {
    const length = Math.max(1, Math.floor((clip.frames * rate) / clip.rate + 0.5));
    segments[`s${i}`] = {
      ...PLAIN_SEGMENT,
      id: `s${i}`,
      name: clip.name,
      clip: clip.id,
      start,
      out: clip.frames,
      seam: withSeam(PLAIN_SEAM, { fit: 'free' }, { kind: 'cut' }),
    };
    markers.push({ ...PLAIN_MARKER, id: `m${i}`, name: clip.name, frame: start, end: start + length });
    start += length + Math.round(APART * rate);
  });
  bodies.forEach((body, b) => {
    const own = clips.flatMap((c, i) => (c.body === body ? [`s${i}`] : []));
    const bodyName = clips.find((c) => c.body === body)?.bodyName ?? '';
    characters[`c${b}`] = { ...PLAIN_CHARACTER, id: `c${b}`, name: bodyName, body, hue: b % HUES };
    lanes[`l${b}`] = { ...PLAIN_LANE, id: `l${b}`, kind: 'body', character: `c${b}`, segments: own };
  });
  return {
    ...scene,
    characters,
    characterOrder: Object.keys(characters),
    lanes,
    laneOrder: Object.keys(lanes),
    segments,
    markers,
  };
}
