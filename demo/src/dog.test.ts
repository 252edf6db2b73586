import { describe, expect, it } from '@jest/globals';
import { jointTracks } from '@warper/core/kernels';
import { dogClips } from './dog';

describe('the dog', () => {
  it.each(dogClips().map((c) => [c.clip.name, c] as const))(
    'stands where its paws are: %s',
    (_, { clip, truth }) => {
      for (const [paw, spans] of Object.entries(truth)) {
        const track = jointTracks(clip, [clip.skeleton.names.indexOf(paw)]);
        for (const [start, end] of spans)
          for (let f = start; f < end; f++)
            for (let k = 0; k < 3; k++)
              expect(Math.abs(track[f * 3 + k]! - track[start * 3 + k]!)).toBeLessThan(1e-4);
      }
    },
  );

  it('sets off from a stand, and stops in one', () => {
    const byName = new Map(dogClips().map(({ clip }) => [clip.name, clip]));
    const pawsOf = (name: string, end: boolean): number[] => {
      const clip = byName.get(name)!;
      const paws = clip.skeleton.names.flatMap((n, j) => (n.endsWith('Paw') ? [j] : []));
      const tracks = jointTracks(clip, [clip.skeleton.rootBone, ...paws]);
      const row = tracks.subarray((end ? clip.frames - 1 : 0) * 15, (end ? clip.frames : 1) * 15);
      // About the hips, along the floor.
      return paws.map((_, i) => row[(i + 1) * 3 + 2]! - row[2]!);
    };
    const stand = pawsOf('Dog stand', false);
    for (const [name, end] of [
      ['Dog trot start', false],
      ['Dog trot stop', true],
    ] as const)
      pawsOf(name, end).forEach((z, i) => expect(z).toBeCloseTo(stand[i]!, 4));
  });
});
