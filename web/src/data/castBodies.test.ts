import { describe, expect, it } from '@jest/globals';
import { castBodies } from './castBodies';
import type { StoredBody } from './db';

const body = (id: string, skinned: boolean, signature: string, heightMetres = 1.7): StoredBody => ({
  id,
  source: `file ${id}`,
  name: `Body ${id}`,
  signature,
  joints: 20,
  skinned,
  heightMetres,
});
const files = ['a', 'b', 'c', 'd'].map((id) => ({ id: `file ${id}`, file: `${id}.glb` }));

describe('the bodies to choose from', () => {
  it('are those with a skin first, then skeletons named by their file', () => {
    const cast = castBodies([body('b', false, 'other'), body('a', true, 'person')], files);
    expect(cast.map((c) => [c.name, c.from])).toEqual([
      ['Body a', 'a.glb'],
      ['b', 'b.glb'],
    ]);
  });

  it('are told by their names, whatever their files', () => {
    const cast = castBodies([body('c', true, 'x'), body('a', true, 'y'), body('b', true, 'z')], files);
    expect(cast.map((c) => c.name)).toEqual(['Body a', 'Body b', 'Body c']);
  });

  it('are one for the same skeleton, and none where a body with a skin has it', () => {
    const clips = [body('b', false, 'other'), body('c', false, 'other'), body('d', false, 'person')];
    const cast = castBodies([body('a', true, 'person'), ...clips], files);
    expect(cast.map((c) => c.from)).toEqual(['a.glb', 'b.glb and 1 more']);
  });

  it('are two where one is larger', () => {
    expect(castBodies([body('b', false, 'x', 1.7), body('c', false, 'x', 1.2)], files)).toHaveLength(2);
  });
});
