import { copyFileSync, existsSync, mkdtempSync, readdirSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { at, folder, sheet, warper, write } from './testing';

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
    ['no output', () => ['bake', at('lamp-round.cues.json'), '--character', 'Keeper'], 2, /output/],
    [
      'another format',
      () => ['bake', at('lamp-round.cues.json'), '--character', 'Keeper', '-o', at('x.doc')],
      2,
      /\.bvh or \.glb/,
    ],
    [
      'a character that is not there',
      () => ['bake', at('lamp-round.cues.json'), '--character', 'Cat', '-o', at('x.glb')],
      1,
      /no character "Cat". It has "Keeper"/,
    ],
    [
      'an empty range',
      () => [
        'bake',
        at('lamp-round.cues.json'),
        '--character',
        'Keeper',
        '-o',
        at('x.glb'),
        '--from',
        '9',
        '--to',
        '9',
      ],
      1,
      /can be baked/,
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
      () => [
        'bake',
        at('lamp-round.cues.json'),
        '--character',
        'Keeper',
        '-o',
        at('x.glb'),
        '--scale',
        '100',
      ],
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
      1,
      /not a number of frames/,
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
    [
      'reduced keys, which are not there yet',
      () => [
        'bake',
        at('lamp-round.cues.json'),
        '--character',
        'Keeper',
        '-o',
        at('x.glb'),
        '--keys',
        'reduced',
      ],
      1,
      /cannot be done yet/,
    ],
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
