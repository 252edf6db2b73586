import Joi from 'joi';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import { frame, id, scaledFrames, text } from './rules';

/** Decibels that a sound or a lane can be raised or lowered by. */
export const GAIN = { least: -60, most: 24 } as const;

/** Seconds of the longest sound that is taken: as many as a scene may have. */
export const MOST_SOUND_SECONDS = 7200;

const gain = Joi.number().min(GAIN.least).max(GAIN.most);
const seconds = Joi.number().min(0).max(MOST_SOUND_SECONDS);

/** Times of beats, in order. */
const beatTimes = Joi.array()
  .items(seconds)
  .max(20_000)
  .custom((list: number[], helpers) =>
    list.every((at, i) => i === 0 || at > (list[i - 1] ?? 0))
      ? list
      : helpers.error('any.custom', { error: new Error('its beats are not in order') }),
  );

/** What is known of a sound on a lane. Within the file it is told in seconds, on the timeline in frames. */
export const SOUND_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  lane: given<string>(id),
  /** Content hash of the file. */
  source: given<string>(id),
  /** Length of the file, seconds. */
  seconds: given<number>(seconds.greater(0)),
  /** The frame at which it is first heard. */
  start: given<number>(frame, { scaled: scaledFrames }),
  /** What is played of the file: seconds [in, out). */
  in: given<number>(seconds),
  out: given<number>(seconds.greater(Joi.ref('in'))),
  /** How often that is played, one after the other. */
  repeat: setting<number>(1, Joi.number().min(0.01).max(10_000)),
  /** Decibels. */
  gain: setting<number>(0, gain),
  /** Seconds in which it rises from silence, and falls to it. */
  fadeIn: setting<number>(0, seconds, { called: 'fade in' }),
  fadeOut: setting<number>(0, seconds, { called: 'fade out' }),
  muted: setting<boolean>(false, Joi.boolean()),
  /** Its beats, seconds of the file. */
  beats: setting<readonly number[]>([], beatTimes),
};

/** A part of a sound file on the timeline. */
export type Sound = Entity<typeof SOUND_FIELDS>;

/** What a sound is unless asked otherwise. */
export const PLAIN_SOUND = plainOf(SOUND_FIELDS);

/** Seconds for which a sound is heard. */
export const soundSeconds = ({ in: from, out, repeat }: Pick<Sound, 'in' | 'out' | 'repeat'>): number =>
  (out - from) * repeat;

/** What feet walk on, as it is heard. */
export const SURFACES = ['stone', 'wood', 'gravel'] as const;

/** What feet walk on. */
export type Surface = (typeof SURFACES)[number];

/** The steps that a lane makes heard: whose, and on what. */
export interface HeardSteps {
  readonly character: string;
  readonly surface: Surface;
}

/** What is known of a sound lane. */
export const SOUND_LANE_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  /** Decibels, on top of those of its sounds. */
  gain: setting<number>(0, gain),
  muted: setting<boolean>(false, Joi.boolean()),
  /** Whose steps are heard on it, as they are performed; null for a lane of sounds alone. */
  steps: setting<HeardSteps | null>(
    null,
    Joi.object({ character: id.required(), surface: Joi.valid(...SURFACES).required() }).allow(null),
  ),
};

/** A lane of sounds, which are heard together with those of all others. */
export type SoundLane = Entity<typeof SOUND_LANE_FIELDS>;

/** What a sound lane is unless asked otherwise. */
export const PLAIN_SOUND_LANE = plainOf(SOUND_LANE_FIELDS);
