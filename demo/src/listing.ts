import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ListedBody, ListedClip, Preview } from '@warper/formats';
import { clipPreview, listBody, listClip, readMotionFile } from '@warper/formats';

/** What a library lists of a file, as it is written to JSON. */
export interface Listing {
  readonly clips: readonly ListedClip[];
  readonly previews: readonly (Omit<Preview, 'places'> & {
    readonly id: string;
    readonly places: readonly number[];
  })[];
  readonly bodies: readonly ListedBody[];
}

/** Measures the files of a folder ahead of time, so that who gets them need not. */
export async function listFiles(folder: string, names: readonly string[]): Promise<Record<string, Listing>> {
  const listings: Record<string, Listing> = {};
  for (const name of names) {
    const { clips, bodies, source } = await readMotionFile(
      new Uint8Array(readFileSync(join(folder, name))),
      name,
    );
    listings[name] = {
      clips: clips.map((clip) => listClip(clip, source, name)),
      previews: clips.map((clip) => {
        const { places, ...rest } = clipPreview(clip);
        return { ...rest, id: clip.id, places: [...places] };
      }),
      bodies: bodies.map((body) => listBody(body, source)),
    };
  }
  return listings;
}
