import type { Scene } from '@warper/core';
import { MOST_ALTERNATES, InputError, withVersions } from '@warper/core';
import Joi from 'joi';
import type { MotionLibrary } from '../library';
import { check, failAt } from './checkKeys';
import type { CueCharacter, CueSheet } from './sheet';

/** What a version of a scene is called, and what is said of it. */
export interface CueVersion {
  readonly name: string;
  readonly comment?: string;
}

/** Another version of the scene: characters of the sheet, by name, who do something else in it. */
export interface CueAlternate extends CueVersion {
  readonly characters: readonly CueCharacter[];
}

const VERSION = { name: Joi.string().min(1).max(200).required(), comment: Joi.string().max(5000).allow('') };
const ALTERNATE = { ...VERSION, characters: Joi.array().items(Joi.object()).min(1).max(1000).required() };

/**
 * Checks the alternates of a sheet.
 *
 * @param checkCharacter checks what a character does, with its path
 */
export function checkAlternates(
  { alternate, alternates = [], characters }: CueSheet,
  checkCharacter: (raw: unknown, path: string) => void,
): void {
  if (alternate) check<CueVersion>(alternate, VERSION, 'alternate');
  if (alternate && alternates.length === 0)
    failAt('alternate')('The scene has no other alternates.', 'name', 'Add "alternates", or leave it out.');
  if (alternates.length > 0 && !alternate)
    throw new InputError('cues', 'The scene has alternates, and no name as one of them itself.', {
      place: { path: 'alternates' },
      hint: 'Add "alternate": { "name": ... }.',
    });
  const names = new Set(alternate ? [alternate.name] : []);
  alternates.forEach((raw, i) => {
    const path = `alternates[${i}]`;
    const { name, characters: own } = check<CueAlternate>(raw, ALTERNATE, path);
    if (names.has(name)) failAt(path)(`There are two alternates called ${name}.`, 'name', 'Rename one.');
    names.add(name);
    own.forEach((entry, j) => {
      const where = `${path}.characters[${j}]`;
      checkCharacter(entry, where);
      if (!characters.some((c) => c.name === entry.name))
        failAt(where)(
          `The scene has no character ${entry.name}.`,
          'name',
          `It has ${characters.map((c) => c.name).join(', ')}.`,
        );
    });
  });
}

/** How many alternates a sheet may name beside its own. */
export const MOST_OTHERS = MOST_ALTERNATES - 1;

/** The sheet of an alternate: that of the scene, with what its characters do otherwise. */
function versionSheet({ alternates: _, alternate: __, ...sheet }: CueSheet, own: CueAlternate): CueSheet {
  const characters = sheet.characters.map((c) => own.characters.find((o) => o.name === c.name) ?? c);
  return { ...sheet, characters };
}

/**
 * The scene with the alternates of its sheet, each laid out like a scene of its own.
 *
 * @param layOut lays a sheet without alternates out
 * @throws InputError with the alternate and the place in it where it cannot be laid out
 */
export async function withAlternates(
  scene: Scene,
  sheet: CueSheet,
  library: MotionLibrary,
  layOut: (sheet: CueSheet) => Promise<Scene>,
): Promise<Scene> {
  const { alternate, alternates = [] } = sheet;
  if (!alternate || alternates.length === 0) return scene;
  const others = [];
  for (const [i, own] of alternates.entries()) {
    const path = `alternates[${i}]`;
    try {
      const version = await layOut(versionSheet(sheet, own));
      others.push({ id: `alternate${i + 2}`, name: own.name, comment: own.comment ?? '', scene: version });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      const { code, message, hint, cause, place } = error;
      const where = place.path ? `${path}: ${place.path}` : path;
      throw new InputError(code, message, { place: { ...place, path: where }, hint, cause });
    }
  }
  const { name, comment = '' } = alternate;
  return withVersions(scene, { id: 'alternate1', name, comment }, others, library);
}
