import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { InputError } from '@warper/core';
import type { Request } from 'express';

/** Types under which a scene file is sent. A page of another site cannot send them unasked (Fetch, CORS-safelisted types). */
const TYPES = ['application/zip', 'application/octet-stream'];
/** How a zip begins (PKWARE's APPNOTE, 4.3.7). */
const ZIP = 'PK\u0003\u0004';

/**
 * Takes the scene file of a request into a folder, part by part.
 *
 * @returns its path
 * @throws InputError `not-a-scene` where it is none by its type or its first bytes, `too-many-bytes` above the limit
 */
export async function receiveScene(req: Request, folder: string, mostBytes: number): Promise<string> {
  if (!req.is(TYPES))
    throw new InputError('not-a-scene', 'A bake is asked for with a scene file.', {
      hint: `Send the .warper file as ${TYPES.join(' or ')}.`,
    });
  const tooMany = new InputError(
    'too-many-bytes',
    `A scene file may have ${Math.floor(mostBytes / 2 ** 20)} MB.`,
    { hint: 'Bake it with the command line.' },
  );
  if (Number(req.headers['content-length'] ?? 0) > mostBytes) throw tooMany;
  const path = join(folder, `${randomUUID()}.warper`);
  let bytes = 0;
  const counted = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.length;
      done(bytes > mostBytes ? tooMany : null, part);
    },
  });
  try {
    await pipeline(req, counted, createWriteStream(path, { flags: 'wx' }));
    if ((await firstBytes(path)) !== ZIP)
      throw new InputError('not-a-scene', 'What was sent is no scene file.', {
        hint: 'Send a .warper file, as the application saves it.',
      });
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
  return path;
}

async function firstBytes(path: string): Promise<string> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(ZIP.length), 0, ZIP.length, 0);
    return buffer.toString('latin1', 0, bytesRead);
  } finally {
    await handle.close();
  }
}
