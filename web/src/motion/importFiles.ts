import { InputError } from '@warper/core';
import type { Remark } from '@warper/formats';
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

/** Reads files in the worker and keeps those that are sound; a bad one changes nothing. */
export async function importFiles(files: readonly File[]): Promise<ImportReport[]> {
  const reports: ImportReport[] = [];
  for (const file of files) {
    try {
      const result = await readInWorker(new Uint8Array(await file.arrayBuffer()), file.name);
      await keepRead(result);
      reports.push({
        file: file.name,
        clips: result.clips.map((c) => c.name),
        bodies: result.bodies.length,
        remarks: result.imported.remarks,
        error: null,
      });
    } catch (error) {
      reports.push({ file: file.name, clips: [], bodies: 0, remarks: [], error: describeError(error) });
    }
  }
  return reports;
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
