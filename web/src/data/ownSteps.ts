import { InputError } from '@warper/core';
import type { MotionLibrary } from '@warper/formats';
import { db } from './db';

/** Gives the clips of a source the user's own steps, where there are any that still fit their bones. */
export async function applySteps(to: MotionLibrary, source: string): Promise<void> {
  for (const { id, steps } of await db.clips.where('source').equals(source).toArray()) {
    try {
      to.setSteps(id, steps);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      to.setSteps(id, undefined);
    }
  }
}
