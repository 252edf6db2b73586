import { describe, expect, it } from '@jest/globals';
import type { ContinuityItem } from '@warper/core';
import { compile, continuityReport, defined } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { makeDemonstration } from './demonstration';

const files = await makeDemonstration();

/** What is told of somebody who climbs two steps, of 0.17 m rise and 0.3 m run as the clip has them, on a thing that stands there. */
async function told(prop: object, more: object = {}): Promise<ContinuityItem[]> {
  const sheet = parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      { name: 'Keeper', body: 'keeper.glb', cues: [{ clip: 'keeper-climb.glb' }] },
      { name: 'Stair', prop, start: { x: 0, z: 0.51, heading: 0 }, ...more },
    ],
  });
  const { scene, library } = await assembleCues(sheet, (name) => Promise.resolve(defined(files.get(name))));
  return continuityReport(compile(scene, library)).filter((i) => i.kind === 'tread');
}
const stair = (height: number, raised = 0): object => ({ shape: 'stair', size: [1, height, 0.6], raised });

// The clip's own numbers, see gaits.ts: feet are a few millimetres off them while they roll.
describe('feet on a stair', () => {
  it('that is as high as the clip climbs stand on it', async () => {
    expect(await told(stair(0.34))).toEqual([]);
  });

  it('are over one that is lower and in one that is higher, by as much', async () => {
    const [low] = await told(stair(0.3));
    expect(low).toMatchObject({ grade: 'watch', name: 'Keeper on Stair', value: expect.closeTo(4, 0) });
    expect(low!.cause).toMatch(/is 4 cm over Stair/);
    const [high] = await told(stair(0.34, 0.06));
    expect(high).toMatchObject({ grade: 'bad', value: expect.closeTo(-6, 0) });
    expect(high!.cause).toMatch(/is 6 cm in Stair/);
  });

  it('have nothing to do with one that stands elsewhere, or that they walk below', async () => {
    expect(await told(stair(0.3), { start: { x: 2, z: 0.51, heading: 0 } })).toEqual([]);
    expect(await told({ shape: 'bench', size: [1, 0.02, 1], raised: 0.6 })).toEqual([]);
  });
});
