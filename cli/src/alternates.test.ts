import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { at, warper } from './testing';

describe('a scene with alternates', () => {
  it('is baked as the one in hand, or as one by its name', async () => {
    const scene = at('look-out.warper');
    expect((await warper('assemble', at('look-out.cues.json'), '-o', scene)).code).toBe(0);
    const framesOf = async (...more: string[]): Promise<unknown> => {
      const { json } = await warper('check', scene, ...more, '--json');
      return (json as { characters: { segments: { clip: string }[] }[] }).characters[0]?.segments[4]?.clip;
    };
    expect(await framesOf()).toBe('Look out');
    expect(await framesOf('--alternate', 'Over the rail')).toBe('Lean over the rail');
    const missing = await warper('check', scene, '--alternate', 'Sitting', '--json');
    expect(missing.code).toBe(1);
    expect(missing.json).toMatchObject({
      error: {
        code: 'no-alternate',
        message: 'The scene has no alternate "Sitting".',
        hint: 'It has "Hand over the eyes", "Over the rail".',
      },
    });
    const other = await warper('bake', at('lamp-round.cues.json'), '--alternate', 'x', '-o', at('x.glb'));
    expect(other.code).toBe(1);
    expect(other.err).toMatch(/none: leave --alternate out/);
    expect(existsSync(at('x.glb'))).toBe(false);
  });

  it('is baked in all of them at once, into a folder, one file each', async () => {
    mkdirSync(at('bakes'));
    const args = ['bake', at('look-out.cues.json'), '--alternates', '--character', 'Keeper'];
    const { json, code } = await warper(...args, '-o', `${at('bakes')}/`, '--json');
    expect(code).toBe(0);
    expect((json as { alternates: { alternate: string }[] }).alternates.map((a) => a.alternate)).toEqual([
      'Hand over the eyes',
      'Over the rail',
    ]);
    const files = readdirSync(at('bakes'));
    expect(files.sort()).toEqual([
      'The-Look-out-Hand-over-the-eyes-Keeper.glb',
      'The-Look-out-Over-the-rail-Keeper.glb',
    ]);
    for (const file of files) expect(statSync(`${at('bakes')}/${file}`).size).toBeGreaterThan(10_000);
    expect((await warper(...args, '-o', at('one.glb'))).code).toBe(2);
    const both = [...args, '--alternate', 'Over the rail', '-o', `${at('bakes')}/`];
    expect((await warper(...both)).code).toBe(2);
    const none = await warper('bake', at('lamp-round.cues.json'), '--alternates', '-o', `${at('bakes')}/`);
    expect(none.code).toBe(1);
    expect(none.err).toMatch(/has no alternates/);
  });
});
