import Joi from 'joi';
import type { Entity } from './fields';
import { given, plainOf, scaledFields, setting } from './fields';
import type { ValueKey } from './keys';
import { scaledKeyList, valueKey } from './keys';
import { byFrame, finite, id, text, weight, yes } from './rules';

/**
 * What of a camera can be keyed: its place and what it is aimed at (metres), its roll (degrees, to the left), the focal length of its lens
 * (millimetres), and how far along its path it is (0 to 1).
 */
export const CAMERA_CURVES = ['x', 'y', 'z', 'aimX', 'aimY', 'aimZ', 'roll', 'lens', 'along'] as const;

export type CameraCurve = (typeof CAMERA_CURVES)[number];

/** A number for each curve of a camera. */
export type CameraValues = Readonly<Record<CameraCurve, number>>;

/** Keys of a camera by curve, in order of frames. */
export type CameraKeys = Readonly<Partial<Record<CameraCurve, readonly ValueKey[]>>>;

/** Focal lengths, millimetres. */
export const LENS = { least: 4, most: 1200 } as const;

/** Whom a camera goes along with: its place, and what it is aimed at unless it looks at somebody, are in metres from there. */
export interface CameraFollow {
  readonly character: string;
  /** Role or name of a joint; null the root on the floor. */
  readonly joint: string | null;
  /** Seconds by which the camera comes behind in steady motion. */
  readonly lag: number;
  /** Whether it goes up and down along, too. */
  readonly height: boolean;
  /** Whether it goes round with the facing. */
  readonly turns: boolean;
}

/** Whom a camera looks at; what it is aimed at is in metres from there. */
export interface CameraLook {
  readonly character: string;
  /** Role or name of a joint; null the root on the floor. */
  readonly joint: string | null;
  /** Seconds by which the aim comes behind in steady motion. */
  readonly lag: number;
}

/** A part of the picture that a figure is kept in: shares of its width from the left, and of its height from the bottom. */
export interface CameraKeep {
  readonly character: string;
  readonly left: number;
  readonly right: number;
  readonly bottom: number;
  readonly top: number;
  /** Whether the lens becomes shorter where the figure is too large for it. */
  readonly widens: boolean;
}

/** How unsteadily a camera is held. */
export interface Handheld {
  /** Root mean square of its turning, degrees. */
  readonly turn: number;
  /** Root mean square of its swaying, metres. */
  readonly sway: number;
  /** About how often it goes to and fro in a second. */
  readonly frequency: number;
  /** Which of all such motions it is. */
  readonly seed: number;
}

const lag = Joi.number().min(0).max(10).required();
const joint = text.allow(null).required();

const followSchema = Joi.object({
  character: id.required(),
  joint,
  lag,
  height: yes.required(),
  turns: yes.required(),
});

const lookSchema = Joi.object({ character: id.required(), joint, lag });

const keepSchema = Joi.object({
  character: id.required(),
  left: weight.required(),
  right: weight.greater(Joi.ref('left')).required(),
  bottom: weight.required(),
  top: weight.greater(Joi.ref('bottom')).required(),
  widens: yes.required(),
});

const handSchema = Joi.object({
  turn: Joi.number().min(0).max(20).required(),
  sway: Joi.number().min(0).max(1).required(),
  frequency: Joi.number().min(0.05).max(10).required(),
  seed: Joi.number().integer().min(0).max(4_294_967_295).required(),
});

const point = Joi.array().ordered(finite.required(), finite.required());

const keysSchema = Joi.object(
  Object.fromEntries(
    CAMERA_CURVES.map((curve) => [curve, byFrame(Joi.array().items(valueKey).min(1).max(100_000), 'keys')]),
  ),
);

/** What is known of a camera. */
export const CAMERA_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  /** What it is where a curve has no keys. */
  base: setting<CameraValues>(
    { x: 4, y: 1.6, z: 6, aimX: 0, aimY: 1, aimZ: 0, roll: 0, lens: 35, along: 0 },
    Joi.object(
      Object.fromEntries(
        CAMERA_CURVES.map((curve) => [
          curve,
          (curve === 'lens'
            ? Joi.number().min(LENS.least).max(LENS.most)
            : curve === 'along'
              ? weight
              : finite
          ).required(),
        ]),
      ),
    ),
    { called: 'place and aim' },
  ),
  keys: setting<CameraKeys>({}, keysSchema, {
    scaled: (keys, factor) =>
      Object.fromEntries(Object.entries(keys).map(([curve, list]) => [curve, scaledKeyList(list, factor)])),
  }),
  follow: setting<CameraFollow | null>(null, followSchema.allow(null), { called: 'following' }),
  look: setting<CameraLook | null>(null, lookSchema.allow(null), { called: 'looking' }),
  keep: setting<CameraKeep | null>(null, keepSchema.allow(null), { called: 'frame' }),
  /** Points (x, z) on the floor over which it goes, in metres; its place on the floor is then how far along it is. */
  path: setting<readonly (readonly [number, number])[] | null>(
    null,
    Joi.array().items(point).min(2).max(1000).allow(null),
  ),
  hand: setting<Handheld | null>(null, handSchema.allow(null), { called: 'handheld motion' }),
  /** Width and height of its film back, millimetres. */
  back: setting<readonly [number, number]>(
    [36, 24],
    Joi.array().ordered(Joi.number().min(1).max(500).required(), Joi.number().min(1).max(500).required()),
    { called: 'film back' },
  ),
};

/** A camera of the scene. */
export type Camera = Entity<typeof CAMERA_FIELDS>;

/** What a camera is unless asked otherwise. */
export const PLAIN_CAMERA = plainOf(CAMERA_FIELDS);

/** A camera when a second has `factor` times as many frames. */
export const scaledCamera = (camera: Camera, factor: number): Camera =>
  scaledFields(camera, CAMERA_FIELDS, factor);

/** Film backs by name: width and height in millimetres (common practice, from memory). */
export const FILM_BACKS = {
  'Still, 36 × 24': [36, 24],
  'Super 35, 24.9 × 18.7': [24.89, 18.66],
  'Academy 35, 22 × 16': [21.95, 16],
  'Super 16, 12.5 × 7.4': [12.52, 7.41],
  '16 mm, 10.3 × 7.5': [10.26, 7.49],
  'Large format, 54.1 × 25.6': [54.12, 25.58],
  '1 inch, 13.2 × 8.8': [13.2, 8.8],
} as const satisfies Readonly<Record<string, readonly [number, number]>>;
