import { readFile } from 'node:fs/promises';
import type { ClipUse } from '@warper/core';
import { CLIP_SCENE_CHARACTER, InputError, bakeSteps, clipScene, compile, defined } from '@warper/core';
import type { ListedBody, ListedClip, Preview } from '@warper/formats';
import { MotionLibrary, clipPreview, listBody, listClip, readMotionFile, writeMotion } from '@warper/formats';

/** A file that was read and measured. */
export interface Measured {
  readonly source: string;
  readonly clips: readonly ListedClip[];
  readonly bodies: readonly ListedBody[];
  readonly previews: readonly (Preview & { readonly id: string })[];
}

/** A file, and the name that it has in the library. */
export interface FileAt {
  readonly path: string;
  readonly name: string;
}

/** A clip that is to be prepared for use elsewhere. */
export interface Preparation {
  readonly clipFile: FileAt;
  readonly clip: string;
  /** The body that it is to move, and the file which that is in; null leaves it on its own. */
  readonly body: { readonly file: FileAt; readonly id: string } | null;
  readonly use: ClipUse;
  /** Samples a second; null keeps the clip's own. */
  readonly rate: number | null;
  readonly withMesh: boolean;
  readonly format: 'bvh' | 'glb';
}

/** The long work of the library, wherever it is done. */
export interface LibraryWork {
  measure(file: FileAt): Promise<Measured>;
  prepare(what: Preparation): Promise<Uint8Array>;
  close(): Promise<void>;
}

/**
 * Reads and measures a file.
 *
 * @throws InputError where it is damaged or holds no motion
 */
export async function measure({ path, name }: FileAt): Promise<Measured> {
  const { source, clips, bodies } = await readMotionFile(new Uint8Array(await readFile(path)), name);
  return {
    source,
    clips: clips.map((clip) => listClip(clip, source, name)),
    bodies: bodies.map((body) => listBody(body, source)),
    previews: clips.map((clip) => ({ id: clip.id, ...clipPreview(clip) })),
  };
}

/**
 * Bakes a clip by itself as it is asked for, and writes it.
 *
 * @throws InputError where the clip does not fit the body, or its part is empty
 */
export async function prepare(what: Preparation): Promise<Uint8Array> {
  const library = new MotionLibrary();
  for (const file of new Set([what.clipFile, what.body?.file])) {
    if (file) await library.add(new Uint8Array(await readFile(file.path)), file.name);
  }
  const clip = library.clip(what.clip);
  if (!clip) throw new InputError('changed', 'The file has changed, and no longer has this clip.');
  const { in: from = 0, out = clip.frames } = what.use;
  if (!(from < out) || out > clip.frames)
    throw new InputError(
      'part',
      `The clip has samples 0 to ${clip.frames}; ${from} to ${out} is no part of it.`,
    );
  const body = what.body?.id ?? library.bodyOfClip(clip).id;
  const plan = compile(clipScene(clip, body, what.use), library);
  const character = defined(plan.characters.find((c) => c.character.id === CLIP_SCENE_CHARACTER));
  const steps = bakeSteps(character, plan.rate, what.rate === null ? {} : { rate: what.rate });
  let step = steps.next();
  while (!step.done) step = steps.next();
  const entry = defined(library.bodyEntry(body));
  return writeMotion(step.value, {
    format: what.format,
    body: entry.body,
    bytes: entry.source.bytes,
    withMesh: what.withMesh,
  });
}

/** Does the work where it is asked for, one after the other. */
export const workHere: LibraryWork = { measure, prepare, close: async () => undefined };
