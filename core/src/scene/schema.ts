import Joi from 'joi';
import { InputError } from '../math/errors';
import type { Scene, Segment } from './scene';
import { SETTING_NAMES, settingsText } from './segmentSettings';

const ID = /^[\w.:#@~-]{1,200}$/;
const id = Joi.string().pattern(ID);
/** A list of ids, each once; Joi's own check compares every pair. */
const ids = Joi.array()
  .items(id)
  .max(100_000)
  .required()
  .custom((list: string[], helpers) =>
    new Set(list).size === list.length
      ? list
      : helpers.error('any.custom', { error: new Error('an id comes twice') }),
  );
const text = Joi.string().min(1).max(200);
const finite = Joi.number().min(-1e9).max(1e9);
const frame = Joi.number().integer().min(-1e7).max(1e7);

const place = Joi.object({ x: finite.required(), z: finite.required(), heading: finite.required() });
const nudge = Joi.object({ x: finite.required(), z: finite.required(), turn: finite.required() });

const share = Joi.number().greater(0).less(1).required();

/** Points of a curve from (0, 0) to (1, 1): places grow, values never fall. */
const handles = Joi.array()
  .items(Joi.array().ordered(share, Joi.number().min(0).max(1).required()))
  .max(100)
  .custom((points: [number, number][], helpers) =>
    points.every((p, i) => i === 0 || (p[0] > points[i - 1]![0] && p[1] >= points[i - 1]![1]))
      ? points
      : helpers.error('any.custom', { error: new Error('its points do not rise') }),
  );

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
    Joi.object({ pin: place.required() }),
  ).required(),
  facing: Joi.boolean().required(),
  height: Joi.boolean().required(),
  curve: Joi.alternatives(Joi.valid('smooth', 'linear'), handles).required(),
  nudge: nudge.required(),
  settle: Joi.number().integer().min(1).max(10_000).allow(null).required(),
  inStep: Joi.boolean().required(),
  gap: Joi.valid('hold', 'rest', 'ease').required(),
});

const held = Joi.number().integer().min(0).max(1e6).required();

/** Fastest that a segment may play: a long clip in one frame. */
export const MAX_SPEED = 1e6;

const segment = Joi.object({
  id: id.required(),
  name: text.required(),
  clip: id.required(),
  start: frame.required(),
  in: finite.min(0).required(),
  out: finite.greater(Joi.ref('in')).required(),
  repeat: Joi.number().greater(0).max(100_000).required(),
  loop: Joi.boolean().required(),
  phase: Joi.number().min(0).max(1e7).required(),
  speed: Joi.number().greater(0).max(MAX_SPEED).required(),
  length: Joi.number().integer().min(1).max(1e7).allow(null).required(),
  reverse: Joi.boolean().required(),
  hold: Joi.object({ start: held, end: held }).required(),
  speedCurve: handles.min(1).allow(null).required(),
  mirror: Joi.boolean().required(),
  travel: Joi.valid('recorded', 'in place', 'restored', 'scaled', 'path').required(),
  holdFacing: Joi.boolean().required(),
  straighten: Joi.boolean().required(),
  lift: Joi.number().min(-100).max(100).required(),
  off: Joi.boolean().required(),
  path: Joi.array().items(Joi.array().ordered(finite.required(), finite.required())).max(10_000).required(),
  marks: Joi.array()
    .items(
      Joi.object({
        frame: frame.min(1).required(),
        x: finite.required(),
        z: finite.required(),
        heading: finite.required(),
      }),
    )
    .max(1000)
    .custom((marks: { frame: number }[], helpers) =>
      marks.every((m, i) => i === 0 || m.frame > marks[i - 1]!.frame)
        ? marks
        : helpers.error('any.custom', { error: new Error('its marks are not in order of frames') }),
    )
    .required(),
  fade: Joi.object({ in: held, out: held }).required(),
  seam: seam.required(),
});

const character = Joi.object({
  id: id.required(),
  name: text.required(),
  body: id.required(),
  hue: Joi.number().integer().min(0).max(7).required(),
  start: place.allow(null).required(),
  footLock: Joi.boolean().required(),
  size: Joi.number().min(0.01).max(100).required(),
  leadIn: Joi.number().integer().min(0).max(100_000).required(),
  shown: Joi.valid('mesh', 'bones', 'both', 'nothing').required(),
  folded: Joi.boolean().required(),
});

const span = Joi.object({ from: frame.required(), to: frame.greater(Joi.ref('from')).required() });

const marker = Joi.object({
  id: id.required(),
  name: text.required(),
  frame: frame.required(),
  end: frame.greater(Joi.ref('frame')).allow(null).required(),
});

const group = Joi.object({
  id: id.required(),
  name: text.required(),
  members: ids,
  folded: Joi.boolean().required(),
  muted: Joi.boolean().required(),
});

const laneState = {
  muted: Joi.boolean().required(),
  solo: Joi.boolean().required(),
  locked: Joi.boolean().required(),
  hidden: Joi.boolean().required(),
};

const poseKey = Joi.object({
  frame: frame.required(),
  rotation: Joi.array().items(Joi.number().min(-1.01).max(1.01)).length(4).required(),
  curve: Joi.valid('hold', 'linear', 'smooth').required(),
  tangent: Joi.array().items(finite).length(3).allow(null).required(),
});

const weight = Joi.number().min(0).max(1).required();

const lane = Joi.alternatives().conditional(Joi.object({ kind: Joi.valid('layer').required() }).unknown(), {
  then: Joi.object({
    ...laneState,
    id: id.required(),
    kind: Joi.valid('layer').required(),
    character: id.required(),
    name: text.required(),
    blend: Joi.valid('override', 'additive').required(),
    mask: Joi.array()
      .items(Joi.object({ bone: text.required(), weight }))
      .max(5000)
      .required(),
    softness: Joi.number().integer().min(0).max(100).required(),
    weight: Joi.array().items(Joi.array().ordered(finite.required(), weight)).max(10_000).required(),
    reference: Joi.alternatives(Joi.valid('first', 'rest'), Joi.number().min(0).max(1e7)).required(),
    segments: ids,
    keys: Joi.object().pattern(Joi.string().max(200), Joi.array().items(poseKey).max(100_000)).required(),
  }),
  otherwise: Joi.object({
    ...laneState,
    id: id.required(),
    kind: Joi.valid('body').required(),
    character: id.required(),
    segments: ids,
  }),
});

const record = (schema: Joi.Schema): Joi.Schema => Joi.object().pattern(id, schema).required();

const schema = Joi.object({
  format: Joi.valid('warper-scene').required(),
  version: Joi.valid(4).required(),
  name: text.required(),
  rate: Joi.alternatives(Joi.number().greater(0).max(10_000), Joi.string().max(40)).required(),
  characters: record(character),
  characterOrder: ids,
  lanes: record(lane),
  laneOrder: ids,
  segments: Joi.object().pattern(id, Joi.object()).required(),
  steps: record(
    Joi.object().pattern(
      Joi.string().max(200),
      Joi.array()
        .items(Joi.array().ordered(held, Joi.number().integer().min(1).max(1e7).required()))
        .max(100_000),
    ),
  ),
  groups: record(group),
  markers: Joi.array().items(marker).max(10_000).required(),
  range: span.allow(null).required(),
});

/** The version of scene documents that is written. */
export const SCENE_VERSION = 4;

type Json = Record<string, unknown>;

/** What leads from each older version to the next. */
const MIGRATIONS: Readonly<Record<number, (scene: Json) => Json>> = {
  // 1 knew neither settling seams nor a match of heights.
  1: (scene) => ({
    ...scene,
    version: 2,
    segments: mapRecord(scene.segments, (segment) => ({
      ...segment,
      seam: { ...(segment.seam as Json), settle: null, height: false },
    })),
  }),
  // 2 had body lanes only, and segments that play forwards and evenly.
  2: (scene) => ({
    ...scene,
    version: 3,
    steps: {},
    characters: mapRecord(scene.characters, (character) => ({ ...character, footLock: false })),
    segments: mapRecord(scene.segments, (segment) => ({
      reverse: false,
      hold: { start: 0, end: 0 },
      speedCurve: null,
      mirror: false,
      holdFacing: false,
      straighten: false,
      path: [],
      marks: [],
      fade: { in: 0, out: 0 },
      ...segment,
      seam: { ...(segment.seam as Json), inStep: false },
    })),
  }),
  // 3 had neither groups nor markers, and treated all lanes and characters alike.
  3: (scene) => ({
    ...scene,
    version: 4,
    groups: {},
    markers: [],
    range: null,
    characters: mapRecord(scene.characters, (character) => ({
      ...character,
      size: 1,
      leadIn: 0,
      shown: 'mesh',
      folded: false,
    })),
    lanes: mapRecord(scene.lanes, (lane) => ({
      ...lane,
      muted: false,
      solo: false,
      locked: false,
      hidden: false,
    })),
    segments: mapRecord(scene.segments, (segment) => ({
      ...segment,
      phase: 0,
      lift: 0,
      off: false,
      seam: { ...(segment.seam as Json), gap: 'hold' },
    })),
  }),
};

const mapRecord = (record: unknown, change: (entry: Json) => Json): Record<string, Json> =>
  Object.fromEntries(
    Object.entries((record ?? {}) as Record<string, Json>).map(([id, entry]) => [id, change(entry)]),
  );

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
  if (typeof value !== 'object' || value === null)
    throw new InputError('scene', 'What is kept here is no scene.', {
      hint: 'Export the scene again, or take an earlier copy.',
    });
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
  const scene = migrate(value);
  const { error } = schema.validate(scene, { convert: false, abortEarly: true });
  if (error) throw invalid(error, []);
  checkSegments((scene as Scene).segments);
  checkReferences(scene as Scene);
  return scene as Scene;
}

function invalid(error: Joi.ValidationError, above: readonly string[]): InputError {
  const path = [...above, ...(error.details[0]?.path ?? [])].join('.');
  return new InputError('scene', `The scene is not valid: ${error.message}.`, {
    place: { path },
    hint: 'Export the scene again, or take an earlier copy.',
  });
}

/** Fields of a segment: its settings, and those that tell it from others. */
const FIELDS = SETTING_NAMES.length + 4;

const isRecord = (value: unknown): value is Segment => typeof value === 'object' && value !== null;

const isId = (value: unknown): boolean => typeof value === 'string' && ID.test(value);

/** Whether what tells a segment from others is as it should be; see `segment`. */
const hasNames = ({ id, name, clip, start }: Segment): boolean =>
  isId(id) &&
  isId(clip) &&
  typeof name === 'string' &&
  name.length >= 1 &&
  name.length <= 200 &&
  Number.isSafeInteger(start) &&
  Math.abs(start) <= 1e7;

/**
 * Checks one segment by itself.
 *
 * @throws InputError `scene` with the path of what is wrong
 */
export function checkSegment(value: unknown, path: readonly string[]): asserts value is Segment {
  const { error } = segment.validate(value, { convert: false, abortEarly: true });
  if (error) throw invalid(error, path);
}

/** Checks the segments one by one; a long scene has thousands, most of them alike. */
function checkSegments(segments: Scene['segments']): void {
  /** Contents that were found to be valid. */
  const sound = new Set<string>();
  for (const [key, value] of Object.entries(segments)) {
    const content = isRecord(value) ? settingsText(value) : '';
    if (sound.has(content) && hasNames(value) && Object.keys(value).length === FIELDS) continue;
    const { error } = segment.validate(value, { convert: false, abortEarly: true });
    if (error) throw invalid(error, ['segments', key]);
    sound.add(content);
  }
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
  const grouped = new Set<string>();
  for (const group of Object.values(scene.groups))
    for (const member of group.members) {
      if ((!scene.segments[member] && !scene.groups[member]) || grouped.has(member))
        missing(`${member} once`, `groups.${group.id}.members`);
      grouped.add(member);
      let above: string | undefined = group.id;
      for (let depth = 0; above !== undefined; depth++) {
        if (above === member || depth > 1000)
          missing(`group ${member} within itself`, `groups.${group.id}.members`);
        const inner: string = above;
        above = Object.values(scene.groups).find((g) => g.members.includes(inner))?.id;
      }
    }
  for (const s of Object.keys(scene.segments))
    if (!used.has(s)) missing(`a lane for segment ${s}`, `segments.${s}`);
}
