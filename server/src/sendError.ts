import { InputError } from '@warper/core';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';

/** Statuses of errors whose code says more than that the request is at fault. */
const STATUSES: Readonly<Record<string, number>> = {
  'no-clip': 404,
  'no-character': 404,
  'no-address': 404,
  'no-bake': 404,
  'not-done': 409,
  changed: 409,
  'too-many-bytes': 413,
  'no-length': 411,
  'not-a-scene': 415,
  busy: 503,
  'too-long': 503,
  'no-queue': 503,
};

/** Sends an error in the form that all of the service's have. */
export function sendError(
  res: Response,
  { code, message, place, hint }: InputError,
  status = STATUSES[code] ?? 400,
): void {
  if (status === 503 || status === 429) res.set('Retry-After', status === 429 ? '60' : '2');
  res.status(status).json({ error: { code, message, place, hint } });
}

/** Answers what no route has. */
export const nothingHere: RequestHandler = (_, res) =>
  sendError(res, new InputError('no-address', 'There is nothing at this address.'));

/** Codes of a request that was broken off. */
const GONE: ReadonlySet<string> = new Set(['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE']);

/** Answers what a route has thrown: bad input as it says, faults of our own without a word of the inside. */
export const errorAnswer: ErrorRequestHandler = (error: unknown, _req, res, _next) => {
  const { status = 500, code = '' } = error as { status?: number; code?: string };
  // An answer that has begun can only be broken off, and there is nobody to answer who has gone.
  if (res.headersSent || GONE.has(code)) return void res.destroy();
  if (error instanceof InputError) return sendError(res, error);
  if (status >= 500) console.error(error);
  sendError(res, new InputError('failed', 'This cannot be given.'), status);
};

/** Answers who asks too often. */
export const tooMany: RequestHandler = (_, res) =>
  sendError(res, new InputError('too-many', 'Too many requests.', { hint: 'Wait a minute.' }), 429);
