import Joi from 'joi';
import { InputError } from '../math/errors';
import type { Scene } from './scene';

const id = Joi.string().pattern(/^[\w.:#@~-]{1,200}$/);
const text = Joi.string().min(1).max(200);
const finite = Joi.number().min(-1e9).max(1e9);
const frame = Joi.number().integer().min(-1e7).max(1e7);

const place = Joi.object({ x: finite.required(), z: finite.required(), heading: finite.required() });
const nudge = Joi.object({ x: finite.required(), z: finite.required(), turn: finite.required() });

const seam = Joi.object({
  fit: Joi.alternatives(
    Joi.valid(
      'planted foot',
      'whole body',
      'hips',
      'left foot',
      'right foot',
      'left hand',
      'right hand',
      'free',
    ),
    Joi.object({ joint: text.required() }),
  ).required(),
  facing: Joi.boolean().required(),
  height: Joi.boolean().required(),
  curve: Joi.valid('smooth', 'linear').required(),
  nudge: nudge.required(),
  settle: Joi.number().integer().min(1).max(10_000).allow(null).required(),
});

const segment = Joi.object({
  id: id.required(),
  name: text.required(),
  clip: id.required(),
  start: frame.required(),
  in: finite.min(0).required(),
  out: finite.greater(Joi.ref('in')).required(),
  repeat: Joi.number().greater(0).max(100_000).required(),
  loop: Joi.boolean().required(),
  speed: Joi.number().greater(0).max(1000).required(),
  length: Joi.number().integer().min(1).max(1e7).allow(null).required(),
  travel: Joi.valid('recorded', 'in place').required(),
  seam: seam.required(),
});

const character = Joi.object({
  id: id.required(),
  name: text.required(),
  body: id.required(),
  hue: Joi.number().integer().min(0).max(7).required(),
  start: place.allow(null).required(),
});

const lane = Joi.object({
  id: id.required(),
  kind: Joi.valid('body').required(),
  character: id.required(),
  segments: Joi.array().items(id).unique().max(100_000).required(),
});

const record = (schema: Joi.Schema): Joi.Schema => Joi.object().pattern(id, schema).required();

const schema = Joi.object({
  format: Joi.valid('warper-scene').required(),
  version: Joi.valid(2).required(),
  name: text.required(),
  rate: Joi.alternatives(Joi.number().greater(0).max(10_000), Joi.string().max(40)).required(),
  characters: record(character),
  characterOrder: Joi.array().items(id).unique().required(),
  lanes: record(lane),
  laneOrder: Joi.array().items(id).unique().required(),
  segments: record(segment),
});

/** The version of scene documents that is written. */
export const SCENE_VERSION = 2;

type Json = Record<string, unknown>;

/** What leads from each older version to the next. */
const MIGRATIONS: Readonly<Record<number, (scene: Json) => Json>> = {
  // 1 knew neither settling seams nor a match of heights.
  1: (scene) => ({
    ...scene,
    version: 2,
    segments: Object.fromEntries(
      Object.entries((scene.segments ?? {}) as Record<string, Json>).map(([id, segment]) => [
        id,
        { ...segment, seam: { ...(segment.seam as Json), settle: null, height: false } },
      ]),
    ),
  }),
};

function migrate(value: unknown): unknown {
  let scene = value;
  for (;;) {
    const version = (scene as { version?: unknown } | null)?.version;
    const step = typeof version === 'number' ? MIGRATIONS[version] : undefined;
    if (!step) return scene;
    scene = step(scene as Json);
  }
}

/**
 * Checks a stored or received scene document, migrating older versions first.
 *
 * @throws InputError `scene` with the path of what is wrong, or `scene-version` for one from a newer program
 */
export function parseScene(value: unknown): Scene {
  const version = (value as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > SCENE_VERSION) {
    throw new InputError(
      'scene-version',
      `The scene is of version ${version}; this program reads up to ${SCENE_VERSION}.`,
      {
        hint: 'Open it with a newer Warper.',
      },
    );
  }
  const { error, value: scene } = schema.validate(migrate(value), { convert: false, abortEarly: true });
  if (error) {
    throw new InputError('scene', `The scene is not valid: ${error.message}.`, {
      place: { path: error.details[0]?.path.join('.') ?? '' },
      hint: 'Export the scene again, or take an earlier copy.',
    });
  }
  checkReferences(scene as Scene);
  return scene as Scene;
}

/** Every id that is named must exist, and be named once. */
function checkReferences(scene: Scene): void {
  const missing = (what: string, path: string): never => {
    throw new InputError('scene', `The scene names ${what}, which it does not have.`, { place: { path } });
  };
  const used = new Set<string>();
  for (const lane of Object.values(scene.lanes)) {
    if (!scene.characters[lane.character])
      missing(`character ${lane.character}`, `lanes.${lane.id}.character`);
    for (const segment of lane.segments) {
      if (!scene.segments[segment] || used.has(segment))
        missing(`segment ${segment}`, `lanes.${lane.id}.segments`);
      used.add(segment);
    }
  }
  for (const c of scene.characterOrder) if (!scene.characters[c]) missing(`character ${c}`, 'characterOrder');
  for (const l of scene.laneOrder) if (!scene.lanes[l]) missing(`lane ${l}`, 'laneOrder');
  for (const s of Object.keys(scene.segments))
    if (!used.has(s)) missing(`a lane for segment ${s}`, `segments.${s}`);
}
