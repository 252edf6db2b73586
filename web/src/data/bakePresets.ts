import type { BakeSettings } from '@warper/formats';
import { USUAL_BAKE, bakeSettingsRule } from '@warper/formats';
import Joi from 'joi';

const KEY = 'warper-bake';

/** How performances are baked, by a name of the user's. */
export interface BakePreset {
  readonly name: string;
  readonly settings: BakeSettings;
}

/** What this browser keeps of bakes: the settings of the last one, and named ones. */
export interface KeptBakes {
  readonly last: BakeSettings;
  readonly presets: readonly BakePreset[];
}

const schema = Joi.object({
  last: bakeSettingsRule.default(USUAL_BAKE),
  presets: Joi.array()
    .items(
      Joi.object({ name: Joi.string().min(1).max(100).required(), settings: bakeSettingsRule.required() }),
    )
    .max(100)
    .default([]),
});

/** What was kept; the usual settings where nothing is, it is damaged, or storage is refused. Fields that came later have their usual values. */
export function keptBakes(): KeptBakes {
  const nothing = { last: USUAL_BAKE, presets: [] };
  try {
    const { error, value } = schema.validate(JSON.parse(localStorage.getItem(KEY) ?? '{}'), {
      stripUnknown: true,
    });
    if (error) return nothing;
    const { last, presets } = value as KeptBakes;
    return {
      last: { ...USUAL_BAKE, ...last },
      presets: presets.map((p) => ({ ...p, settings: { ...USUAL_BAKE, ...p.settings } })),
    };
  } catch {
    return nothing;
  }
}

/** Keeps settings for the next visit, where storage allows it. */
export function keepBakes(kept: KeptBakes): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(kept));
  } catch {
    // A browser that refuses storage begins anew next time.
  }
}
