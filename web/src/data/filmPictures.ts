import { contentHash } from '@warper/formats';
import { db } from './db';

/** Pictures of a sequence that are kept on their way, so that it goes on where it was stopped, whatever stopped it. */
export interface FilmPictures {
  /** Pictures that are there, from the first on. */
  kept(): Promise<number>;
  picture(number: number): Promise<Blob | undefined>;
  keep(number: number, picture: Blob): Promise<void>;
  drop(): Promise<void>;
}

/**
 * The pictures of a sequence; those of any other are let go of once one is kept, since one at a time is enough.
 *
 * @param what everything that the pictures depend on, as it goes into JSON
 */
export async function filmPictures(what: unknown): Promise<FilmPictures> {
  const key = await contentHash(new TextEncoder().encode(JSON.stringify(what)));
  const own = () => db.pictures.where('film').equals(key);
  return {
    kept: () => own().count(),
    picture: async (number) => (await db.pictures.get([key, number]))?.picture,
    keep: async (number, picture) => {
      if (number === 0) await db.pictures.where('film').notEqual(key).delete();
      await db.pictures.put({ film: key, number, picture });
    },
    drop: async () => void (await own().delete()),
  };
}
