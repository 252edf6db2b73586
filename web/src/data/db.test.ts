import './fakeStorage';
import { describe, expect, it } from '@jest/globals';
import Dexie from 'dexie';
import { db } from './db';

/** A clip as version 1 kept it. */
const FIRST = {
  id: 'f#0',
  source: 'f',
  name: 'Walk',
  order: 7,
  facts: {
    frames: 31,
    rate: 30,
    seconds: 1,
    travelMetres: 1.3,
    turnDegrees: 0,
    floatCm: 0.1,
    leftFoot: [{ start: 0, end: 16 }],
    rightFoot: [],
    loop: { verdict: 'doubled', in: 0, out: 31, period: 30, gapMetres: 0, cycle: { x: 0, z: 1.3, turn: 0 } },
    restPose: false,
  },
  strip: [
    [
      [0, 1.5, 0.02, 1.65],
      [0, 0.9, 0, 1.5],
    ],
    [
      [0.01, 1.5, 0.03, 1.64],
      [0, 0.91, 0, 1.5],
    ],
  ],
};

describe('what a browser keeps', () => {
  it('is brought over from version 1: nothing is lost, and what is new has a value', async () => {
    const first = new Dexie('warper');
    first.version(1).stores({
      scenes: 'id, updatedAt',
      files: 'id',
      clips: 'id, source, order',
      bodies: 'id, source',
    });
    await first.table('files').put({ id: 'f', file: 'walk.glb', bytes: Uint8Array.of(1, 2), addedAt: 1 });
    await first.table('clips').put(FIRST);
    first.close();

    const clip = (await db.clips.get('f#0'))!;
    expect(clip).toMatchObject({ name: 'Walk', order: 7, file: 'walk.glb', tags: [], collections: [] });
    expect(clip.facts).toMatchObject({ frames: 31, meanSpeed: 1.3, jumps: [] });
    expect(clip.facts.strideSpeed).toBeCloseTo(1.3, 9);
    expect(clip.facts.loop.gapDegrees).toBe(0);
    expect(clip).not.toHaveProperty('strip');
    expect(await db.previews.get('f#0')).toEqual({
      id: 'f#0',
      figures: 2,
      lines: 2,
      places: Int16Array.of(0, 1500, 20, 1650, 0, 900, 0, 1500, 10, 1500, 30, 1640, 0, 910, 0, 1500),
    });
    expect((await db.files.get('f'))!.bytes).toEqual(Uint8Array.of(1, 2));
  });
});
