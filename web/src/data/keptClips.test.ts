import './fakeStorage';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { listClip, readMotionFile } from '@warper/formats';
import { db } from './db';
import { keptClips, readClips, removeDamaged } from './keptClips';

const bytes = new Uint8Array(readFileSync(new URL('../../../demo/made/keeper-walk.glb', import.meta.url)));
const { clips, source } = await readMotionFile(bytes, 'keeper-walk.glb');
const kept = { ...listClip(clips[0]!, source, 'keeper-walk.glb'), order: 2, tags: [], collections: [] };

beforeEach(() => db.clips.clear());

describe('the clips of this browser', () => {
  it('are given in their order, whatever else is kept in their place', async () => {
    const junk = [
      { id: 'none' },
      { ...kept, id: 'facts', facts: null },
      { ...kept, id: 'tags', tags: 'walk' },
      { ...kept, id: 'frames', facts: { ...kept.facts, frames: NaN } },
      { ...kept, id: 'loop', facts: { ...kept.facts, loop: undefined } },
    ];
    await db.clips.bulkPut([kept, { ...kept, id: 'first', order: 1 }, ...(junk as never[])]);
    expect((await keptClips()).map((c) => c.id)).toEqual(['first', kept.id]);
    const { damaged } = await readClips();
    expect(damaged.map((d) => d.id).sort()).toEqual(['facts', 'frames', 'loop', 'none', 'tags']);
    await removeDamaged(damaged);
    expect((await readClips()).damaged).toEqual([]);
    expect(await keptClips()).toHaveLength(2);
  });
});
