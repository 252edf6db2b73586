import { defined } from '@warper/core';
import { createHash } from 'node:crypto';
import type { Request, Response } from 'express';
import parseRange from 'range-parser';

/** Bytes with the strong ETag that names them (RFC 9110, 8.8.3). */
export interface Tagged {
  readonly bytes: Uint8Array;
  readonly etag: string;
}

/** Names bytes by their content. */
export const tagged = (bytes: Uint8Array): Tagged => ({
  bytes,
  etag: `"${createHash('sha256').update(bytes).digest('hex').slice(0, 32)}"`,
});

/**
 * Sends bytes, or the part of them that is asked for: conditional requests and single ranges as RFC 9110 has them
 * (sections 13 and 14). Several ranges at once are answered with the whole, which it allows.
 */
export function sendBytes(
  req: Request,
  res: Response,
  { bytes, etag }: Tagged,
  type: string,
  file: string,
): void {
  res.set({
    ETag: etag,
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'no-cache',
    'Content-Type': type,
  });
  res.attachment(file).type(type);
  if (req.fresh) return void res.status(304).end();
  const wanted = req.headers.range;
  // If-Range: the part is only of use to who has the rest of the very same bytes.
  const ifRange = req.headers['if-range'];
  const ranges =
    wanted !== undefined && (ifRange === undefined || ifRange === etag)
      ? parseRange(bytes.length, wanted)
      : -2;
  if (ranges === -1) return void res.status(416).set('Content-Range', `bytes */${bytes.length}`).end();
  if (ranges === -2 || ranges.type !== 'bytes' || ranges.length !== 1) return void send(req, res, bytes);
  const { start, end } = defined(ranges[0]);
  res.status(206).set('Content-Range', `bytes ${start}-${end}/${bytes.length}`);
  send(req, res, bytes.subarray(start, end + 1));
}

function send(req: Request, res: Response, bytes: Uint8Array): void {
  res.set('Content-Length', String(bytes.length));
  if (req.method === 'HEAD') res.end();
  else res.end(bytes);
}
