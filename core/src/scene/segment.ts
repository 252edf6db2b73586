import Joi from 'joi';
import type { Dials } from '../clip/dials';
import { dialsSchema } from './dials';
import type { Look } from './look';
import { lookSchema, scaledLook } from './look';
import type { Handle } from '../math/spline';
import type { Entity } from './fields';
import { given, plainOf, schemaOf, scaledFields, setting } from './fields';
import type { FloorPlace } from './floor';
import type { Meeting } from './meeting';
import { meetingSchema, scaledMeeting } from './meeting';
import { byFrame, count, finite, frame, handles, id, points, scaledFrames, text, yes } from './rules';
import type { Seam } from './seam';
import { PLAIN_SEAM, scaledSeam, seamSchema } from './seam';

/** How root motion is used, by the names of the document. */
const TRAVELS = ['recorded', 'in place', 'restored', 'scaled', 'path'] as const;

/**
 * What is done with a segment's root motion: as recorded; held on its spot; computed from the planted feet; recorded but
 * scaled to what the feet do; along a path.
 */
export type Travel = (typeof TRAVELS)[number];

/** A spot that the root is to hit, with a facing, so many frames after its segment's start. */
export interface Mark extends FloorPlace {
  readonly frame: number;
}

/** Fastest that a segment may play: a long clip in one frame. */
export const MAX_SPEED = 1e6;

const marks = byFrame(
  Joi.array()
    .items(
      Joi.object({
        frame: frame.min(1).required(),
        x: finite.required(),
        z: finite.required(),
        heading: finite.required(),
      }),
    )
    .max(1000),
  'its marks',
);

/** All settings of a segment but its name, its clip and its place: what decides how the clip is played. */
export const SETTINGS = {
  /** First sample of the clip, and the one after the last. */
  in: setting<number>(0, finite.min(0), { called: 'clip start', cue: 'part' }),
  out: given<number>(finite.greater(Joi.ref('in')), {
    called: 'clip end',
    cue: 'part',
    cueSchema: Joi.number().greater(0),
  }),
  /** How often it is played; may be fractional. */
  repeat: setting<number>(1, Joi.number().greater(0).max(100_000), { called: 'repeats', cue: 'part' }),
  /** Whether it goes on from its end to its start, carrying its travel on. */
  loop: setting<boolean>(false, yes, { cue: 'part' }),
  /** Samples of its first cycle that a loop has already played when it starts. */
  phase: setting<number>(0, Joi.number().min(0).max(1e7), { called: 'loop offset', since: 4 }),
  /** How fast it plays; ignored where a length is set. */
  speed: setting<number>(1, Joi.number().greater(0).max(MAX_SPEED), {
    cue: 'part',
    cueSchema: Joi.number().greater(0).max(1000),
  }),
  /** Frames that it is to fill, null to follow from the speed. */
  length: setting<number | null>(null, Joi.number().integer().min(1).max(1e7).allow(null), {
    cue: 'part',
    cueSchema: Joi.number().integer().min(1).max(1e7),
    scaled: (length, factor) => (length === null ? null : Math.max(1, scaledFrames(length, factor))),
  }),
  /** Whether it plays from its end to its start. */
  reverse: setting<boolean>(false, yes, { since: 3, cue: 'part' }),
  /** Frames for which its first and its last pose are held, on top of what it fills. */
  hold: setting<{ readonly start: number; readonly end: number }>(
    { start: 0, end: 0 },
    Joi.object({ start: count.required(), end: count.required() }),
    {
      since: 3,
      cue: 'part',
      cueSchema: Joi.object(),
      scaled: ({ start, end }, by) => ({ start: scaledFrames(start, by), end: scaledFrames(end, by) }),
    },
  ),
  /** Share of its frames, share of its motion: points in (0, 1) through which the time runs; null runs evenly. */
  speedCurve: setting<readonly Handle[] | null>(null, handles.min(1).allow(null), {
    since: 3,
    cue: 'part',
    cueSchema: points.min(1),
  }),
  /** Whether left and right are swapped. */
  mirror: setting<boolean>(false, yes, { called: 'mirroring', since: 3, cue: 'part' }),
  travel: setting<Travel>('recorded', Joi.valid(...TRAVELS), {
    cue: 'beat',
    cueSchema: Joi.valid(...TRAVELS, 'in-place'),
  }),
  /** In place, whether the heading is held too. */
  holdFacing: setting<boolean>(false, yes, { called: 'kept facing', since: 3, cue: 'beat' }),
  /** Whether the turn from its start to its end is taken out evenly, so that a loop goes straight on. */
  straighten: setting<boolean>(false, yes, { called: 'straightening', since: 3, cue: 'beat' }),
  /** Whether it may be performed on another number of legs than it was recorded on; refused otherwise. */
  otherLegs: setting<boolean>(false, yes, {
    called: 'use on other legs',
    since: 7,
    before: true,
    cue: 'part',
  }),
  /** How it is performed: arms further out, lower, wider, on top of the character's own. */
  dials: setting<Dials>({}, dialsSchema, {
    called: 'posture',
    since: 9,
    cue: 'part',
    cueSchema: dialsSchema,
  }),
  /** What the head follows while it plays, in place of what the character's does; null the same as that. */
  look: setting<Look | null>(null, lookSchema.allow(null), { since: 11, scaled: scaledLook }),
  /** Where its character stands to another at a frame of it: it is moved on the floor for that, with what follows it. */
  meet: setting<Meeting | null>(null, meetingSchema.allow(null), {
    called: 'meeting',
    since: 13,
    scaled: scaledMeeting,
  }),
  /** Metres by which it is raised over the floor. */
  lift: setting<number>(0, Joi.number().min(-100).max(100), { called: 'height offset', since: 4 }),
  /** Whether it is passed over: it takes no time and is not performed, but keeps its place in the order. */
  off: setting<boolean>(false, yes, { since: 4 }),
  /** Floor places (x, z in metres) that the root passes after its start, for travel along a path. */
  path: setting<readonly (readonly [number, number])[]>(
    [],
    Joi.array().items(Joi.array().ordered(finite.required(), finite.required())).max(10_000),
    {
      since: 3,
      cue: 'beat',
      cueSchema: Joi.array()
        .items(Joi.array().ordered(finite.required(), finite.required()))
        .min(1)
        .max(10_000),
    },
  ),
  /** Spots that the root hits, by frame. */
  marks: setting<readonly Mark[]>([], marks, {
    since: 3,
    cue: 'beat',
    cueSchema: Joi.array().max(1000),
    scaled: (list, factor) =>
      list
        .map((m) => ({ ...m, frame: Math.max(1, scaledFrames(m.frame, factor)) }))
        .filter((m, i, all) => m.frame !== all[i + 1]?.frame),
  }),
  /** Frames in which a segment of a layer comes and goes. */
  fade: setting<{ readonly in: number; readonly out: number }>(
    { in: 0, out: 0 },
    Joi.object({ in: count.required(), out: count.required() }),
    { since: 3, scaled: (fade, by) => ({ in: scaledFrames(fade.in, by), out: scaledFrames(fade.out, by) }) },
  ),
  seam: setting<Seam>(PLAIN_SEAM, seamSchema, { cue: 'beat', cueSchema: Joi.object(), scaled: scaledSeam }),
};

/** What is known of one use of a clip on a lane. */
export const SEGMENT_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  clip: given<string>(id),
  /** First frame on the timeline. */
  start: setting<number>(0, frame),
  ...SETTINGS,
};

/** One use of a clip on a lane. */
export type Segment = Entity<typeof SEGMENT_FIELDS>;

/** What decides how the clip of a segment is played. */
export type SegmentSettings = Entity<typeof SETTINGS>;

/** What a segment is unless asked otherwise, but for its clip and place. */
export const PLAIN_SEGMENT = plainOf(SEGMENT_FIELDS);

/** The rule of a segment. */
export const segmentSchema = schemaOf(SEGMENT_FIELDS);

/** The names of the settings, in one order. */
const SETTING_NAMES = Object.keys(SETTINGS) as (keyof SegmentSettings)[];

/** The settings of a segment as text: equal for segments that are set alike, whatever the order of their fields. */
export function settingsText(segment: SegmentSettings): string {
  let text = '';
  for (const name of SETTING_NAMES) {
    const value: unknown = segment[name];
    if (typeof value === 'string') text += `${value.length}:${value} `;
    else text += typeof value === 'object' ? `${JSON.stringify(value)} ` : `${String(value)} `;
  }
  return text;
}

/** The settings alone. */
export const settingsOf = (segment: Segment): SegmentSettings =>
  Object.fromEntries(SETTING_NAMES.map((name) => [name, segment[name]])) as unknown as SegmentSettings;

/** A segment but for its start, which keeps its seconds at so many times as many frames a second. */
export const scaleSegment = (segment: Segment, factor: number): Segment =>
  scaledFields(segment, SETTINGS, factor);
