import { mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { createServer, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { makeApp } from './app';

const root = mkdtempSync(join(tmpdir(), 'warper-'));
mkdirSync(join(root, 'application/assets'), { recursive: true });
mkdirSync(join(root, 'demonstration'));
writeFileSync(join(root, 'application/index.html'), '<p>the application</p>');
writeFileSync(join(root, 'application/scene.html'), '<p>a workbench</p>');
writeFileSync(join(root, 'application/assets/a.js'), '1');
writeFileSync(join(root, 'demonstration/Set down.bvh'), 'HIERARCHY');
writeFileSync(join(root, 'secret.txt'), 'secret');

const server = createServer(
  makeApp({ application: join(root, 'application'), demonstration: join(root, 'demonstration') }),
);
let port = 0;
beforeAll(async () => {
  await new Promise<void>((resolve) => server.listen(0, resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => void server.close());

/** Asks for a path as it is written, without the client tidying it. */
const get = (path: string): Promise<{ status: number; body: string; headers: Record<string, unknown> }> =>
  new Promise((resolve, reject) => {
    request({ port, path }, (response) => {
      let body = '';
      response.on('data', (chunk) => (body += chunk));
      response.on('end', () => resolve({ status: response.statusCode!, body, headers: response.headers }));
    })
      .on('error', reject)
      .end();
  });

describe('the server', () => {
  it('does what is asked for, and nothing that would change it', async () => {
    for (const method of ['POST', 'PUT', 'DELETE', 'PATCH']) {
      const answer = await fetch(`http://localhost:${port}/api/clips`, { method });
      expect([answer.status, answer.headers.get('allow')]).toEqual([405, 'GET, HEAD']);
    }
    const head = await fetch(`http://localhost:${port}/`, { method: 'HEAD' });
    expect(head.status).toBe(200);
  });

  it('gives nothing on a condition that does not hold', async () => {
    const headers = { 'If-Match': '"another"' };
    expect((await fetch(`http://localhost:${port}/assets/a.js`, { headers })).status).toBe(412);
  });

  it('gives the application at its pages, and its files', async () => {
    for (const path of ['/', '/library', '/scene/x/bake'])
      expect(await get(path)).toMatchObject({ status: 200, body: '<p>the application</p>' });
    expect(await get('/scene/x')).toMatchObject({ status: 200, body: '<p>a workbench</p>' });
    expect((await get('/assets/a.js')).headers['cache-control']).toMatch(/immutable/);
    expect((await get('/demonstration/Set%20down.bvh')).body).toBe('HIERARCHY');
  });

  it('sends the demonstration along with its page, and with no other', async () => {
    expect((await get('/scene/lamp-round')).headers.link).toMatch(/demonstration\.zip.*rel=preload/);
    expect((await get('/scene/x')).headers.link).toBeUndefined();
    expect((await get('/')).headers.link).toBeUndefined();
  });

  it('allows pages nothing from elsewhere', async () => {
    const { headers } = await get('/');
    expect(headers['content-security-policy']).toMatch(/default-src 'self'/);
    expect(headers['x-powered-by']).toBeUndefined();
  });

  it.each([
    '/demonstration/../secret.txt',
    '/demonstration/..%2fsecret.txt',
    '/demonstration/%2e%2e/secret.txt',
    '/..%5csecret.txt',
    '/demonstration/%00',
    '/missing.js',
    '/demonstration/nothing.glb',
    '/.env',
  ])('gives nothing at %s', async (path) => {
    const { status, body } = await get(path);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(body).not.toMatch(/secret|node_modules|\n\s+at /);
  });
});
