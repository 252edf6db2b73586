import { copyFileSync, existsSync, mkdtempSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { at, folder, sheet, warper, write } from './testing';

/** A short scene: what is wrong lies in what is asked of it. */
const round = write('short.cues.json', sheet([{ clip: 'keeper-walk.glb' }], { body: 'keeper.glb' }));

describe('errors', () => {
  it.each<[string, () => string[], number, RegExp]>([
    ['no such file', () => ['inspect', at('nothing.bvh')], 1, /there is no such file/],
    [
      'a picture renamed',
      () => ['inspect', write('picture.glb', '\u0089PNG\r\n')],
      1,
      /no motion file|picture/,
    ],
    ['an unknown command', () => ['polish'], 2, /unknown command/],
    ['no output', () => ['bake', round, '--character', 'Keeper'], 2, /output/],
    [
      'another format',
      () => ['bake', round, '--character', 'Keeper', '-o', at('x.doc')],
      2,
      /a \.glb, .*\.bvh.* file, or a folder/,
    ],
    [
      'a character that is not there',
      () => ['bake', round, '--character', 'Cat', '-o', at('x.glb')],
      1,
      /no character "Cat". It has "Keeper"/,
    ],
    [
      'an empty range',
      () => ['bake', round, '--character', 'Keeper', '-o', at('x.glb'), '--from', '9', '--to', '9'],
      1,
      /holds no frame/,
    ],
    [
      'a sheet with an unknown key',
      () => ['check', write('bad.cues.json', sheet([{ clip: 'keeper-walk.glb', repaet: 2 }]))],
      1,
      /Did you mean "repeat"/,
    ],
    [
      'a path out of the folder',
      () => ['check', write('out.cues.json', sheet([{ clip: '../keeper.glb' }]))],
      1,
      /outside the folder/,
    ],
    [
      'an absolute path',
      () => ['check', write('abs.cues.json', sheet([{ clip: '/etc/hosts' }]))],
      1,
      /outside the folder/,
    ],
    [
      'a scale for GLB',
      () => ['bake', round, '--character', 'Keeper', '-o', at('x.glb'), '--scale', '100'],
      1,
      /always in metres/,
    ],
    ['no JSON', () => ['check', write('text.cues.json', 'walk, turn, walk')], 1, /no JSON/],
    [
      'two takes in one',
      () => ['match', at('keeper.glb'), at('keeper-walk.glb')],
      1,
      /0 takes that are motion/,
    ],
    [
      'nothing within',
      () => ['match', at('keeper-walk.glb'), at('keeper-walk.glb'), '--within', '0'],
      2,
      /whole number from 1 on/,
    ],
    [
      'a bone map with a role that does not exist',
      () => [
        'inspect',
        at('keeper-walk.glb'),
        '--map',
        write('wrong.map.json', { format: 'warper-map', version: 1, roles: { leftFoot: 'leftFeet' } }),
      ],
      1,
      /no role "leftFeet".*leftFoot/s,
    ],
    ['a limit below zero', () => ['check', round, '--max-pop', '-1'], 2, /from 0 on/],
    ['half a pair', () => ['match', at('capture.bvh'), at('capture.bvh'), '--top', '0.5'], 2, /whole number/],
    [
      'a scale beyond all measure',
      () => ['bake', round, '--character', 'Keeper', '-o', at('x.bvh'), '--scale', '1e300'],
      2,
      /0\.001 to 1000000/,
    ],
    [
      'reduced keys where every frame has one',
      () => ['bake', round, '--character', 'Keeper', '-o', at('x.bvh'), '--keys', 'reduced'],
      1,
      /BVH has one key a frame/,
    ],
    ['a device that never ends', () => ['inspect', '/dev/zero'], 1, /it is no file/],
    [
      'a result in the place of what it is made from',
      () => [
        'bake',
        write('own.json', sheet([{ clip: 'capture.bvh' }])),
        '--character',
        'Keeper',
        '-o',
        at('capture.bvh'),
      ],
      1,
      /one of the files that it would be made from/,
    ],
    [
      'a result in the place of the sheet, by another way',
      () => [
        'assemble',
        write('own.json', sheet([{ clip: 'capture.bvh' }])),
        '-o',
        join(folder, 'x', '..', 'own.json'),
      ],
      1,
      /one of the files that it would be made from/,
    ],
    ...(['assemble', 'check', 'bake'] as const).flatMap((command) =>
      (
        [
          ['length', { length: 9_000_000 }],
          ['repeat', { repeat: 99_999 }],
          ['speed', { speed: 1e-9 }],
        ] as const
      ).map(([what, values]): [string, () => string[], number, RegExp] => [
        `a mistyped ${what} in ${command}`,
        () => [
          command,
          write(`long-${what}.json`, sheet([{ clip: 'keeper-walk.glb', take: 'Walk', ...values }])),
          ...(command === 'assemble' ? ['-o', at('x.warper')] : []),
          ...(command === 'bake' ? ['-o', at('x.glb'), '--character', 'Keeper'] : []),
        ],
        1,
        /would perform for \d+ frames/,
      ]),
    ),
  ])('%s', async (_, args, code, message) => {
    const ran = await warper(...args());
    expect(ran.code).toBe(code);
    expect(ran.err).toMatch(message);
    expect(ran.out).toBe('');
    expect(existsSync(at('x.glb'))).toBe(false);
    expect(readdirSync(folder).filter((f) => f.endsWith('.part'))).toEqual([]);
  });

  it('follows no link out of the folder of the sheet', async () => {
    const elsewhere = mkdtempSync(join(tmpdir(), 'warper-'));
    copyFileSync(at('keeper-walk.glb'), join(elsewhere, 'walk.glb'));
    symlinkSync(join(elsewhere, 'walk.glb'), at('linked.glb'));
    expect((await warper('check', write('link.cues.json', sheet([{ clip: 'linked.glb' }])))).err).toMatch(
      /outside the folder/,
    );
  });

  it('a .gltf is given nothing from outside its folder, by name or by link', async () => {
    const inside = mkdtempSync(join(tmpdir(), 'warper-gltf-'));
    const buffer = (uri: string): string => {
      const path = join(inside, 'a.gltf');
      writeFileSync(
        path,
        JSON.stringify({ asset: { version: '2.0' }, buffers: [{ uri, byteLength: 4 }], nodes: [{}] }),
      );
      return path;
    };
    const secret = write('secret.bin', 'abcdefgh');
    symlinkSync(secret, join(inside, 'link.bin'));
    for (const uri of ['link.bin', '../secret.bin', secret, '..%2Fsecret.bin']) {
      const { code, err } = await warper('inspect', buffer(uri));
      expect(code).toBe(1);
      expect(err).toMatch(/was not given/);
    }
  });

  it('with --json are one document on stdout as well', async () => {
    const { code, json, err } = await warper(
      'check',
      write('bad2.cues.json', sheet([{ clip: 'keeper-walk.glb', out: 99 }])),
      '--json',
    );
    expect(code).toBe(1);
    expect(json).toMatchObject({
      error: {
        code: 'cues',
        place: { path: 'characters[0].cues[0].out' },
        file: expect.stringContaining('bad2'),
      },
    });
    expect(err.trim().split('\n')).toHaveLength(1);
  });

  it('every command has help', async () => {
    for (const command of ['inspect', 'assemble', 'check', 'bake', 'match']) {
      const { code, out } = await warper(command, '--help');
      expect(code).toBe(0);
      expect(out).toMatch(/--json/);
    }
  });
});
