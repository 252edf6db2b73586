import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { at, warper, write } from './testing';

describe('a scene with cameras and shots', () => {
  it('check tells the shots, and which cuts cross the line between two', async () => {
    const { json } = await warper('check', at('before-dark.cues.json'), '--json');
    const { shots } = json as {
      shots: { name: string; camera: string; start: number; crosses: unknown[] }[];
    };
    expect(shots[1]).toEqual({
      name: 'On the lead',
      camera: 'Beside the dog',
      start: 122,
      end: 232,
      blend: 0,
      crosses: [],
    });
    expect(shots.flatMap((s) => s.crosses)).toEqual([]);
    const dark = JSON.parse(readFileSync(at('before-dark.cues.json'), 'utf8')) as { cameras: object[] };
    const [gallery, ...others] = dark.cameras;
    const behind = { ...dark, cameras: [{ ...gallery, place: [1.5, 1.7, -7.3] }, ...others] };
    const { out } = await warper('check', write('behind.cues.json', behind));
    expect(out).toContain('[122, 232)  On the lead: Beside the dog; crosses the line between Keeper and Dog');
  });

  it('bake takes the cameras along, or not', async () => {
    const cameras = (file: string): unknown[] => {
      const bytes = readFileSync(at(file));
      const text = bytes.subarray(20, 20 + bytes.readUInt32LE(12)).toString('utf8');
      return (JSON.parse(text) as { cameras?: unknown[] }).cameras ?? [];
    };
    for (const [file, more, count] of [
      ['filmed.glb', [], 6],
      ['unfilmed.glb', ['--no-cameras'], 0],
    ] as const) {
      const args = ['--character', 'Keeper', '--from', '0', '--to', '30', '-o', at(file), ...more];
      expect((await warper('bake', at('before-dark.cues.json'), ...args)).code).toBe(0);
      expect(cameras(file)).toHaveLength(count);
    }
  });
});
