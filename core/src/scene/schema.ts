import type Joi from 'joi';
import { InputError } from '../math/errors';
import { schemaOf } from './fields';
import { migrate } from './migrate';
import { ID } from './rules';
import { MOST_ALTERNATES } from './alternate';
import type { Scene } from './scene';
import { SCENE_FIELDS, SCENE_VERSION } from './scene';
import type { Segment } from './segment';
import { SEGMENT_FIELDS, segmentSchema, settingsText } from './segment';
import { shotsInOrder } from './shot';
import { findRing, ringMessage } from './tether';
import { versionOf } from './versions';

const sceneSchema = schemaOf(SCENE_FIELDS);

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
  checkScene(scene);
  checkAlternates(scene);
  return scene;
}

/**
 * Checks a scene of this version, but not its alternates.
 *
 * @throws InputError `scene` with the path of what is wrong
 */
export function checkScene(scene: unknown): asserts scene is Scene {
  const { error } = sceneSchema.validate(scene, { convert: false, abortEarly: true });
  if (error) throw invalid(error, []);
  checkSegments((scene as Scene).segments);
  checkReferences(scene as Scene);
}

/** Every alternate is a scene that could be in hand, and one of them is. */
function checkAlternates(scene: Scene): void {
  const { alternates, alternateOrder } = scene;
  const all = Object.entries(alternates);
  const refuse = (message: string, path: string): never => {
    throw new InputError('scene', message, {
      place: { path },
      hint: 'Export the scene again, or take an earlier copy.',
    });
  };
  if (all.length > MOST_ALTERNATES)
    refuse(`The scene has ${all.length} alternates; ${MOST_ALTERNATES} are the most.`, 'alternates');
  const isListed = all.length === alternateOrder.length && alternateOrder.every((id) => alternates[id]);
  if (!isListed) refuse('The order of alternates does not list each of them once.', 'alternateOrder');
  if (all.length > 0 && all.filter(([, a]) => a.differences === null).length !== 1)
    refuse('One alternate, and no other, is the scene in hand.', 'alternates');
  for (const [key, alternate] of all) {
    if (alternate.id !== key)
      refuse(`Alternate ${alternate.id} is kept under another id.`, `alternates.${key}`);
    if (!alternate.differences) continue;
    try {
      checkScene(versionOf(scene, alternate));
    } catch (error) {
      const why =
        error instanceof InputError ? `${error.message} (${error.place.path ?? ''})` : 'they fit no scene.';
      refuse(
        `The differences of the alternate ${alternate.name} cannot be: ${why}`,
        `alternates.${key}.differences`,
      );
    }
  }
}

function invalid(error: Joi.ValidationError, above: readonly string[]): InputError {
  const path = [...above, ...(error.details[0]?.path ?? [])].join('.');
  return new InputError('scene', `The scene is not valid: ${error.message}.`, {
    place: { path },
    hint: 'Export the scene again, or take an earlier copy.',
  });
}

/** How many fields a segment has. */
const FIELDS = Object.keys(SEGMENT_FIELDS).length;

const isSegment = (value: unknown): value is Segment => typeof value === 'object' && value !== null;

const isId = (value: unknown): boolean => typeof value === 'string' && ID.test(value);

/** Whether what tells a segment from others is as it should be; see `segmentSchema`. */
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
  const { error } = segmentSchema.validate(value, { convert: false, abortEarly: true });
  if (error) throw invalid(error, path);
}

/** Checks the segments one by one; a long scene has thousands, most of them alike. */
function checkSegments(segments: Scene['segments']): void {
  /** Contents that were found to be valid. */
  const sound = new Set<string>();
  for (const [key, value] of Object.entries(segments)) {
    const content = isSegment(value) ? settingsText(value) : '';
    if (sound.has(content) && hasNames(value) && Object.keys(value).length === FIELDS) continue;
    const { error } = segmentSchema.validate(value, { convert: false, abortEarly: true });
    if (error) throw invalid(error, ['segments', key]);
    sound.add(content);
  }
}

/** Every id that is named must exist, and be named once. */
function checkReferences(scene: Scene): void {
  const refuse = (message: string, path: string): never => {
    throw new InputError('scene', message, { place: { path } });
  };
  const missing = (what: string, path: string): never =>
    refuse(`The scene names ${what}, which it does not have.`, path);
  const used = new Set<string>();
  for (const lane of Object.values(scene.lanes)) {
    if (!scene.characters[lane.character])
      missing(`character ${lane.character}`, `lanes.${lane.id}.character`);
    if (lane.kind === 'layer' && lane.look && 'character' in lane.look.at) {
      const { character } = lane.look.at;
      if (!scene.characters[character]) missing(`character ${character}`, `lanes.${lane.id}.look`);
    }
    for (const segment of lane.segments) {
      if (!scene.segments[segment] || used.has(segment))
        missing(`segment ${segment}`, `lanes.${lane.id}.segments`);
      used.add(segment);
    }
  }
  for (const { id, name, child, parent } of Object.values(scene.tethers)) {
    for (const character of [child, parent])
      if (!scene.characters[character]) missing(`character ${character}`, `tethers.${id}`);
    if (child === parent) refuse(`The tether ${name} holds something to itself.`, `tethers.${id}`);
  }
  checkCameras(scene, refuse, missing);
  checkSounds(scene, refuse, missing);
  const ring = findRing(scene.tethers);
  if (ring) refuse(ringMessage(scene, ring), 'tethers');
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

/** Cameras follow, look at and keep those who are there; shots have cameras, and no two of them share a frame. */
function checkCameras(
  { characters, cameras, cameraOrder, shots }: Scene,
  refuse: (message: string, path: string) => never,
  missing: (what: string, path: string) => never,
): void {
  for (const { id, follow, look, keep } of Object.values(cameras)) {
    for (const one of [follow, look, keep])
      if (one && !characters[one.character]) missing(`character ${one.character}`, `cameras.${id}`);
    if (!cameraOrder.includes(id)) refuse(`Camera ${id} is not in the order of cameras.`, 'cameraOrder');
  }
  for (const c of cameraOrder) if (!cameras[c]) missing(`camera ${c}`, 'cameraOrder');
  shotsInOrder(shots).forEach(({ id, camera, end, name }, i, all) => {
    if (!cameras[camera]) missing(`camera ${camera}`, `shots.${id}.camera`);
    const next = all[i + 1];
    if (next && next.start < end)
      refuse(`The shots ${name} and ${next.name} overlap at frame ${next.start}.`, `shots.${next.id}`);
  });
}

/** Sounds are on lanes that are there; lanes make the steps of those heard who are there. */
function checkSounds(
  { characters, sounds, soundLanes, soundLaneOrder }: Scene,
  refuse: (message: string, path: string) => never,
  missing: (what: string, path: string) => never,
): void {
  for (const { id, lane } of Object.values(sounds))
    if (!soundLanes[lane]) missing(`sound lane ${lane}`, `sounds.${id}.lane`);
  for (const { id, steps } of Object.values(soundLanes)) {
    if (steps && !characters[steps.character])
      missing(`character ${steps.character}`, `soundLanes.${id}.steps`);
    if (!soundLaneOrder.includes(id))
      refuse(`Sound lane ${id} is not in the order of sound lanes.`, 'soundLaneOrder');
  }
  for (const l of soundLaneOrder) if (!soundLanes[l]) missing(`sound lane ${l}`, 'soundLaneOrder');
}
