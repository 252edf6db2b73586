import { sourceOfId } from '@warper/formats';
import { db } from './db';

/** Files that are looked through at a time: whoever waits for a ranking does not wait for thousands. */
const MOST_FILES = 100;

/** Some of the files with clips of which it is not kept how they begin, since they came in before that was. */
export async function filesWithoutEntries(): Promise<readonly string[]> {
  const known = new Set(await db.entries.toCollection().primaryKeys());
  const missing = (await db.clips.toCollection().primaryKeys()).filter((id) => !known.has(id));
  return [...new Set(missing.map(sourceOfId))].slice(0, MOST_FILES);
}
