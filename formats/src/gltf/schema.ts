import { InputError } from '@warper/core';
import Joi from 'joi';

/** Longest name that is read; longer ones are no names. */
const MOST_NAME = 10_000;

const name = Joi.string().allow('').max(MOST_NAME);
const whole = Joi.number().integer().min(0);
const numbers = (count: number): Joi.ArraySchema => Joi.array().items(Joi.number().required()).length(count);
const indices = Joi.array().items(whole);

/** The members of each list's entries that are read, with their types (glTF 2.0.1, section 5); all others are let be. */
const ENTRIES: Readonly<Record<string, Joi.ObjectSchema>> = {
  scenes: Joi.object({ name, nodes: indices }),
  nodes: Joi.object({
    name,
    children: indices,
    mesh: whole,
    skin: whole,
    camera: whole,
    translation: numbers(3),
    rotation: numbers(4),
    scale: numbers(3),
    matrix: numbers(16),
    weights: Joi.array().items(Joi.number()),
  }),
  skins: Joi.object({ name, joints: indices.min(1).required(), skeleton: whole, inverseBindMatrices: whole }),
  meshes: Joi.object({
    name,
    primitives: Joi.array()
      .items(
        Joi.object({
          attributes: Joi.object().pattern(Joi.string(), whole).required(),
          indices: whole,
          material: whole,
          mode: Joi.number().integer().min(0).max(6),
          targets: Joi.array().items(Joi.object().pattern(Joi.string(), whole)),
        }).unknown(),
      )
      .min(1)
      .required(),
    weights: Joi.array().items(Joi.number()),
  }),
  animations: Joi.object({
    name,
    samplers: Joi.array()
      .items(
        Joi.object({
          input: whole.required(),
          output: whole.required(),
          interpolation: Joi.valid('LINEAR', 'STEP', 'CUBICSPLINE'),
        }).unknown(),
      )
      .required(),
    channels: Joi.array()
      .items(
        Joi.object({
          sampler: whole.required(),
          target: Joi.object({ node: whole, path: Joi.string().required() }).unknown().required(),
        }).unknown(),
      )
      .required(),
  }),
  accessors: Joi.object({
    name,
    bufferView: whole,
    byteOffset: whole,
    componentType: whole.required(),
    normalized: Joi.boolean(),
    count: whole.required(),
    type: Joi.string().required(),
    sparse: Joi.object({
      count: whole.required(),
      indices: Joi.object({
        bufferView: whole.required(),
        byteOffset: whole,
        componentType: whole.required(),
      })
        .unknown()
        .required(),
      values: Joi.object({ bufferView: whole.required(), byteOffset: whole }).unknown().required(),
    }).unknown(),
  }),
  bufferViews: Joi.object({
    name,
    buffer: whole.required(),
    byteOffset: whole,
    byteLength: whole.required(),
    byteStride: Joi.number().integer().min(4).max(252),
  }),
  buffers: Joi.object({ name, uri: Joi.string(), byteLength: whole.required() }),
  images: Joi.object({ name, uri: Joi.string(), mimeType: Joi.string(), bufferView: whole }),
  cameras: Joi.object({ name, type: Joi.string() }),
  materials: Joi.object({ name }),
  textures: Joi.object({ name, sampler: whole, source: whole }),
};

const OPTIONS: Joi.ValidationOptions = {
  convert: false,
  abortEarly: true,
  errors: { wrap: { label: false } },
};

/** Made once: every entry of a file is checked by one of them. */
const RULES = Object.entries(ENTRIES).map(
  ([list, schema]) => [list, schema.unknown().prefs(OPTIONS)] as const,
);

/**
 * Checks the types of what is read of a glTF document: no number where a text belongs, nothing that is not finite.
 *
 * @throws InputError `gltf` with the path of what is wrong
 */
export function checkTypes(json: Readonly<Record<string, unknown>>): void {
  for (const [list, rule] of RULES) {
    const entries = json[list];
    if (entries === undefined) continue;
    if (!Array.isArray(entries)) throw wrong('it is no list', list);
    entries.forEach((entry: unknown, i) => {
      const { error } = rule.validate(entry);
      if (!error) return;
      const path = error.details[0]!.path.map((p) => (typeof p === 'number' ? `[${p}]` : `.${p}`)).join('');
      throw wrong(error.message, `${list}[${i}]${path}`);
    });
  }
}

const wrong = (what: string, path: string): InputError =>
  new InputError('gltf', `The document is not valid: ${what}.`, {
    place: { path },
    hint: 'Export the file again; a glTF validator shows what else is wrong with it.',
  });
