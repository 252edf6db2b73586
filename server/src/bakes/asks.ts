import { InputError } from '@warper/core';
import type { BakeSettings, BakeSpan } from '@warper/formats';
import { BAKE_FORMATS, USUAL_BAKE, bakeSettingsRule, parseSpan } from '@warper/formats';
import Joi from 'joi';
import { checkQuery } from '../checkQuery';

/** A bake as it is asked for, before anybody has looked into the scene. */
export interface BakeAsk {
  /** What the files are called by; null for the name of the scene. */
  readonly name: string | null;
  /** Names of those who are baked; none for everybody who performs. */
  readonly characters: readonly string[];
  /** Parts of the scene; none for all of it. */
  readonly parts: readonly BakeSpan[];
  readonly settings: BakeSettings;
}

const MOST_CHARACTERS = 100;
const MOST_PARTS = 200;

/** What the settings of a bake do, for the service's description. */
const SETTING_WORDS: Readonly<Record<keyof BakeSettings, string>> = {
  format: 'Format of the files.',
  together: 'Whether all characters are in one file, where the format holds several.',
  spansTogether: 'Whether the parts are animations of one file, where the format holds several.',
  rate: "Samples a second; the scene's by default.",
  travel: 'What is done with the root motion.',
  keepFacing: 'In place: whether the facing is held as well.',
  fromOrigin: 'Whether the root begins at the origin, facing +Z.',
  leadIn: 'Scene frames before the first, out of the rest pose.',
  loop: 'What is done with the end of a loop.',
  keys: 'Whether there is a key for every sample, or as few as the error needs.',
  errorMillimetres: 'With reduced keys: how far a joint may come off its place.',
  interpolation: 'What is between reduced keys.',
  withBody: 'Whether the mesh goes along, where the format holds one.',
  withCameras: "Whether the scene's cameras go along, where the format holds some.",
  jointNames: "Whether joints are called as in the character's own file, or by their roles.",
  unitsPerMetre: "Units a metre, in formats that leave them free; those of the character's file by default.",
  upAxis: 'Which axis points up, in formats that leave it free.',
};

/** Reads a part of a scene: FROM-TO, and its name behind a space. */
function readPart(value: string, helpers: Joi.CustomHelpers): BakeSpan | Joi.ErrorReport {
  return (
    parseSpan(value) ??
    helpers.message({ custom: '{{#label}} must be scene frames, such as "140-171" or "140-171 Walk"' })
  );
}

/** What can be asked of a bake. The rules and descriptions are also those of the service's OpenAPI document. */
export const bakeRules = Joi.object({
  name: Joi.string().max(100).description("What the files are called by; the scene's name by default."),
  character: Joi.array()
    .items(Joi.string().max(200))
    .single()
    .max(MOST_CHARACTERS)
    .default([])
    .description('Name of somebody who is baked; may be given again. Everybody who performs by default.'),
  part: Joi.array()
    .items(Joi.string().custom(readPart))
    .single()
    .max(MOST_PARTS)
    .default([])
    .description('Scene frames, FROM-TO, the end not in it, and a name behind a space; may be given again.'),
  ...Object.fromEntries(
    Object.entries(USUAL_BAKE).map(([key, usual]) => [
      key,
      bakeSettingsRule
        .extract(key)
        .default(usual)
        .description(SETTING_WORDS[key as keyof BakeSettings]),
    ]),
  ),
});

/** Words of settings that hold a space may be written with a hyphen, as on the command line. */
const SPACED = ['travel', 'loop'];

/**
 * Reads what is to be baked from a query.
 *
 * @throws InputError `query` with the key that is wrong, or `not-held` for what the format cannot hold
 */
export function parseBake(query: Readonly<Record<string, unknown>>): BakeAsk {
  const spaced = Object.fromEntries(
    Object.entries(query).map(([key, value]) => [
      key,
      SPACED.includes(key) && typeof value === 'string' ? value.replaceAll('-', ' ') : value,
    ]),
  );
  const { name, character, part, ...settings } = checkQuery<
    BakeSettings & { name?: string; character: string[]; part: BakeSpan[] }
  >(bakeRules, spaced);
  requireHeld(settings, query);
  return { name: name ?? null, characters: [...new Set(character)], parts: part, settings };
}

/** Refuses what a format cannot hold, rather than leaving it out unsaid. */
function requireHeld(settings: BakeSettings, query: Readonly<Record<string, unknown>>): void {
  const { name, holdsKeys, hasUnits } = BAKE_FORMATS[settings.format];
  const refuse = (path: string, message: string): never => {
    throw new InputError('not-held', message, {
      place: { path },
      hint: 'Leave it out, or choose another format.',
    });
  };
  if (settings.keys === 'reduced' && !holdsKeys) refuse('keys', `${name} has one key a sample.`);
  if (query.unitsPerMetre !== undefined && !hasUnits) refuse('unitsPerMetre', `${name} is always in metres.`);
  if (settings.upAxis !== 'y' && !hasUnits) refuse('upAxis', `In ${name} +Y is always up.`);
}
