import { describe, expect, it } from '@jest/globals';
import { readMotionFile } from '@warper/formats';
import { PLAIN_CHARACTER, defined } from '@warper/core';
import { readFileSync } from 'node:fs';
import { legsRemark } from './legsRemark';

const read = async (file: string) =>
  defined((await readMotionFile(new Uint8Array(readFileSync(`demo/made/${file}`)), file)).clips[0]);

describe('a clip of other legs', () => {
  it('is remarked on, whichever way it goes; one of the same legs is not', async () => {
    const [walk, trot] = [await read('keeper-walk.glb'), await read('dog-trot.glb')];
    const on = (name: string, { skeleton }: typeof walk) => ({
      character: { ...PLAIN_CHARACTER, id: 'c', name, body: 'b' },
      skeleton,
    });
    expect(legsRemark(trot, on('Keeper', walk))).toMatch(/recorded on four legs, Keeper walks on two legs/);
    expect(legsRemark(walk, on('Dog', trot))).toMatch(/recorded on two legs, Dog walks on four legs/);
    expect(legsRemark(walk, on('Keeper', walk))).toBeNull();
    const prop = { ...walk.skeleton, roles: walk.skeleton.roles.map(() => null) };
    expect(legsRemark(trot, { ...on('Crate', walk), skeleton: prop })).toBeNull();
  });
});
