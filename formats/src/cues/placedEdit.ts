import type { Edit, Library, Scene } from '@warper/core';
import { InputError, applyEdit } from '@warper/core';

/** An edit, and the place in a sheet that asks for it. */
export interface PlacedEdit {
  readonly edit: Edit;
  readonly path: string;
}

/** Where a sheet says what an edit calls otherwise. */
const KEYS: Readonly<Record<string, string>> = { overlap: 'seam.overlap' };

/**
 * A scene after the edits that a sheet asks for.
 *
 * @throws InputError of the edit that cannot be, with its place in the sheet
 */
export function applyPlaced(scene: Scene, edits: readonly PlacedEdit[], library: Library): Scene {
  try {
    return applyEdit(scene, { type: 'several', label: 'sheet', edits: edits.map((e) => e.edit) }, library);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const [, index, rest = ''] = /^edits\.(\d+)\.?(.*)$/.exec(error.place.path ?? '') ?? [];
    const path = edits[Number(index)]?.path;
    if (path === undefined) throw error;
    const { code, message, hint, cause, place } = error;
    const key = KEYS[rest] ?? rest;
    throw new InputError(code, message, {
      place: { ...place, path: [path, ...(key ? [key] : [])].join('.') },
      hint,
      cause,
    });
  }
}
