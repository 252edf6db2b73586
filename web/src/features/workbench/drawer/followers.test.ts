import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Clip } from '@warper/core';
import { Memory, clipEntry, compile, defined } from '@warper/core';
import { assembleCues, parseCueSheet, readMotionFile } from '@warper/formats';
import { inOrder } from './useFollowers';
import type { StoredClip } from '../../../workers/kept';
import { followSegment, rankByEntries } from '../../../workers/followSegment';

const made = (name: string): Uint8Array => new Uint8Array(readFileSync(`demo/made/${name}`));
const NAMES = ['wave', 'walk', 'turn-right-90', 'look-out', 'walk-stop', 'walk-start'];

it('ranks clips by how well they follow a segment, and leaves out those of other bodies', async () => {
  const sheet = parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      {
        name: 'Keeper',
        body: 'keeper.glb',
        cues: [{ clip: 'keeper-walk.glb' }, { clip: 'keeper-idle.glb' }],
      },
    ],
  });
  const { scene, library } = await assembleCues(sheet, (name) => Promise.resolve(made(name)));
  const files = [...NAMES.map((n) => `keeper-${n}.glb`), 'dog-trot.glb'];
  const clips: Clip[] = [];
  for (const file of files) clips.push(...(await readMotionFile(made(file), file)).clips);
  const nameOf = (id: string): string => defined(clips.find((c) => c.id === id)).name;
  const [walk, idle] = defined(scene.lanes.c1body).segments as [string, string];
  const plan = compile(scene, library);
  const entries = clips.map((clip) => ({ id: clip.id, ...clipEntry(clip, new Memory()) }));
  const following = (segment: string) => {
    const ranked = rankByEntries(plan, segment, entries);
    expect(ranked.map((f) => f.distanceCm)).toEqual(NAMES.map(() => null));
    return followSegment(plan, segment, ranked, clips);
  };
  const [afterWalk, afterIdle] = [following(walk), following(idle)];
  expect(
    afterWalk
      .map((f) => nameOf(f.clip))
      .slice(0, 3)
      .sort(),
  ).toEqual(['Turn right 90', 'Walk', 'Walk stop']);
  expect(
    afterIdle
      .map((f) => nameOf(f.clip))
      .slice(0, 3)
      .sort(),
  ).toEqual(['Look out', 'Walk start', 'Wave']);
  expect(afterWalk.some((f) => /trot/i.test(nameOf(f.clip)))).toBe(false);
  for (const f of afterWalk) expect(f.distanceCm).toBeGreaterThanOrEqual(0);
  expect(rankByEntries(plan, 'gone', entries)).toEqual([]);
  expect(followSegment(plan, 'gone', [], clips)).toEqual([]);
});

describe('clips by their rank', () => {
  it('come first, the others behind them as they were', () => {
    const clip = (id: string) => ({ id }) as StoredClip;
    const { clips, distances } = inOrder(['a', 'b', 'c', 'd'].map(clip), [
      { clip: 'c', distanceCm: 1.5 },
      { clip: 'b', distanceCm: null },
    ]);
    expect(clips.map((c) => c.id)).toEqual(['c', 'b', 'a', 'd']);
    expect([...distances]).toEqual([['c', 1.5]]);
  });
});
