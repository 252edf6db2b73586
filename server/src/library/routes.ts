import { readFile } from 'node:fs/promises';
import { posix } from 'node:path';
import { InputError, defined } from '@warper/core';
import type { ListedBody, ListedClip, ServerState } from '@warper/formats';
import type { Router } from 'express';
import express from 'express';
import { rateLimit } from 'express-rate-limit';
import { LRUCache } from 'lru-cache';
import { openapi } from '../openapi';
import { errorAnswer, nothingHere, tooMany } from '../sendError';
import type { ClipFolder } from './clipFolder';
import { parseId, parseMotion, parseSearch } from './requests';
import type { Tagged } from './sendBytes';
import { sendBytes, tagged } from './sendBytes';
import type { LibraryWork } from './work';

/** Limits of the library's service. */
export interface ServiceLimits {
  /** Requests that one address may make in a minute. */
  readonly perMinute: number;
}

/** The clips that are given out. */
export type ServedClips = Pick<ClipFolder, 'catalogue' | 'problems' | 'waiting' | 'check'>;

const LIMITS: ServiceLimits = { perMinute: 1200 };
/** Bytes of prepared clips that are kept for the next who asks for the same. */
const KEPT_BYTES = 64 * 2 ** 20;
/** Files that could not be read, as many as are listed. */
const MOST_PROBLEMS = 100;

const TYPES: Readonly<Record<string, string>> = {
  bvh: 'text/plain',
  glb: 'model/gltf-binary',
  gltf: 'model/gltf+json',
};

/** The library as a JSON service; see `openapi.ts`. Nothing is looked up by path: clips have ids, and only they are found. */
export function libraryRoutes(folder: ServedClips, work: LibraryWork, limits = LIMITS): Router {
  const routes = express.Router();
  const { catalogue } = folder;
  const prepared = new LRUCache<string, Tagged>({
    maxSize: KEPT_BYTES,
    sizeCalculation: (t) => t.bytes.length + 1,
  });
  routes.use(
    rateLimit({
      windowMs: 60_000,
      limit: limits.perMinute,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: tooMany,
    }),
  );
  const clipOf = (id: unknown): ListedClip => {
    const clip = catalogue.clip(parseId(id));
    if (!clip) throw new InputError('no-clip', 'There is no such clip.', { hint: 'Search again.' });
    return clip;
  };
  const bodyOf = (id: string): ListedBody => {
    const body = catalogue.body(id);
    if (!body)
      throw new InputError('no-character', 'There is no such character.', { hint: 'See /api/characters.' });
    return body;
  };

  routes.get('/openapi.json', (_, res) => void res.json(openapi));
  routes.get('/library', (_, res) => {
    const problems = folder.problems();
    const state: ServerState = {
      clips: catalogue.size,
      waiting: folder.waiting,
      problems: problems.slice(0, MOST_PROBLEMS),
      problemCount: problems.length,
    };
    res.json(state);
  });
  routes.get('/characters', (_, res) => void res.json(catalogue.characters()));
  const giveFile = async (req: express.Request, res: express.Response, source: string): Promise<void> => {
    const file = defined(catalogue.fileOf(source));
    await folder.check(file);
    const ending = file.name.replace(/^.*\./, '').toLowerCase();
    const content = tagged(await readFile(file.path));
    sendBytes(req, res, content, TYPES[ending] ?? 'application/octet-stream', posix.basename(file.name));
  };
  routes.get('/characters/:id/file', (req, res) => giveFile(req, res, bodyOf(parseId(req.params.id)).source));
  routes.get('/clips', (req, res) => {
    const question = parseSearch(req.query);
    const { total, clips } = catalogue.search(question);
    res.json({ total, page: question.page, per: question.per, clips });
  });
  routes.get('/clips/:id', (req, res) => void res.json(clipOf(req.params.id)));
  routes.get('/clips/:id/preview', (req, res) => {
    const { places, ...preview } = defined(catalogue.preview(clipOf(req.params.id).id));
    res.json({ ...preview, places: [...places] });
  });
  routes.get('/clips/:id/file', (req, res) => giveFile(req, res, clipOf(req.params.id).source));
  routes.get('/clips/:id/motion', async (req, res) => {
    const clip = clipOf(req.params.id);
    const { character, ...how } = parseMotion(req.query);
    const body = character === null ? null : bodyOf(character);
    const key = JSON.stringify([clip.id, character, how]);
    const clipFile = defined(catalogue.fileOf(clip.source));
    const bodyFile = body && defined(catalogue.fileOf(body.source));
    await folder.check(clipFile);
    if (bodyFile) await folder.check(bodyFile);
    let answer = prepared.get(key);
    if (!answer) {
      answer = tagged(
        await work.prepare({
          clipFile,
          clip: clip.id,
          body: body && bodyFile && { file: bodyFile, id: body.id },
          ...how,
        }),
      );
      prepared.set(key, answer);
    }
    sendBytes(req, res, answer, defined(TYPES[how.format]), `${clip.name}.${how.format}`);
  });
  routes.use(nothingHere);
  routes.use(errorAnswer);
  return routes;
}
