import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type { Dials, Look } from '@warper/core';
import type { ClipFilter, ClipPage, ListedBody, ServerState } from '@warper/formats';

/** Where the library server is: the one that serves the application. */
const BASE = '/api';
/** Milliseconds after which a server that does not answer counts as gone. */
const PATIENCE = 10_000;

/** What is looked for at the server. */
export interface ServerQuestion {
  readonly words: string;
  readonly filters: readonly ClipFilter[];
  readonly page: number;
}

/** Clips of a page. */
export const PER_PAGE = 60;

/** What the library server is asked for lists; motion itself is fetched where it is read, and never kept in the store. */
export const serverApi = createApi({
  reducerPath: 'libraryServer',
  baseQuery: fetchBaseQuery({ baseUrl: BASE, timeout: PATIENCE }),
  endpoints: (build) => ({
    state: build.query<ServerState, void>({ query: () => '/library' }),
    characters: build.query<ListedBody[], void>({ query: () => '/characters' }),
    clips: build.query<ClipPage, ServerQuestion>({
      query: ({ words, filters, page }) => ({
        url: '/clips',
        params: { q: words, filters: filters.join(','), page, per: PER_PAGE },
      }),
      keepUnusedDataFor: 30,
    }),
  }),
});

export const { useStateQuery, useCharactersQuery, useClipsQuery } = serverApi;

const address = (kind: 'clips' | 'characters', id: string, what: string): string =>
  `${BASE}/${kind}/${encodeURIComponent(id)}/${what}`;

/** Address of a clip's small figures. */
export const previewAddress = (id: string): string => address('clips', id, 'preview');

/** Address of the file that a character is in. */
export const characterAddress = (id: string): string => address('characters', id, 'file');

/** How a clip is asked for. */
export interface TakenAs {
  readonly speed: number;
  readonly travel: 'recorded' | 'in place' | 'restored';
  readonly dials: Dials;
  /** A place that the head follows; null for none. */
  readonly look: Look | null;
}

/** As it was recorded. */
export const AS_RECORDED: TakenAs = { speed: 1, travel: 'recorded', dials: {}, look: null };

/** Address of a clip by itself, on its own bones. */
export function motionAddress(id: string, { speed, travel, dials, look }: TakenAs): string {
  const asked = Object.entries(dials).map(([dial, value]): [string, string] => [dial, String(value)]);
  const query = new URLSearchParams([
    ['body', 'without'],
    ['speed', String(speed)],
    ['travel', travel],
    ...asked,
    ...(look && 'point' in look.at ? [['look', look.at.point.join(',')]] : []),
  ]);
  return `${address('clips', id, 'motion')}?${query}`;
}
