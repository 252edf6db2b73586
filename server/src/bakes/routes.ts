import { InputError } from '@warper/core';
import type { Request, Response, Router } from 'express';
import express from 'express';
import { rateLimit } from 'express-rate-limit';
import { checkQuery } from '../checkQuery';
import { errorAnswer, nothingHere, sendError, tooMany } from '../sendError';
import { parseBake } from './asks';
import type { Bakes } from './bakes';
import { sendEvents } from './events';
import { receiveScene } from './receive';
import { bakeIdRules, bakeListRules } from './rules';

/** Largest scene file that is taken, bytes. */
const MOST_SCENE_BYTES = 512 * 2 ** 20;
/** Requests that one address may make in a minute. */
const PER_MINUTE = 1200;
/**
 * Bakes as jobs; see `openapi.ts`.
 *
 * @param folder where scene files are kept while they are being received
 */
export function bakeRoutes(bakes: Bakes, folder: string, mostSceneBytes = MOST_SCENE_BYTES): Router {
  const routes = express.Router();
  const idOf = (req: Request): string => checkQuery<{ id: string }>(bakeIdRules, { id: req.params.id }).id;
  routes.use(
    rateLimit({
      windowMs: 60_000,
      limit: PER_MINUTE,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: tooMany,
    }),
  );
  routes
    .route('/bakes')
    .get(async (req, res) => {
      const { page, per } = checkQuery<{ page: number; per: number }>(bakeListRules, req.query);
      res.set('Cache-Control', 'no-store').json(await bakes.list((page - 1) * per, per));
    })
    .post(async (req, res) => {
      const ask = parseBake(req.query);
      const job = await bakes.create(await receiveScene(req, folder, mostSceneBytes), ask);
      res.status(201).location(`/api/bakes/${job.id}`).json(job);
    })
    .all(allow('GET, HEAD, POST'));
  routes
    .route('/bakes/:id')
    .get(async (req, res) => void res.set('Cache-Control', 'no-store').json(await bakes.find(idOf(req))))
    .delete(async (req, res) => {
      await bakes.remove(idOf(req));
      res.status(204).end();
    })
    .all(allow('GET, HEAD, DELETE'));
  routes
    .route('/bakes/:id/events')
    .get((req, res) => sendEvents(bakes, idOf(req), req, res))
    .all(allow('GET, HEAD'));
  routes
    .route('/bakes/:id/files/:name')
    .get(async (req, res) => {
      const { name = '' } = req.params;
      const { path, type, sha256 } = await bakes.file(idOf(req), name);
      // A strong ETag (RFC 9110, 8.8.3): the content's own hash.
      res.attachment(name).type(type).set('ETag', `"${sha256}"`);
      await new Promise<void>((done, fail) =>
        res.sendFile(path, { dotfiles: 'allow', lastModified: false, cacheControl: false }, (error) => {
          // Who breaks off has all that was wanted.
          if (error && !res.headersSent) fail(error);
          else done();
        }),
      );
    })
    .all(allow('GET, HEAD'));
  routes.use('/bakes', nothingHere, errorAnswer);
  return routes;
}

const allow =
  (methods: string) =>
  (req: Request, res: Response): void => {
    res.set('Allow', methods);
    sendError(res, new InputError('method', `${req.method} cannot be done here.`), 405);
  };
