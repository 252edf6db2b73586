import type { ChoiceLimits, Edit, Scene } from '@warper/core';
import { InputError, applyEdit, chooseJoin, defined, findBridges, matchJoin } from '@warper/core';
import type { MotionLibrary } from '../library';

/** An edit, and the place in a sheet that asks for it. */
export interface PlacedEdit {
  readonly edit: Edit;
  readonly path: string;
  /** Of the edit that places a beat: what the choice of its join keeps to; null where it is not chosen. */
  readonly choose?: ChoiceLimits | null;
  /** Of the edit that places a beat: frames within which both sides of its join are trimmed to their best match. */
  readonly match?: number;
}

/** Where a sheet says what an edit calls otherwise. */
const KEYS: Readonly<Record<string, string>> = { overlap: 'seam.overlap' };

/**
 * A scene after the edits that a sheet asks for. Joins are chosen where they are made, before anything comes behind them, as they
 * are by hand.
 *
 * @throws InputError of the edit that cannot be, with its place in the sheet
 */
export function applyPlaced(scene: Scene, edits: readonly PlacedEdit[], library: MotionLibrary): Scene {
  let current = scene;
  let first = 0;
  edits.forEach(({ edit, choose, match, path }, i) => {
    if (edit.type !== 'place' || (!choose && match === undefined)) return;
    current = applyRun(current, edits.slice(first, i + 1), library);
    const { id } = edit.segment;
    current = choose
      ? chosen(current, id, choose, library)
      : matched(current, id, match ?? 0, library, `${path}.match`);
    first = i + 1;
  });
  return applyRun(current, edits.slice(first), library);
}

/** A scene with a join chosen; where it is not good by itself and may be bridged, by the best clip of the sheet's own. */
function chosen(scene: Scene, segment: string, limits: ChoiceLimits, library: MotionLibrary): Scene {
  const choice = chooseJoin(scene, segment, library, limits);
  if (!choice) return scene;
  if (limits.bridges && choice.measures.grade !== 'good') {
    const clips = library.sources().flatMap((s) => s.imported.clips.map((c) => library.clip(c.id) ?? c));
    const bridges = findBridges(scene, segment, clips, library, () => `${segment}b`, limits);
    if (bridges[0]) return applyEdit(scene, bridges[0].edit, library);
  }
  return applyEdit(scene, choice.edit, library);
}

/** A scene with both sides of a join trimmed to their best match. */
function matched(scene: Scene, segment: string, within: number, library: MotionLibrary, path: string): Scene {
  const join = matchJoin(scene, segment, within, library);
  if (join) return applyEdit(scene, join, library);
  throw new InputError(
    'match',
    'Nothing can be trimmed on either side: loops, and what has marks, a path or a speed curve, stay.',
    {
      place: { path },
      hint: 'Leave "match" out.',
    },
  );
}

function applyRun(scene: Scene, edits: readonly PlacedEdit[], library: MotionLibrary): Scene {
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
