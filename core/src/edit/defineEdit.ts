import Joi from 'joi';
import { InputError } from '../math/errors';
import type { Fields } from '../scene/fields';
import { id } from '../scene/rules';
import type { Scene } from '../scene/scene';
import type { SceneEditor } from './sceneEditor';

/** A kind of edit: what it is made of, what it does, and what it is called. Each has a module of its own in `edits/`. */
export interface EditKind<E extends { readonly type: string }> {
  readonly type: E['type'];
  /** Rules of its values; all of them must be given but for those that are optional in the type. */
  readonly schema: { readonly [K in keyof Omit<E, 'type'>]-?: Joi.Schema };
  /** Carries it out on a draft. What cannot be becomes the nearest that can. */
  readonly apply: (editor: SceneEditor, edit: E) => void;
  /** What it is called in "Undo ...". */
  readonly describe: (edit: E, scene: Scene) => string;
  /** Whether locked lanes let it through: it changes how they are treated, or the time of the whole scene. */
  readonly passesLocks?: boolean;
  /** Whether it is about the alternates themselves, and is carried out in none of the others. */
  readonly ofAlternates?: boolean;
}

/** The edits of a kind. */
export type EditOf<K> = K extends EditKind<infer E> ? E : never;

/** A kind of edit, with its rules ready to be asked. */
export const defineEdit = <E extends { readonly type: string }>(kind: EditKind<E>): EditKind<E> => kind;

/** Rules that kinds of edits share. */
export const rule = {
  id: id.required(),
  /** The name of a joint or of anything else. */
  name: Joi.string().max(1000).required(),
  number: Joi.number().required(),
  flag: Joi.boolean().required(),
  edge: Joi.valid('start', 'end').required(),
  ids: Joi.array().items(id).required(),
  entity: Joi.object().required(),
};

/** Values of some of an entity's fields; whether they can be is for the edit to say. */
export const someOf = (fields: Fields, ...without: readonly string[]): Joi.Schema =>
  Joi.object(
    Object.fromEntries(
      Object.keys(fields)
        .filter((name) => !without.includes(name))
        .map((name) => [name, Joi.any()]),
    ),
  ).required();

/**
 * Checks an entity that an edit has changed.
 *
 * @throws InputError `edit` with the path of the field that cannot be so
 */
export function requireValid(schema: Joi.Schema, entity: object, path: string): void {
  const { error } = schema.validate(entity, { convert: false, abortEarly: true });
  if (!error) return;
  const field = error.details[0]?.path.join('.') ?? '';
  throw new InputError('edit', `That cannot be: ${error.message.replaceAll('"', '')}.`, {
    place: { path: `${path}.${field}` },
    hint: 'Nothing was changed.',
  });
}

/** The name of a segment, for the names of edits. */
export const segmentName = (scene: Scene, segment: string): string => scene.segments[segment]?.name ?? '';

/** The name of a character, for the names of edits. */
export const characterName = (scene: Scene, character: string): string =>
  scene.characters[character]?.name ?? 'a character';

/** The name of a layer, for the names of edits. */
export const layerName = (scene: Scene, layer: string): string => {
  const lane = scene.lanes[layer];
  return lane?.kind === 'layer' ? lane.name : '';
};

/** The name of an alternate, for the names of edits. */
export const alternateName = (scene: Scene, alternate: string): string =>
  scene.alternates[alternate]?.name ?? 'an alternate';

/** One segment by its name, or how many. */
export const segmentsName = (names: readonly string[]): string =>
  names.length === 1 ? (names[0] ?? '') : `${names.length} segments`;
