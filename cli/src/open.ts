import { dirname, resolve } from 'node:path';
import { readFileSync, realpathSync, statSync } from 'node:fs';
import type { Plan, RoleMap, Scene } from '@warper/core';
import { InputError, alternatesOf, compile, versionOf } from '@warper/core';
import {
  MotionLibrary,
  assembleCues,
  detectFile,
  isOtio,
  otioCues,
  parseBoneMap,
  parseCueSheet,
  readSceneFile,
} from '@warper/formats';
import { besideSheet, isInside, readInput } from './paths';

/** A scene, its library and its plan. */
export interface Opened {
  readonly scene: Scene;
  readonly library: MotionLibrary;
  readonly plan: Plan;
}

/** Opens a scene file or a cue sheet, whichever it is. */
export async function openScene(path: string, options: OpenOptions = {}): Promise<Opened> {
  const bytes = await readInput(path);
  const isScene = (await detectFile(bytes)).kind === 'zip';
  if (isScene && options.map) {
    throw new InputError('bone-map', 'A scene file keeps the bone map with which it was laid out.', {
      place: { file: path },
      hint: 'Give --map with the cue sheet.',
    });
  }
  if (isScene && options.auto) {
    throw new InputError('auto', 'A scene file keeps its joins as they were set or chosen.', {
      place: { file: path },
      hint: 'Give --auto with the cue sheet.',
    });
  }
  const { scene: read, library } = isScene
    ? await readSceneFile(bytes, path)
    : await assembleSheet(bytes, path, await readMap(options.map), options.auto ?? false);
  const version = options.alternate === undefined ? read : namedAlternate(read, options.alternate, path);
  const scene = options.footLock ? withFootLock(version) : version;
  return { scene, library, plan: compile(scene, library) };
}

/** Another scene of the same library. */
export const reopened = ({ library }: Opened, scene: Scene): Opened => ({
  scene,
  library,
  plan: compile(scene, library),
});

/** The files that a command has read: what was named, the bone map, and what lies beside a sheet. */
export const inputsOf = ({ library }: Opened, named: string, map: string | undefined): string[] => [
  named,
  ...(map === undefined ? [] : [map]),
  ...library.sources().map((s) => resolve(dirname(named), s.file)),
];

/** How a scene is opened. */
export interface OpenOptions {
  /** A file with the user's own roles of joints. */
  readonly map?: string;
  /** Chooses the joins of a sheet by what they measure, as if it said so. */
  readonly auto?: boolean;
  /** Holds the planted feet of every character. */
  readonly footLock?: boolean;
  /** The name of the alternate to take; the one in hand without. */
  readonly alternate?: string;
}

/** An alternate of a scene, by its name, as a scene that is called after both. */
function namedAlternate(scene: Scene, name: string, file: string): Scene {
  const alternates = alternatesOf(scene);
  const found = alternates.find((a) => a.name === name);
  if (!found) {
    const names = alternates.map((a) => `"${a.name}"`).join(', ');
    throw new InputError('no-alternate', `The scene has no alternate "${name}".`, {
      place: { file },
      hint: names ? `It has ${names}.` : 'It has none: leave --alternate out.',
    });
  }
  return { ...versionOf(scene, found), name: `${scene.name} ${name}`.slice(0, 200) };
}

const withFootLock = (scene: Scene): Scene => ({
  ...scene,
  characters: Object.fromEntries(
    Object.entries(scene.characters).map(([id, c]) => [id, { ...c, footLock: true }]),
  ),
});

/** Reads a bone map, where one was asked for. */
export async function readMap(path: string | undefined): Promise<RoleMap | undefined> {
  if (path === undefined) return undefined;
  try {
    return parseBoneMap(readJson(await readInput(path), path));
  } catch (error) {
    throw error instanceof InputError ? error.at({ file: path }) : error;
  }
}

async function assembleSheet(
  bytes: Uint8Array,
  path: string,
  map: RoleMap | undefined,
  auto: boolean,
): ReturnType<typeof assembleCues> {
  try {
    const sheet = readSheet(bytes, path);
    const asked = auto ? { ...sheet, seams: 'auto' as const } : sheet;
    return await assembleCues(asked, besideSheet(path), new MotionLibrary(map));
  } catch (error) {
    throw error instanceof InputError ? error.at({ file: path }) : error;
  }
}

/** Reads a cue sheet, or a timeline of OpenTimelineIO as one. */
function readSheet(bytes: Uint8Array, path: string): ReturnType<typeof parseCueSheet> {
  const value = readJson(bytes, path);
  return isOtio(value) ? otioCues(value) : parseCueSheet(value);
}

function readJson(bytes: Uint8Array, path: string): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch (cause) {
    throw new InputError('json', `This is no JSON: ${(cause as Error).message}.`, {
      place: { file: path },
      cause,
    });
  }
}

/** Finds files that lie beside a .gltf given on the command line. */
export function besideFile(path: string): (uri: string) => Uint8Array | undefined {
  const folder = dirname(resolve(path));
  return (uri) => {
    if (/^[a-z]+:|^\/|\\|\.\.|\0/i.test(uri)) return undefined;
    try {
      // A link may lead out of the folder where its name does not.
      const real = realpathSync(resolve(folder, uri));
      if (!isInside(realpathSync(folder), real) || !statSync(real).isFile()) return undefined;
      return new Uint8Array(readFileSync(real));
    } catch {
      return undefined;
    }
  };
}
