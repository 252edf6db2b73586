import { InputError } from '@warper/core';
import type { SceneFile, SceneJob } from './bakeScene';
import { bakeScene } from './bakeScene';

/** What a thread answers: files, or what is wrong with the scene; an exception would lose its code and place on the way. */
export type SceneAnswer =
  | { readonly ok: true; readonly files: readonly SceneFile[] }
  | {
      readonly ok: false;
      readonly code: string;
      readonly message: string;
      readonly place: Readonly<Record<string, unknown>>;
      readonly hint: string;
    };

/** Bakes one scene; what a thread of the pool does, and the command itself without one. */
export default async function bake(job: SceneJob): Promise<SceneAnswer> {
  try {
    return { ok: true, files: await bakeScene(job) };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const { code, message, place, hint } = error;
    return { ok: false, code, message, place: { ...place }, hint };
  }
}
