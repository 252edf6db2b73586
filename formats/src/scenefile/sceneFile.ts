import type { RoleMap, Scene } from '@warper/core';
import { InputError, MOST_SOUND_SECONDS, QUADRUPED_ROLES, ROLES, parseScene, versionsOf } from '@warper/core';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import Joi from 'joi';
import { hashBytes, sourceOfId } from '../hash';
import { MotionLibrary } from '../library';
import type { SoundFile } from '../sound/soundFile';

/**
 * The scene file (`.warper`): a zip of `scene.json`, `sources.json`, of a scene with sounds `sounds.json`, and the source and sound files as they
 * came, under `files/<content hash>`. See docs/scene-file.md.
 */

const SCENE = 'scene.json';
const SOURCES = 'sources.json';
const SOUNDS = 'sounds.json';
/** Any fixed time: the same scene gives the same bytes. */
const STAMP = new Date('2000-01-01T00:00:00');
/** Most bytes that a scene file may unpack to. */
const MOST_BYTES = 2 ** 31;
/** Motion packs to a fifth or so; what unpacks to more than this many times its size, and more than so much, is no motion. */
const MOST_TIMES = 100;
const SMALL_BYTES = 64 * 2 ** 20;

const roleMap = Joi.object().pattern(Joi.string().max(200), Joi.valid(...ROLES, ...QUADRUPED_ROLES, null));

const sourcesSchema = Joi.array()
  .items(
    Joi.object({
      id: Joi.string().max(200).required(),
      file: Joi.string().max(1000).required(),
      hash: Joi.string().hex().max(100).required(),
      scale: Joi.number().greater(0),
      roles: roleMap,
      mapped: roleMap,
    }),
  )
  .max(100_000);

/** Ids of the sources that a scene uses, in whichever alternate. */
export function sourcesOfScene(scene: Scene): Set<string> {
  const ids = new Set<string>();
  for (const { characters, segments } of versionsOf(scene)) {
    for (const character of Object.values(characters)) ids.add(sourceOfId(character.body));
    for (const segment of Object.values(segments)) ids.add(sourceOfId(segment.clip));
  }
  return ids;
}

/** What the list of sounds says of one. */
type ListedSound = Omit<SoundFile, 'bytes'>;

const soundsSchema = Joi.array()
  .items(
    Joi.object({
      id: Joi.string().hex().max(100).required(),
      file: Joi.string().max(1000).required(),
      type: Joi.string().max(100).required(),
      seconds: Joi.number().greater(0).max(MOST_SOUND_SECONDS).required(),
    }),
  )
  .max(100_000);

/** Ids of the sound files that a scene uses, in whichever alternate. */
export const soundsOfScene = (scene: Scene): Set<string> =>
  new Set(versionsOf(scene).flatMap(({ sounds }) => Object.values(sounds).map((s) => s.source)));

/** Packs a scene with the files that it uses; the same scene and files give the same bytes. */
export function writeSceneFile(scene: Scene, library: MotionLibrary): Uint8Array {
  const used = sourcesOfScene(scene);
  const sources = library.sources().filter((s) => used.has(s.imported.source));
  const entries: Record<string, Uint8Array> = {
    [SCENE]: strToU8(JSON.stringify(scene, null, 1)),
    [SOURCES]: strToU8(
      JSON.stringify(
        sources.map((s) => ({
          id: s.imported.source,
          file: s.file,
          hash: hashBytes(s.bytes),
          ...(s.scale === undefined ? {} : { scale: s.scale }),
          ...(s.roles === undefined ? {} : { roles: s.roles }),
          ...(s.imported.mapped === undefined ? {} : { mapped: s.imported.mapped }),
        })),
        null,
        1,
      ),
    ),
  };
  for (const source of sources) entries[`files/${hashBytes(source.bytes)}`] = source.bytes;
  const heard = soundsOfScene(scene);
  const sounds = library.sounds().filter((s) => heard.has(s.id));
  if (sounds.length > 0)
    entries[SOUNDS] = strToU8(
      JSON.stringify(
        sounds.map(({ bytes: _bytes, ...listed }): ListedSound => listed),
        null,
        1,
      ),
    );
  for (const { id, bytes } of sounds) entries[`files/${id}`] = bytes;
  return zipSync(entries, { level: 6, mtime: STAMP });
}

/**
 * Unpacks a scene file and reads the files in it.
 *
 * @throws InputError `scene-file` where it is damaged or a file in it is missing or changed
 */
export async function readSceneFile(
  bytes: Uint8Array,
  file: string,
): Promise<{ scene: Scene; library: MotionLibrary }> {
  const entries = unzip(bytes, file);
  const scene = parseScene(parseEntry(entries, SCENE, file));
  const { error, value } = sourcesSchema.validate(parseEntry(entries, SOURCES, file), { convert: false });
  if (error)
    throw new InputError('scene-file', `Its list of files is not valid: ${error.message}.`, {
      place: { file, path: SOURCES },
    });
  const library = new MotionLibrary();
  for (const entry of value as {
    id: string;
    file: string;
    hash: string;
    scale?: number;
    roles?: RoleMap;
    mapped?: RoleMap;
  }[]) {
    const content = contentIn(entries, entry.hash, entry.file, file);
    const { mapped } = entry;
    await library.add(
      content,
      entry.file,
      entry.scale,
      undefined,
      entry.roles,
      mapped && ((): RoleMap => mapped),
    );
  }
  for (const listed of listedSounds(entries, file))
    library.keepSound({ ...listed, bytes: contentIn(entries, listed.id, listed.file, file) });
  return { scene, library };
}

/** The sounds that are listed; scene files from before there were any have no list. */
function listedSounds(entries: Record<string, Uint8Array>, file: string): ListedSound[] {
  if (!entries[SOUNDS]) return [];
  const { error, value } = soundsSchema.validate(parseEntry(entries, SOUNDS, file), { convert: false });
  if (error)
    throw new InputError('scene-file', `Its list of sounds is not valid: ${error.message}.`, {
      place: { file, path: SOUNDS },
    });
  return value as ListedSound[];
}

/** A file in the scene file, by its hash. */
function contentIn(
  entries: Record<string, Uint8Array>,
  hash: string,
  name: string,
  file: string,
): Uint8Array {
  const content = entries[`files/${hash}`];
  if (!content || hashBytes(content) !== hash)
    throw new InputError('scene-file', `The file ${name} in it is ${content ? 'damaged' : 'missing'}.`, {
      place: { file },
      hint: 'Export the scene again.',
    });
  return content;
}

function unzip(bytes: Uint8Array, file: string): Record<string, Uint8Array> {
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter: (entry) => {
        total += entry.originalSize;
        if (total > MOST_BYTES) throw new RangeError('it unpacks to more than 2 GiB');
        if (total > SMALL_BYTES && total > MOST_TIMES * bytes.length)
          throw new RangeError(`it unpacks to ${Math.round(total / bytes.length)} times its size`);
        return [SCENE, SOURCES, SOUNDS].includes(entry.name) || /^files\/[0-9a-f]+$/.test(entry.name);
      },
    });
  } catch (cause) {
    throw new InputError(
      'scene-file',
      `This is no scene file that can be read: ${(cause as Error).message}.`,
      {
        place: { file },
        hint: 'The file is damaged or cut short; export or copy it again.',
        cause,
      },
    );
  }
}

function parseEntry(entries: Record<string, Uint8Array>, name: string, file: string): unknown {
  const entry = entries[name];
  if (!entry)
    throw new InputError('scene-file', `It has no ${name}, so it is no scene file.`, { place: { file } });
  try {
    return JSON.parse(strFromU8(entry));
  } catch (cause) {
    throw new InputError('scene-file', `${name} in it cannot be read: ${(cause as Error).message}.`, {
      place: { file },
      cause,
    });
  }
}
