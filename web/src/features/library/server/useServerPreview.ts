import type { Preview } from '@warper/formats';
import { useEffect, useState } from 'react';
import { fetchFromServer } from '../../../data/server/fetchFromServer';
import { previewAddress } from '../../../data/server/serverApi';

const kept = new Map<string, Preview>();
const MOST_KEPT = 400;

/** The small figures of a clip at the server, once they have come; null where they cannot be had. */
export function useServerPreview(id: string): Preview | null {
  const [, came] = useState(0);
  useEffect(() => {
    if (kept.has(id)) return;
    const control = new AbortController();
    readPreview(id, control.signal).then(
      () => came((n) => n + 1),
      // A card without its figure still tells its clip; that the server is away is said once, for all.
      () => undefined,
    );
    return () => control.abort();
  }, [id]);
  return kept.get(id) ?? null;
}

async function readPreview(id: string, signal: AbortSignal): Promise<void> {
  const response = await fetchFromServer(previewAddress(id), signal);
  const { places, ...preview } = (await response.json()) as Omit<Preview, 'places'> & {
    places: number[];
  };
  kept.set(id, { ...preview, places: Int16Array.from(places) });
  const [oldest] = kept.keys();
  if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest);
}
