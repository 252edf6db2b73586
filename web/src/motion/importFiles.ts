import { InputError } from '@warper/core';
import type { Remark } from '@warper/formats';
import { filesBeside } from '@warper/formats';
import { readInWorker } from './client';
import { keepRead } from './pageLibrary';

/** What came of one file. */
export interface ImportReport {
  readonly file: string;
  readonly clips: readonly string[];
  readonly bodies: number;
  readonly remarks: readonly Remark[];
  readonly error: { readonly message: string; readonly hint: string } | null;
}

/**
 * Reads files in the worker and keeps those that are sound; a bad one changes nothing. The buffers and textures that a
 * .gltf among them names are taken with it and are no files of their own.
 */
export async function importFiles(files: readonly File[]): Promise<ImportReport[]> {
  const contents = new Map<string, Uint8Array>();
  for (const file of files) contents.set(file.name, new Uint8Array(await file.arrayBuffer()));
  const belonging = new Set<string>();
  for (const bytes of contents.values()) {
    for (const uri of filesBeside(bytes)) belonging.add(uri.replace(/^.*\//, ''));
  }
  const beside = Object.fromEntries([...contents].filter(([name]) => belonging.has(name)));
  const reports: ImportReport[] = [];
  for (const [name, bytes] of contents) {
    if (!belonging.has(name)) reports.push(await importOne(name, bytes, beside));
  }
  return reports;
}

async function importOne(
  file: string,
  bytes: Uint8Array,
  beside: Readonly<Record<string, Uint8Array>>,
): Promise<ImportReport> {
  try {
    const result = await readInWorker(bytes, file, undefined, beside);
    await keepRead(result);
    return {
      file,
      clips: result.clips.map((c) => c.name),
      bodies: result.bodies.length,
      remarks: result.imported.remarks,
      error: null,
    };
  } catch (error) {
    return { file, clips: [], bodies: 0, remarks: [], error: describeError(error) };
  }
}

/** What went wrong, where, and what to do, for people. */
export function describeError(error: unknown): { message: string; hint: string } {
  if (!(error instanceof InputError)) {
    return { message: error instanceof Error ? error.message : String(error), hint: 'Try again.' };
  }
  const { line, byte, bone, frame, path } = error.place;
  const where = [
    line !== undefined && `line ${line}`,
    byte !== undefined && `byte ${byte}`,
    bone !== undefined && `bone ${bone}`,
    frame !== undefined && `sample ${frame}`,
    path,
  ].filter(Boolean);
  return { message: `${where.length > 0 ? `${where.join(', ')}: ` : ''}${error.message}`, hint: error.hint };
}
