import type { BakeOptions, KeyInterpolation, LoopEnd } from '@warper/core';
import Joi from 'joi';
import type { UpAxis } from '../upAxis';

/** A format that performances are baked to, and what it can hold. */
export interface BakeFormat {
  readonly name: string;
  /** What it is written as, without the point. */
  readonly extension: string;
  /** Media type of the file. */
  readonly type: string;
  /** Whether one file holds several characters. */
  readonly holdsSeveral: boolean;
  /** Whether one file holds several takes. */
  readonly holdsTakes: boolean;
  readonly holdsBody: boolean;
  readonly holdsCameras: boolean;
  /** Whether keys may be left out between others. */
  readonly holdsKeys: boolean;
  /** Whether the units of the file are free, and which way is up in it. */
  readonly hasUnits: boolean;
}

/** Everything that performances are baked to. */
export const BAKE_FORMATS = {
  glb: {
    name: 'GLB',
    extension: 'glb',
    type: 'model/gltf-binary',
    holdsSeveral: true,
    holdsTakes: true,
    holdsBody: true,
    holdsCameras: true,
    holdsKeys: true,
    hasUnits: false,
  },
  gltf: {
    name: 'glTF, as text',
    extension: 'gltf',
    type: 'model/gltf+json',
    holdsSeveral: true,
    holdsTakes: true,
    holdsBody: true,
    holdsCameras: true,
    holdsKeys: true,
    hasUnits: false,
  },
  vrma: {
    name: 'VRM animation',
    extension: 'vrma',
    type: 'model/gltf-binary',
    holdsSeveral: false,
    holdsTakes: true,
    holdsBody: false,
    holdsCameras: false,
    holdsKeys: true,
    hasUnits: false,
  },
  usda: {
    name: 'USD, as text',
    extension: 'usda',
    type: 'model/vnd.usda',
    holdsSeveral: true,
    holdsTakes: false,
    holdsBody: true,
    holdsCameras: true,
    holdsKeys: false,
    hasUnits: true,
  },
  usdz: {
    name: 'USDZ',
    extension: 'usdz',
    type: 'model/vnd.usdz+zip',
    holdsSeveral: true,
    holdsTakes: false,
    holdsBody: true,
    holdsCameras: true,
    holdsKeys: false,
    hasUnits: true,
  },
  bvh: {
    name: 'BVH',
    extension: 'bvh',
    type: 'text/plain',
    holdsSeveral: false,
    holdsTakes: false,
    holdsBody: false,
    holdsCameras: false,
    holdsKeys: false,
    hasUnits: true,
  },
  csv: {
    name: 'CSV of root and joints',
    extension: 'csv',
    type: 'text/csv',
    holdsSeveral: false,
    holdsTakes: false,
    holdsBody: false,
    holdsCameras: false,
    holdsKeys: false,
    hasUnits: true,
  },
} as const satisfies Record<string, BakeFormat>;

export type BakeFormatId = keyof typeof BAKE_FORMATS;

export const BAKE_FORMAT_IDS = Object.keys(BAKE_FORMATS) as BakeFormatId[];

/** Scene frames [from, to) that are baked, by a name. */
export interface BakeSpan {
  readonly name: string;
  readonly from: number;
  readonly to: number;
}

/** How performances are written, whoever performs and whatever part of it: what a preset keeps. */
export interface BakeSettings {
  readonly format: BakeFormatId;
  /** Whether all who perform are in one file, where the format holds several; else each has one. */
  readonly together: boolean;
  /** Whether several spans are takes of one file, where the format holds some; else each is a file. */
  readonly spansTogether: boolean;
  /** Samples a second; null for the scene's. */
  readonly rate: number | null;
  readonly travel: Required<BakeOptions>['travel'];
  readonly keepFacing: boolean;
  readonly fromOrigin: boolean;
  /** Scene frames before the first in which a body comes out of its rest pose. */
  readonly leadIn: number;
  readonly loop: LoopEnd;
  readonly keys: 'every' | 'reduced';
  /** Of reduced keys: how far a joint may come off its place, and what is between the keys. */
  readonly errorMillimetres: number;
  readonly interpolation: KeyInterpolation;
  /** Whether the body's mesh goes with it, where the format holds one. */
  readonly withBody: boolean;
  /** Whether the scene's cameras go with those who perform as in the scene, where the format holds some. */
  readonly withCameras: boolean;
  /** Whether joints are called as the character's own file has them, or by their roles. */
  readonly jointNames: 'own' | 'roles';
  /** Units a metre in the file, where they are free; null for those of the character's own file. */
  readonly unitsPerMetre: number | null;
  /** Which axis of the file points up, where that is free. */
  readonly upAxis: UpAxis;
}

/** What is baked unless something else is asked for. */
export const USUAL_BAKE: BakeSettings = {
  format: 'glb',
  together: true,
  spansTogether: false,
  rate: null,
  travel: 'recorded',
  keepFacing: false,
  fromOrigin: false,
  leadIn: 0,
  loop: 'as it is',
  keys: 'every',
  errorMillimetres: 1,
  interpolation: 'linear',
  withBody: true,
  withCameras: true,
  jointNames: 'own',
  unitsPerMetre: null,
  upAxis: 'y',
};

/** Checks settings that were kept or sent; fields that are not there have their usual values. */
export const bakeSettingsRule = Joi.object<BakeSettings>({
  format: Joi.valid(...BAKE_FORMAT_IDS),
  together: Joi.boolean(),
  spansTogether: Joi.boolean(),
  rate: Joi.number().min(1).max(1000).allow(null),
  travel: Joi.valid('recorded', 'in place'),
  keepFacing: Joi.boolean(),
  fromOrigin: Joi.boolean(),
  leadIn: Joi.number().integer().min(0).max(100_000),
  loop: Joi.valid('as it is', 'drop doubled', 'close'),
  keys: Joi.valid('every', 'reduced'),
  errorMillimetres: Joi.number().min(0.01).max(100),
  interpolation: Joi.valid('linear', 'cubic'),
  withBody: Joi.boolean(),
  withCameras: Joi.boolean(),
  jointNames: Joi.valid('own', 'roles'),
  unitsPerMetre: Joi.number().min(1e-3).max(1e6).allow(null),
  upAxis: Joi.valid('y', 'z'),
});

/** Whether a bake holds the scene's cameras: its format does, and those who perform are where they are in the scene, to their last frame. */
export const holdsCameras = ({ format, withCameras, travel, fromOrigin, loop }: BakeSettings): boolean =>
  withCameras &&
  BAKE_FORMATS[format].holdsCameras &&
  travel === 'recorded' &&
  !fromOrigin &&
  loop === 'as it is';
