import type { Edit, Line, Plan, Scene, Sound, SoundLane } from '@warper/core';
import {
  PLAIN_LINE,
  PLAIN_MARKER,
  PLAIN_SOUND,
  PLAIN_SOUND_LANE,
  defined,
  framesPerSecond,
  soundEnd,
} from '@warper/core';
import type { Caption } from '@warper/formats/sound';
import { freshId } from '../../../data/freshId';
import { freeName } from '../drawer/freeName';

/** A sound of the library, to be put onto a lane. */
export interface LibrarySound {
  readonly id: string;
  readonly name: string;
  readonly seconds: number;
}

/** A lane for sounds, with a name that no other has. */
export const newSoundLane = (scene: Scene, name = 'Sounds'): SoundLane => ({
  ...PLAIN_SOUND_LANE,
  id: freshId('sounds'),
  name: freeName(
    name,
    Object.values(scene.soundLanes).map((l) => l.name),
  ),
});

/**
 * The edit that puts a sound of the library onto a lane at a frame: the lane that is asked for, else the first of sounds that is free there,
 * else a new one.
 */
export function addSoundEdit(
  scene: Scene,
  plan: Plan,
  { id: source, name, seconds }: LibrarySound,
  frame: number,
  lane?: string,
): { readonly edit: Edit; readonly sound: Sound } {
  const fps = framesPerSecond(plan.rate);
  const plain = { ...PLAIN_SOUND, id: freshId('sound'), source, seconds, in: 0, out: seconds };
  const start = Math.max(0, Math.round(frame));
  const end = start + seconds * fps;
  const isFree = (of: string): boolean =>
    Object.values(scene.sounds).every((s) => s.lane !== of || s.start >= end || soundEnd(s, fps) <= start);
  const own =
    lane !== undefined && scene.soundLanes[lane]
      ? lane
      : scene.soundLaneOrder.find((l) => !scene.soundLanes[l]?.steps && isFree(l));
  const made = own === undefined ? newSoundLane(scene) : null;
  const sound: Sound = {
    ...plain,
    lane: own ?? defined(made).id,
    start,
    name: freeName(
      name,
      Object.values(scene.sounds).map((s) => s.name),
    ),
  };
  const edits: Edit[] = [
    ...(made ? [{ type: 'sound lane' as const, lane: made }] : []),
    { type: 'sound', sound },
  ];
  return { edit: { type: 'several', label: `new sound ${sound.name}`, edits }, sound };
}

/** Markers that one step may add: more could not be told apart. */
const MOST_MARKERS = 2000;

/** The edit that puts markers at frames where there are none of that name, or null where nothing is to be done. */
export function markersAt(scene: Scene, name: string, frames: readonly number[]): Edit | null {
  const there = new Set(scene.markers.map((m) => m.frame));
  const fresh = [...new Set(frames.map(Math.round))].filter((f) => f >= 0 && !there.has(f));
  if (fresh.length === 0) return null;
  const edits = fresh.slice(0, MOST_MARKERS).map((frame, i): Edit => ({
    type: 'marker',
    marker: { ...PLAIN_MARKER, id: freshId('marker'), name: `${name} ${i + 1}`, frame },
  }));
  return { type: 'several', label: `${edits.length} markers`, edits };
}

/** A line at a frame, which lasts two seconds. */
export const newLine = (plan: Plan, frame: number, text = 'New line'): Line => ({
  ...PLAIN_LINE,
  id: freshId('line'),
  text,
  start: frame,
  end: frame + Math.max(1, Math.round(2 * framesPerSecond(plan.rate))),
});

/** The edit that puts the lines of a captions file in place of those that are there. */
export function captionsEdit(scene: Scene, plan: Plan, captions: readonly Caption[]): Edit {
  const fps = framesPerSecond(plan.rate);
  const edits = [
    ...Object.keys(scene.lines).map((line): Edit => ({ type: 'remove line', line })),
    ...captions.map(({ text, speaker, start, end }): Edit => {
      const first = Math.round(start * fps);
      return {
        type: 'line',
        line: {
          id: freshId('line'),
          text,
          speaker,
          start: first,
          end: Math.max(first + 1, Math.round(end * fps)),
        },
      };
    }),
  ];
  return { type: 'several', label: `${captions.length} lines from a file`, edits };
}

/** The lines as a captions file has them. */
export const captionsOf = ({ lines }: Scene, plan: Plan): Caption[] =>
  Object.values(lines).map(({ text, speaker, start, end }) => {
    const fps = framesPerSecond(plan.rate);
    return { text, speaker, start: start / fps, end: end / fps };
  });
