import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { InputError } from '@warper/core';
import Joi from 'joi';

/** Name of the manifest in a folder of bakes. */
export const MANIFEST = 'warper-bakes.json';

/** A baked file: what it holds, and the hash of what it was made from. */
export interface ManifestEntry {
  readonly scene: string;
  readonly characters: readonly string[];
  readonly frames: readonly number[];
  readonly rate: number;
  readonly bytes: number;
  /** SHA-256 of its content. */
  readonly sha256: string;
  /** SHA-256 of the scene, the content of the files that it uses, and the order. */
  readonly inputs: string;
}

export type ManifestFiles = Readonly<Record<string, ManifestEntry>>;

const hash = Joi.string().hex().length(64).required();
const schema = Joi.object({
  format: Joi.valid('warper-bakes').required(),
  version: Joi.valid(1).required(),
  files: Joi.object()
    .pattern(
      Joi.string(),
      Joi.object({
        scene: Joi.string().required(),
        characters: Joi.array().items(Joi.string()).required(),
        frames: Joi.array().items(Joi.number()).required(),
        rate: Joi.number().required(),
        bytes: Joi.number().required(),
        sha256: hash,
        inputs: hash,
      }),
    )
    .required(),
});

/** The files that a folder's manifest knows; none without one. */
export async function readManifest(folder: string): Promise<ManifestFiles> {
  const file = join(folder, MANIFEST);
  if (!existsSync(file)) return {};
  let value: unknown;
  try {
    value = JSON.parse(await readFile(file, 'utf8'));
  } catch {
    value = null;
  }
  const { error } = schema.validate(value);
  if (error || !value) {
    throw new InputError('manifest', `This is no manifest of bakes: ${error?.message ?? 'no JSON'}.`, {
      place: { file },
      hint: 'Remove it, and everything is baked anew.',
    });
  }
  return (value as { files: ManifestFiles }).files;
}

/** A manifest as text, its files in order of their names, so that the same bakes give the same text. */
export const manifestText = (files: ManifestFiles): string => {
  const sorted = Object.fromEntries(Object.entries(files).sort(([a], [b]) => (a < b ? -1 : 1)));
  return `${JSON.stringify({ format: 'warper-bakes', version: 1, files: sorted }, null, 2)}\n`;
};

/** SHA-256 of a file's content; null where it is not there. */
export async function hashFile(path: string): Promise<string | null> {
  if (!existsSync(path)) return null;
  const sum = createHash('sha256');
  await pipeline(createReadStream(path), sum);
  return sum.digest('hex');
}
