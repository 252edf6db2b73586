import Joi from 'joi';
import type { OwnSteps } from '../steps/steps';
import type { Alternate } from './alternate';
import { ALTERNATE_FIELDS } from './alternate';
import type { Camera } from './camera';
import { CAMERA_FIELDS } from './camera';
import type { ChoiceLimits } from './choice';
import { PLAIN_LIMITS, limitsSchema } from './choice';
import type { Character } from './character';
import { CHARACTER_FIELDS } from './character';
import type { Entity } from './fields';
import { given, kindsSchema, latestVersion, plainOf, schemaOf, setting } from './fields';
import type { SegmentGroup } from './group';
import { GROUP_FIELDS } from './group';
import type { Lane } from './lane';
import { LANE_KINDS, LAYER_FIELDS } from './lane';
import type { Link } from './link';
import { LINK_FIELDS } from './link';
import type { Line } from './line';
import { LINE_FIELDS } from './line';
import type { FrameSpan, Marker } from './marker';
import { MARKER_FIELDS, spanSchema } from './marker';
import { ids, count, id, rate, record, text } from './rules';
import type { PickedJoints } from './pickedJoints';
import { pickedJointsSchema } from './pickedJoints';
import { JOIN_KINDS, SEAM_FIELDS } from './seam';
import type { Segment } from './segment';
import type { Shot } from './shot';
import { SHOT_FIELDS } from './shot';
import type { Sound, SoundLane } from './sound';
import { SOUND_FIELDS, SOUND_LANE_FIELDS } from './sound';
import type { ShotSize } from './thresholds';
import { shotSize } from './thresholds';
import { SEGMENT_FIELDS } from './segment';
import type { Tether } from './tether';
import { TETHER_KINDS } from './tether';

const steps = record(
  Joi.object().pattern(
    Joi.string().max(200),
    Joi.array()
      .items(Joi.array().ordered(count.required(), Joi.number().integer().min(1).max(1e7).required()))
      .max(100_000),
  ),
);

/** What a scene holds. Its segments are checked one by one; see `parseScene`. */
const CONTENT_FIELDS = {
  name: given<string>(text),
  /** Frames a second: a number or a fraction such as "30000/1001". */
  rate: setting<number | string>(30, rate),
  characters: setting<Readonly<Record<string, Character>>>({}, record(schemaOf(CHARACTER_FIELDS))),
  characterOrder: setting<readonly string[]>([], ids),
  lanes: setting<Readonly<Record<string, Lane>>>({}, record(kindsSchema(LANE_KINDS))),
  laneOrder: setting<readonly string[]>([], ids),
  segments: setting<Readonly<Record<string, Segment>>>({}, Joi.object().pattern(id, Joi.object())),
  /** The user's own steps: by clip and joint name, spans of samples [start, end) in which the joint is planted. */
  steps: setting<Readonly<Record<string, OwnSteps>>>({}, steps, { since: 3 }),
  groups: setting<Readonly<Record<string, SegmentGroup>>>({}, record(schemaOf(GROUP_FIELDS)), { since: 4 }),
  /** Who or what is held by whom, or reaches for what. */
  tethers: setting<Readonly<Record<string, Tether>>>({}, record(kindsSchema(TETHER_KINDS)), { since: 12 }),
  /** What waits for what, across characters. */
  links: setting<Readonly<Record<string, Link>>>({}, record(schemaOf(LINK_FIELDS)), { since: 13 }),
  /** Joints that were picked as seat, grip or collar, by body. */
  pickedJoints: setting<Readonly<Record<string, PickedJoints>>>({}, record(pickedJointsSchema), {
    since: 13,
  }),
  /** By frame. */
  markers: setting<readonly Marker[]>([], Joi.array().items(schemaOf(MARKER_FIELDS)).max(10_000), {
    since: 4,
  }),
  /** The frames [from, to) that are played over and over; null for the whole piece. */
  range: setting<FrameSpan | null>(null, spanSchema.allow(null), { since: 4 }),
  cameras: setting<Readonly<Record<string, Camera>>>({}, record(schemaOf(CAMERA_FIELDS)), { since: 14 }),
  cameraOrder: setting<readonly string[]>([], ids, { since: 14 }),
  /** What is seen by which camera; no two of them at one frame. */
  shots: setting<Readonly<Record<string, Shot>>>({}, record(schemaOf(SHOT_FIELDS)), { since: 14 }),
  /** Width of the picture by its height. */
  aspect: setting<number>(16 / 9, Joi.number().min(0.2).max(5), { since: 14 }),
  sounds: setting<Readonly<Record<string, Sound>>>({}, record(schemaOf(SOUND_FIELDS)), { since: 15 }),
  soundLanes: setting<Readonly<Record<string, SoundLane>>>({}, record(schemaOf(SOUND_LANE_FIELDS)), {
    since: 15,
  }),
  soundLaneOrder: setting<readonly string[]>([], ids, { since: 15 }),
  /** What is said. */
  lines: setting<Readonly<Record<string, Line>>>({}, record(schemaOf(LINE_FIELDS)), { since: 15 }),
  /** Other versions of the scene, and the one in hand; empty where there is only that. */
  alternates: setting<Readonly<Record<string, Alternate>>>({}, record(schemaOf(ALTERNATE_FIELDS)), {
    since: 16,
  }),
  alternateOrder: setting<readonly string[]>([], ids, { since: 16 }),
  /** What choices of joins keep to, where a seam has no limits of its own. */
  choice: setting<ChoiceLimits>(PLAIN_LIMITS, limitsSchema, { since: 6 }),
  /** How closely it will be looked at: what its measures are judged by. */
  shotSize: setting<ShotSize>('medium', shotSize, { since: 6 }),
  /** What is not to be looked at in its list of measures, by what it is, and why not. */
  ignored: setting<Readonly<Record<string, string>>>(
    {},
    Joi.object().pattern(Joi.string().max(300), Joi.string().max(1000)),
    { since: 6 },
  ),
};

/** The version in which the seam became a union of its kinds; fields that came later say so themselves. */
const KINDS_OF_SEAMS = 5;

/** The version of scene documents that is written: the latest that any field asks for. */
export const SCENE_VERSION = Math.max(
  KINDS_OF_SEAMS,
  latestVersion(
    CONTENT_FIELDS,
    CHARACTER_FIELDS,
    LAYER_FIELDS,
    SEGMENT_FIELDS,
    MARKER_FIELDS,
    SEAM_FIELDS,
    ...Object.values(JOIN_KINDS),
  ),
);

/** What is known of a scene. */
export const SCENE_FIELDS = {
  format: given<'warper-scene'>(Joi.valid('warper-scene')),
  version: given<number>(Joi.valid(SCENE_VERSION)),
  ...CONTENT_FIELDS,
};

/**
 * The document: who performs, and how library clips are used for it. Small, plain JSON; clips and bodies are
 * named by id and kept elsewhere. Positions on the timeline are whole frames at the scene's rate, spans half open.
 */
export type Scene = Entity<typeof SCENE_FIELDS>;

/** A scene without characters. */
export const emptyScene = (name: string, rate: number | string = 30): Scene => ({
  format: 'warper-scene',
  version: SCENE_VERSION,
  name,
  ...plainOf(SCENE_FIELDS),
  rate,
});
