import type { Scene } from '../scene/scene';
import type { Sound } from '../scene/sound';
import { soundSeconds } from '../scene/sound';

/** A sound as it is heard: when, which part of its file, and how loud. Times are seconds of the scene, its frame 0 being 0. */
export interface HeardSound {
  readonly id: string;
  /** Content hash of its file. */
  readonly source: string;
  readonly start: number;
  readonly end: number;
  /** Seconds [from, to) of the file, which are played over and over until its end. */
  readonly from: number;
  readonly to: number;
  /** Factor on the amplitude. */
  readonly gain: number;
  readonly fadeIn: number;
  readonly fadeOut: number;
}

/** The factor on the amplitude that so many decibels are. */
export const amplitudeOf = (decibels: number): number => 10 ** (decibels / 20);

/** The sounds of a scene that are heard, muted ones and those of muted lanes left out, by start. */
export const heardSounds = (
  { sounds, soundLanes }: Pick<Scene, 'sounds' | 'soundLanes'>,
  fps: number,
): HeardSound[] =>
  Object.values(sounds)
    .flatMap((sound) => {
      const lane = soundLanes[sound.lane];
      return !lane || lane.muted || sound.muted ? [] : [heardSound(sound, lane.gain, fps)];
    })
    .sort((a, b) => a.start - b.start);

function heardSound(sound: Sound, laneGain: number, fps: number): HeardSound {
  const start = sound.start / fps;
  const length = soundSeconds(sound);
  return {
    id: sound.id,
    source: sound.source,
    start,
    end: start + length,
    from: sound.in,
    to: sound.out,
    gain: amplitudeOf(sound.gain + laneGain),
    fadeIn: Math.min(sound.fadeIn, length),
    fadeOut: Math.min(sound.fadeOut, length),
  };
}

/** Factor on the amplitude of a sound at a time (seconds of the scene): rises and falls evenly in its fades, silent outside of it. */
export function gainAt({ start, end, gain, fadeIn, fadeOut }: HeardSound, time: number): number {
  if (time < start || time > end) return 0;
  const rising = fadeIn > 0 ? Math.min(1, (time - start) / fadeIn) : 1;
  const falling = fadeOut > 0 ? Math.min(1, (end - time) / fadeOut) : 1;
  return gain * rising * falling;
}

/** The second of its file that is heard at a time of the scene. */
export const sourceTimeAt = ({ start, from, to }: HeardSound, time: number): number =>
  from + ((time - start) % (to - from));

/** The frame after the last one at which a sound is heard, in fractions. */
export const soundEnd = (sound: Sound, fps: number): number => sound.start + soundSeconds(sound) * fps;
