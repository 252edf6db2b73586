import type { StoredClip } from './db';
import { db } from './db';

/**
 * The clips of this browser, in the order in which they came. Where one is named by typing it is asked for then: a list that
 * is drawn may still be on its way when somebody types fast.
 */
export const keptClips = (): Promise<StoredClip[]> => db.clips.orderBy('order').toArray();
