import { freeze } from 'immer';
import Joi from 'joi';

/**
 * One field of an entity of the document. Everything that is to be known of it stands in one place: its type, its rule, its plain
 * value, since when documents have it, whether cue sheets may set it, and how it follows a change of rate.
 */
export interface Field<T> extends FieldOptions<T> {
  readonly schema: Joi.Schema;
}

/** A field with a value that it has unless asked otherwise. */
export interface Setting<T> extends Field<T> {
  readonly plain: T;
}

interface FieldOptions<T> {
  /** What it is called in "Undo ... of Walk", where that is not its own name. */
  readonly called?: string;
  /** First version of documents that have it; older ones get the plain value, or `before`. */
  readonly since?: number;
  /** What it is in documents from before it, where that is not the plain value. */
  readonly before?: T;
  /** Where a cue sheet may set it: in every part of a clip, or in cues of a body lane only. */
  readonly cue?: 'part' | 'beat';
  /** What a cue sheet may say, where that is narrower or wider than the field itself. */
  readonly cueSchema?: Joi.Schema;
  /** What it becomes when frames are `factor` times as short; what is not in frames has none. */
  scaled?(value: T, factor: number): T;
}

/** The fields of an entity by name. */
export type Fields = Readonly<Record<string, Field<unknown>>>;

/** The type of an entity with such fields. */
export type Entity<F> = { readonly [K in keyof F]: F[K] extends Field<infer T> ? T : never };

/** The fields that have a plain value, with it. */
export type Plain<F> = {
  readonly [K in keyof F as F[K] extends Setting<unknown> ? K : never]: F[K] extends Field<infer T>
    ? T
    : never;
};

/** A field that must be given. */
export const given = <T>(schema: Joi.Schema, options: FieldOptions<T> = {}): Field<T> => ({
  ...options,
  schema,
});

/** A field with a plain value. */
export const setting = <T>(plain: T, schema: Joi.Schema, options: FieldOptions<T> = {}): Setting<T> => ({
  ...options,
  schema,
  plain,
});

const isSetting = (field: Field<unknown>): field is Setting<unknown> => 'plain' in field;

/** The plain values of an entity; frozen, since all entities share them. */
export const plainOf = <F extends Fields>(fields: F): Plain<F> =>
  freeze(
    Object.fromEntries(
      Object.entries(fields).flatMap(([name, field]) => (isSetting(field) ? [[name, field.plain]] : [])),
    ) as Plain<F>,
    true,
  );

/** What the fields that have values are called: "speed", "speed and hold", "3 settings". */
export function calledFields(fields: Fields, values: object): string {
  const names = Object.keys(values).map(
    (name) => fields[name]?.called ?? name.replace(/[A-Z]/g, (capital) => ` ${capital.toLowerCase()}`),
  );
  return names.length > 2 ? `${names.length} settings` : names.join(' and ') || 'settings';
}

/** The rules of an entity's fields, all of which must be there. */
const rulesOf = (fields: Fields): Record<string, Joi.Schema> =>
  Object.fromEntries(Object.entries(fields).map(([name, { schema }]) => [name, schema.required()]));

/** The rule of an entity: its fields, and no others. */
export const schemaOf = (fields: Fields): Joi.ObjectSchema => Joi.object(rulesOf(fields));

/** The rule of an entity that comes in several kinds: the fields of each by the value of its `kind`. */
export function kindsSchema(kinds: Readonly<Record<string, Fields>>): Joi.Schema {
  const names = Object.keys(kinds);
  return names.reduce<Joi.AlternativesSchema>(
    (schema, name, i) =>
      schema.conditional(Joi.object({ kind: Joi.valid(name).required() }).unknown(), {
        then: Joi.object({ kind: Joi.valid(name).required(), ...rulesOf(kinds[name] ?? {}) }),
        ...(i < names.length - 1 ? {} : { otherwise: Joi.object({ kind: Joi.valid(...names).required() }) }),
      }),
    Joi.alternatives(),
  );
}

/** A value of an older version of documents with the fields that came later. */
export function withLaterFields(
  entity: Readonly<Record<string, unknown>>,
  fields: Fields,
  version: number,
): Record<string, unknown> {
  const later = Object.entries(fields).filter(
    ([name, field]) => (field.since ?? 1) > version && isSetting(field) && entity[name] === undefined,
  );
  return {
    ...entity,
    ...Object.fromEntries(later.map(([name, f]) => [name, isSetting(f) && (f.before ?? f.plain)])),
  };
}

/** The latest version that any of the fields asks for. */
export const latestVersion = (...tables: readonly Fields[]): number =>
  Math.max(1, ...tables.flatMap((fields) => Object.values(fields).map((f) => f.since ?? 1)));

/** An entity whose fields in frames are brought to frames `factor` times as short. */
export function scaledFields<T extends object>(entity: T, fields: Fields, factor: number): T {
  if (factor === 1) return entity;
  const scaled = Object.entries(fields).flatMap(([name, field]) => {
    return field.scaled ? [[name, field.scaled(entity[name as keyof T], factor)] as const] : [];
  });
  return { ...entity, ...Object.fromEntries(scaled) };
}
