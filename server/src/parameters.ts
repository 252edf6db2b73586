import type Joi from 'joi';

/** One key of what Joi tells of a rule. */
interface Described {
  readonly type?: string;
  readonly flags?: { readonly description?: string; readonly default?: unknown; readonly presence?: string };
  readonly allow?: readonly unknown[];
  readonly rules?: readonly { readonly name: string; readonly args?: { readonly limit?: number } }[];
  readonly items?: readonly Described[];
}

/** What Joi's limits are called in JSON Schema. */
const LIMITS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  number: { min: 'minimum', max: 'maximum', greater: 'exclusiveMinimum', less: 'exclusiveMaximum' },
  string: { min: 'minLength', max: 'maxLength' },
  array: { min: 'minItems', max: 'maxItems' },
};

/** A rule of one value as JSON Schema. */
function schemaOf({ type = 'any', flags = {}, allow = [], rules = [], items = [] }: Described): object {
  const limits = rules.flatMap(({ name, args }) => {
    const key = LIMITS[type]?.[name];
    return key && args?.limit !== undefined ? [[key, args.limit] as const] : [];
  });
  const whole = rules.some((r) => r.name === 'integer');
  const choices = allow.filter((v) => v !== '' && typeof v !== 'object');
  return {
    ...(type === 'any' ? {} : { type: whole ? 'integer' : type }),
    ...(type === 'any' && choices.length > 0 ? { enum: choices } : {}),
    ...Object.fromEntries(limits),
    ...(items[0] ? { items: schemaOf(items[0]) } : {}),
    ...(flags.default === undefined || flags.default === '' ? {} : { default: flags.default }),
  };
}

/** The parameters of an address as OpenAPI has them, from the very rules that requests are checked by. */
export function parametersOf(rules: Joi.ObjectSchema, where: 'query' | 'path'): object[] {
  const { keys = {} } = rules.describe() as { readonly keys?: Readonly<Record<string, Described>> };
  return Object.entries(keys).map(([name, described]) => ({
    name,
    in: where,
    description: described.flags?.description ?? '',
    required: described.flags?.presence === 'required',
    schema: schemaOf(described),
  }));
}
