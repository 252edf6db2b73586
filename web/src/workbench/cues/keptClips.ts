import type { StoredClip } from '../../storage/db';
import { db } from '../../storage/db';

/**
 * The clips that can be named in a beat, in their order. Asked for when a name is typed: a list that is drawn may still be on
 * its way when somebody types fast.
 */
export const keptClips = (): Promise<StoredClip[]> => db.clips.orderBy('order').toArray();
