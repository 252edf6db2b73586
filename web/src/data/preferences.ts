import Joi from 'joi';

const KEY = 'warper-preferences';

/** What this browser remembers of how the user works. */
export interface Preferences {
  readonly theme?: 'day' | 'night';
  readonly unit?: 'seconds' | 'timecode' | 'frames';
  readonly axes?: 'character' | 'world';
  readonly autoFollow?: boolean;
  readonly soundOn?: boolean;
  readonly toured?: boolean;
  readonly folded?: readonly string[];
  readonly ownKeys?: Readonly<Record<string, readonly string[]>>;
}

const schema = Joi.object({
  theme: Joi.valid('day', 'night'),
  unit: Joi.valid('seconds', 'timecode', 'frames'),
  axes: Joi.valid('character', 'world'),
  autoFollow: Joi.boolean(),
  soundOn: Joi.boolean(),
  toured: Joi.boolean(),
  folded: Joi.array().items(Joi.string()),
  ownKeys: Joi.object().pattern(Joi.string(), Joi.array().items(Joi.string())),
});

/** The preferences of the last visit; none where nothing is kept, it is damaged, or storage is refused. */
export function keptPreferences(): Preferences {
  try {
    const { error, value } = schema.validate(JSON.parse(localStorage.getItem(KEY) ?? '{}'), {
      stripUnknown: true,
    });
    return error ? {} : (value as Preferences);
  } catch {
    return {};
  }
}

/** Keeps preferences for the next visit, where storage allows it. */
export function keepPreferences(preferences: Preferences): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(preferences));
  } catch {
    // A browser that refuses storage begins anew next time.
  }
}
