import { dirname, resolve } from 'node:path';
import { readFileSync } from 'node:fs';
import type { Plan, Scene } from '@warper/core';
import { InputError, compile } from '@warper/core';
import type { MotionLibrary } from '@warper/formats';
import { assembleCues, detectKind, parseCueSheet, readSceneFile } from '@warper/formats';
import { besideSheet, readInput } from './paths';

/** A scene, its library and its plan. */
export interface Opened {
  readonly scene: Scene;
  readonly library: MotionLibrary;
  readonly plan: Plan;
}

/** Opens a scene file or a cue sheet, whichever it is. */
export async function openScene(path: string): Promise<Opened> {
  const bytes = await readInput(path);
  const opened =
    detectKind(bytes) === 'zip' ? await readSceneFile(bytes, path) : await assembleSheet(bytes, path);
  return { ...opened, plan: compile(opened.scene, opened.library) };
}

async function assembleSheet(bytes: Uint8Array, path: string): ReturnType<typeof assembleCues> {
  try {
    return await assembleCues(readSheet(bytes, path), besideSheet(path));
  } catch (error) {
    throw error instanceof InputError ? error.at({ file: path }) : error;
  }
}

/** Reads a cue sheet's text. */
export function readSheet(bytes: Uint8Array, path: string): ReturnType<typeof parseCueSheet> {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(bytes));
  } catch (cause) {
    throw new InputError('json', `This is no cue sheet: ${(cause as Error).message}.`, {
      place: { file: path },
      cause,
    });
  }
  return parseCueSheet(value);
}

/** Finds files that lie beside a .gltf given on the command line. */
export function besideFile(path: string): (uri: string) => Uint8Array | undefined {
  const folder = dirname(resolve(path));
  return (uri) => {
    if (/^[a-z]+:|^\/|\\|\.\.|\0/i.test(uri)) return undefined;
    try {
      return new Uint8Array(readFileSync(resolve(folder, uri)));
    } catch {
      return undefined;
    }
  };
}
