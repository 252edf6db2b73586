import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import express from 'express';
import { LOOPBACK, onlyFor, ownNames } from './hosts';

const server = createServer(
  express().use(
    onlyFor(ownNames(LOOPBACK, 'animation.example, Rig.example')),
    (_, res) => void res.send('here'),
  ),
);
beforeAll(() => new Promise<void>((resolve) => server.listen(0, LOOPBACK, resolve)));
afterAll(() => void server.close());

const ask = (host: string): Promise<number> =>
  new Promise((resolve, reject) => {
    const { port } = server.address() as AddressInfo;
    request({ port, host: LOOPBACK, headers: { host } }, (res) => {
      res.resume();
      resolve(res.statusCode!);
    })
      .on('error', reject)
      .end();
  });

describe('the names that a server answers for', () => {
  it.each([
    'localhost',
    'localhost:4173',
    '127.0.0.1:80',
    '[::1]:4173',
    'LOCALHOST',
    'rig.example',
    'animation.example:1',
  ])('are its own: %s', async (name) => expect(await ask(name)).toBe(200));
  it.each(['evil.example', 'localhost.evil.example', 'evil.example:4173', '10.0.0.1'])(
    'are no others: %s',
    async (name) => expect(await ask(name)).toBe(421),
  );
  it('are more where it listens to other machines', () => {
    expect(ownNames(LOOPBACK).has('10.1.2.3')).toBe(false);
    expect(ownNames('10.1.2.3').has('10.1.2.3')).toBe(true);
  });
});
