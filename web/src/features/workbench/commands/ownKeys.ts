import Joi from 'joi';
import type { Command } from './command';
import { COMMANDS } from './commands';

/** Keys that the user has chosen instead of those that a command has by itself, by the command's id. */
export type OwnKeys = Readonly<Record<string, readonly string[]>>;

/** The keys of a command. */
export const keysOf = (command: Command, own: OwnKeys): readonly string[] =>
  own[command.id] ?? command.keys ?? [];

/** The command that a chord stands for. */
export const commandOfChord = (chord: string, own: OwnKeys): Command | undefined =>
  COMMANDS.find((c) => keysOf(c, own).includes(chord));

/** Gives a command a chord of its own; whatever had it before goes without. */
export function giveChord(own: OwnKeys, id: string, chord: string): OwnKeys {
  const before = commandOfChord(chord, own);
  const next: Record<string, readonly string[]> = { ...own, [id]: [chord] };
  if (before && before.id !== id) next[before.id] = keysOf(before, own).filter((k) => k !== chord);
  return next;
}

const schema = Joi.object({
  format: Joi.valid('warper-keys').required(),
  version: Joi.valid(1).required(),
  keys: Joi.object()
    .pattern(Joi.string().max(100), Joi.array().items(Joi.string().min(1).max(40)).max(4))
    .max(500)
    .required(),
});

/** Keys as the text of a file. */
export const writeKeys = (own: OwnKeys): string =>
  JSON.stringify({ format: 'warper-keys', version: 1, keys: own }, null, 1);

/**
 * Keys from the text of a file; those of commands that there are not are left out.
 *
 * @throws Error that says what is wrong with it
 */
export function readKeys(text: string): OwnKeys {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw new Error('The file holds no keys: it is not JSON.');
  }
  const { error, value } = schema.validate(document);
  if (error) throw new Error(`The file holds no keys: ${error.message.replaceAll('"', '')}.`);
  const ids = new Set(COMMANDS.map((c) => c.id));
  return Object.fromEntries(Object.entries((value as { keys: OwnKeys }).keys).filter(([id]) => ids.has(id)));
}
