import { InputError } from '@warper/core';

const AWAY = {
  message: 'The library server does not answer.',
  hint: 'What this browser keeps is there as before. Try again when the server is back.',
} as const;

/** That the server is away: what it means and what to do. */
export const serverAway = (): InputError => new InputError('server-away', AWAY.message, { hint: AWAY.hint });

/**
 * Fetches from the library server.
 *
 * @throws InputError `server-away` where it does not answer, else what it says itself
 */
export async function fetchFromServer(address: string, signal?: AbortSignal): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(address, { signal });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw serverAway();
  }
  if (response.ok) return response;
  const said = (await response.json().catch(() => null)) as {
    error?: { code: string; message: string; hint: string };
  } | null;
  if (!said?.error) throw serverAway();
  throw new InputError(said.error.code, said.error.message, { hint: said.error.hint });
}
