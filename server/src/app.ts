import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express from 'express';
import type { Express, Router } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';

/** Folders that the server hands out. */
export interface ServedFolders {
  /** The built application. */
  readonly application: string;
  /** The demonstration's files. */
  readonly demonstration: string;
}

/** The routers of the service, where there is one. */
export interface ServedRoutes {
  readonly library?: Router;
  readonly bakes?: Router;
}

/** Who opens the demonstration without having it is sent its files along with the page. */
const DEMONSTRATION_SCENE = '/scene/lamp-round';
const DEMONSTRATION_AHEAD = '</demonstration.zip>; rel=preload; as=fetch; crossorigin=anonymous';

/** The page of an address: that of a workbench names its scripts ahead of time. */
const pageOf = (path: string): string => (/^\/scene\/[^/]+$/.test(path) ? 'scene.html' : 'index.html');

const ALLOWED = ['GET', 'HEAD'];

/**
 * The application's server: the built pages, the demonstration, and the library's service. Nothing outside their folders
 * can be read.
 */
export function makeApp({ application, demonstration }: ServedFolders, services: ServedRoutes = {}): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', 'strong');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          // A film that the page has just made is shown from its memory.
          'media-src': ["'self'", 'blob:'],
          'script-src': ["'self'"],
          'worker-src': ["'self'", 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'connect-src': ["'self'", 'blob:', 'data:'],
          'font-src': ["'self'"],
          'frame-ancestors': ["'none'"],
          'form-action': ["'self'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  if (services.bakes) app.use('/api', services.bakes);
  // Everything else is asked for; nothing is sent or removed.
  app.use((req, res, next) => {
    if (ALLOWED.includes(req.method)) return next();
    res.status(405).set('Allow', ALLOWED.join(', ')).type('text').send(`${req.method} cannot be done here.`);
  });
  if (services.library) app.use('/api', services.library);
  app.use(
    '/demonstration',
    express.static(demonstration, { index: false, dotfiles: 'deny', fallthrough: false }),
  );
  // What was compressed when it was built is sent so to those who take it.
  app.use(
    expressStaticGzip(application, {
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      index: 'index.html',
      serveStatic: {
        dotfiles: 'deny',
        setHeaders: (res, path) => {
          if (path.includes('/assets/'))
            res.setHeader('Cache-Control', 'public, max-age=31536000, immutable');
        },
      },
    }),
  );
  // Addresses of pages are the application's own; anything that looks like a file is not there.
  app.get(/^\/(?!.*\.[a-z0-9]+$).*$/i, (req, res) => {
    const name = pageOf(req.path);
    if (req.path === DEMONSTRATION_SCENE) res.setHeader('Link', DEMONSTRATION_AHEAD);
    if (existsSync(join(application, name))) res.sendFile(name, { root: application });
    else res.status(503).type('text').send('The application is not built yet: run npm start.');
  });
  app.use((_, res) => void res.status(404).type('text').send('There is nothing at this address.'));
  app.use(((error: { status?: number }, _req, res, _next) => {
    res
      .status(error.status ?? 500)
      .type('text')
      .send('This cannot be given.');
  }) as express.ErrorRequestHandler);
  return app;
}
