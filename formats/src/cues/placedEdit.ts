import type { ChoiceLimits, Edit, Library, Scene } from '@warper/core';
import { InputError, applyEdit, chooseJoin, defined } from '@warper/core';

/** An edit, and the place in a sheet that asks for it. */
export interface PlacedEdit {
  readonly edit: Edit;
  readonly path: string;
  /** Of the edit that places a beat: what the choice of its join keeps to; null where it is not chosen. */
  readonly choose?: ChoiceLimits | null;
}

/** Where a sheet says what an edit calls otherwise. */
const KEYS: Readonly<Record<string, string>> = { overlap: 'seam.overlap' };

/**
 * A scene after the edits that a sheet asks for. Joins are chosen where they are made, before anything comes behind them, as they
 * are by hand.
 *
 * @throws InputError of the edit that cannot be, with its place in the sheet
 */
export function applyPlaced(scene: Scene, edits: readonly PlacedEdit[], library: Library): Scene {
  let current = scene;
  let first = 0;
  edits.forEach(({ edit, choose }, i) => {
    if (!choose || edit.type !== 'place') return;
    current = applyRun(current, edits.slice(first, i + 1), library);
    const choice = chooseJoin(current, edit.segment.id, library, choose);
    if (choice) current = applyEdit(current, choice.edit, library);
    first = i + 1;
  });
  return applyRun(current, edits.slice(first), library);
}

function applyRun(scene: Scene, edits: readonly PlacedEdit[], library: Library): Scene {
  try {
    return applyEdit(scene, { type: 'several', label: 'sheet', edits: edits.map((e) => e.edit) }, library);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const [, index, rest = ''] = /^edits\.(\d+)\.?(.*)$/.exec(error.place.path ?? '') ?? [];
    const path = index === undefined ? undefined : defined(edits[Number(index)]).path;
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
