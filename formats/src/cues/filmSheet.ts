import type {
  Camera,
  CameraCurve,
  CameraFollow,
  CameraKeep,
  CameraLook,
  KeyCurve,
  ValueKey,
} from '@warper/core';
import { CAMERA_CURVES, InputError, LENS, PLAIN_CAMERA, PLAIN_SHOT, defined, jointNamed } from '@warper/core';
import Joi from 'joi';
import { check, failAt, metres, whole, word } from './checkKeys';
import type { PlacedEdit } from './placedEdit';
import type { CueSheet } from './sheet';
import type { Tethered } from './tetherSheet';

type Point = readonly [number, number, number];

/** Where a camera stands and looks, in metres, and its lens in millimetres; whatever is left out has no value of its own. */
interface CueStand {
  readonly place?: Point;
  readonly aim?: Point;
  readonly lens?: number;
  /** Degrees to the left. */
  readonly roll?: number;
  /** Share of its path. */
  readonly along?: number;
}

/** A camera: how it stands, its keys, and with whom it goes, by name. */
export interface CueCamera extends CueStand, Partial<Pick<Camera, 'path' | 'hand' | 'back'>> {
  readonly name: string;
  readonly keys?: readonly (CueStand & {
    readonly frame: number;
    readonly curve?: Exclude<KeyCurve, 'free'>;
  })[];
  readonly follow?: Partial<CameraFollow> & Pick<CameraFollow, 'character'>;
  readonly look?: Partial<CameraLook> & Pick<CameraLook, 'character'>;
  readonly keep?: Partial<CameraKeep> & Pick<CameraKeep, 'character'>;
}

/** A shot of a camera by its name; it ends where the next one starts unless its end is told. */
export interface CueShot {
  readonly name?: string;
  readonly camera: string;
  readonly start: number;
  readonly end?: number;
  readonly blend?: number;
  readonly comment?: string;
}

const point = Joi.array().ordered(metres.required(), metres.required(), metres.required());
const STAND = {
  place: point,
  aim: point,
  lens: Joi.number().min(LENS.least).max(LENS.most),
  roll: metres,
  along: Joi.number().min(0).max(1),
};
const lag = Joi.number().min(0).max(10);
const share = Joi.number().min(0).max(1);
const CAMERA = {
  name: word.required(),
  ...STAND,
  keys: Joi.array().max(100_000),
  follow: Joi.object(),
  look: Joi.object(),
  keep: Joi.object(),
  path: Joi.array().items(Joi.array().ordered(metres.required(), metres.required())).min(2).max(1000),
  hand: Joi.object(),
  back: Joi.array().ordered(Joi.number().min(1).max(500).required(), Joi.number().min(1).max(500).required()),
};
const PARTS = {
  follow: {
    character: word.required(),
    joint: word.allow(null),
    lag,
    height: Joi.boolean(),
    turns: Joi.boolean(),
  },
  look: { character: word.required(), joint: word.allow(null), lag },
  keep: {
    character: word.required(),
    left: share,
    right: share,
    bottom: share,
    top: share,
    widens: Joi.boolean(),
  },
  hand: {
    turn: Joi.number().min(0).max(20).required(),
    sway: Joi.number().min(0).max(1).required(),
    frequency: Joi.number().min(0.05).max(10).required(),
    seed: whole.min(0).max(4_294_967_295).required(),
  },
} as const;
const KEY = {
  frame: whole.min(-1e7).max(1e7).required(),
  ...STAND,
  curve: Joi.valid('hold', 'linear', 'smooth', 'flat'),
};
const SHOT = {
  name: word,
  camera: word.required(),
  start: whole.min(-1e7).max(1e7).required(),
  end: whole.greater(Joi.ref('start')).max(1e7),
  blend: whole.min(0).max(1e6),
  comment: Joi.string().max(1000).allow(''),
};

/** What of a sheet is about how it is filmed. */
type Filming = Pick<CueSheet, 'cameras' | 'shots'>;

/** Checks the cameras and shots of a sheet. */
export function checkFilming({ cameras = [], shots = [] }: Filming): void {
  cameras.forEach((raw, i) => {
    const path = `cameras[${i}]`;
    const camera = check<CueCamera>(raw, CAMERA, path);
    for (const part of ['follow', 'look', 'keep', 'hand'] as const)
      if (camera[part]) check(camera[part], PARTS[part], `${path}.${part}`);
    camera.keys?.forEach((key, k) => {
      check(key, KEY, `${path}.keys[${k}]`);
      if (k > 0 && key.frame <= defined(camera.keys?.[k - 1]).frame)
        failAt(path)('Keys come in order of their frames.', `keys[${k}].frame`);
    });
    if (cameras.findIndex((c) => c.name === camera.name) < i)
      failAt(path)(`There are two cameras called ${camera.name}.`, 'name', 'Give one of them another name.');
  });
  shots.forEach((raw, i) => {
    const shot = check<CueShot>(raw, SHOT, `shots[${i}]`);
    const before = shots[i - 1];
    if (before && shot.start < (before.end ?? before.start + 1))
      failAt(`shots[${i}]`)('Shots come one after the other.', 'start');
  });
}

/** The edits that put the cameras and shots of a sheet. The last shot ends where it says, or else after a frame. */
export function filmingEdits(sheet: CueSheet, cast: readonly Tethered[]): PlacedEdit[] {
  const cameras = (sheet.cameras ?? []).map((own, i): PlacedEdit => {
    const path = `cameras[${i}]`;
    return { path, edit: { type: 'camera', camera: cameraOf(own, `v${i + 1}`, cast, path) } };
  });
  const shots = (sheet.shots ?? []).map((own, i, all): PlacedEdit => {
    const path = `shots[${i}]`;
    const camera = sheet.cameras?.findIndex((c) => c.name === own.camera) ?? -1;
    if (camera < 0)
      throw new InputError('cues', `The sheet has no camera ${own.camera}.`, {
        place: { path: `${path}.camera` },
        hint: `Its cameras are ${(sheet.cameras ?? []).map((c) => c.name).join(', ') || 'none yet'}.`,
      });
    const shot = {
      ...PLAIN_SHOT,
      id: `shot${i + 1}`,
      name: own.name ?? `Shot ${i + 1}`,
      camera: `v${camera + 1}`,
      start: own.start,
      end: own.end ?? all[i + 1]?.start ?? own.start + 1,
      blend: own.blend ?? 0,
      comment: own.comment ?? '',
    };
    return { path, edit: { type: 'shot', shot } };
  });
  const aspect: PlacedEdit[] =
    sheet.aspect === undefined ? [] : [{ path: 'aspect', edit: { type: 'aspect', aspect: sheet.aspect } }];
  return [...aspect, ...cameras, ...shots];
}

/** What a sheet's stand sets of the curves. */
function curvesOf({ place, aim, lens, roll, along }: CueStand): Partial<Record<CameraCurve, number>> {
  const [x, y, z] = place ?? [];
  const [aimX, aimY, aimZ] = aim ?? [];
  const all = { x, y, z, aimX, aimY, aimZ, lens, roll, along };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

function cameraOf(own: CueCamera, id: string, cast: readonly Tethered[], path: string): Camera {
  const keys = Object.fromEntries(
    CAMERA_CURVES.flatMap((curve) => {
      const list = (own.keys ?? []).flatMap((key): ValueKey[] => {
        const value = curvesOf(key)[curve];
        return value === undefined
          ? []
          : [{ frame: key.frame, value, curve: key.curve ?? 'smooth', tangent: null, into: null }];
      });
      return list.length > 0 ? [[curve, list]] : [];
    }),
  );
  const find = finderOf(cast, path);
  // Whom it looks at is in the middle of its picture, unless its aim says otherwise.
  const aimless = own.look && own.aim === undefined ? { aimX: 0, aimY: 0, aimZ: 0 } : {};
  return {
    ...PLAIN_CAMERA,
    id,
    name: own.name,
    base: { ...PLAIN_CAMERA.base, ...aimless, ...curvesOf(own) },
    keys,
    follow: own.follow
      ? {
          joint: null,
          lag: 0,
          height: false,
          turns: false,
          ...own.follow,
          character: find(own.follow, 'follow'),
        }
      : null,
    look: own.look ? { joint: null, lag: 0, ...own.look, character: find(own.look, 'look') } : null,
    keep: own.keep
      ? { left: 0, right: 1, bottom: 0, top: 1, widens: true, ...own.keep, character: find(own.keep, 'keep') }
      : null,
    path: own.path ?? null,
    hand: own.hand ?? null,
    back: own.back ?? PLAIN_CAMERA.back,
  };
}

/** Looks up whom a part of a camera names, and sees to it that they have its joint. */
const finderOf =
  (cast: readonly Tethered[], path: string) =>
  (
    { character, joint }: { readonly character: string; readonly joint?: string | null },
    part: string,
  ): string => {
    const one = cast.find((c) => c.name === character);
    if (!one)
      throw new InputError('cues', `The sheet has no character ${character}.`, {
        place: { path: `${path}.${part}.character` },
        hint: `Its characters are ${cast.map((c) => c.name).join(', ')}.`,
      });
    if (typeof joint === 'string' && jointNamed(one.skeleton, joint) < 0)
      throw new InputError('cues', `${character} has no joint ${joint}.`, {
        place: { path: `${path}.${part}.joint` },
      });
    return one.id;
  };
