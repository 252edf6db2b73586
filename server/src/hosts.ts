import { hostname } from 'node:os';
import type { RequestHandler } from 'express';

/** The address that the server listens on unless told otherwise: only this machine reaches it. */
export const LOOPBACK = '127.0.0.1';

const LOCAL = ['localhost', '127.0.0.1', '[::1]'];

/**
 * The names under which a server answers: those of this machine, and where it listens to others as well, the address that it
 * was told to listen on, the machine's own name and those that are given.
 *
 * @param more names, separated by commas
 */
export function ownNames(host: string, more = ''): ReadonlySet<string> {
  const given = more.split(',').map((name) => name.trim().toLowerCase());
  const others = host === LOOPBACK ? [] : [host, hostname()];
  return new Set([...LOCAL, ...others.map((n) => n.toLowerCase()), ...given].filter((n) => n !== ''));
}

/**
 * Answers only for the server's own names, so that no page of another site reaches it through a name of its own that leads
 * here (DNS rebinding).
 */
export function onlyFor(names: ReadonlySet<string>): RequestHandler {
  return (req, res, next) => {
    const name = (req.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    if (names.has(name)) return next();
    res
      .status(421)
      .type('text')
      .send(`This server does not answer for "${name.slice(0, 80)}". Name it in WARPER_HOSTS to let it.`);
  };
}
