import { describe, expect, it } from '@jest/globals';
import { bake } from '../bake/bake';
import { compile } from '../compile/compile';
import { library, slow, turn, walk } from '../testing/arranging';
import { clipsScene } from './clipsScene';
import { parseScene } from './schema';

describe('clips that are each to be baked by themselves', () => {
  const scene = clipsScene(
    'Three clips',
    [walk, turn, slow, walk].map((clip, i) => ({
      clip,
      body: i === 2 ? 'other' : 'body',
      bodyName: i === 2 ? 'Other' : 'Body',
    })),
  );
  const plan = compile(scene, library);

  it('are a scene that can be kept, with a character for each body and a region for each clip', () => {
    expect(parseScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
    expect(plan.characters.map((c) => [c.character.name, c.segments.length])).toEqual([
      ['Body', 3],
      ['Other', 1],
    ]);
    expect(scene.markers.map((m) => m.name)).toEqual([walk, turn, slow, walk].map((c) => c.name));
    const ends = scene.markers.map((m) => [m.frame, m.end!]);
    for (const [i, [from]] of ends.entries()) if (i > 0) expect(from).toBeGreaterThan(ends[i - 1]![1]!);
  });

  it('are baked, each by its region, as they were recorded', () => {
    [walk, turn, slow, walk].forEach((clip, i) => {
      const { frame: from, end } = scene.markers[i]!;
      const baked = bake(plan.characters[i === 2 ? 1 : 0]!, plan.rate, { from, to: end! });
      expect(baked.frames).toBe(Math.floor((clip.frames * walk.rate) / clip.rate + 0.5));
      if (clip.rate !== walk.rate) return;
      baked.translations.forEach((v, k) => expect(v).toBeCloseTo(clip.translations[k]!, 5));
      baked.rotations.forEach((v, k) => expect(Math.abs(v)).toBeCloseTo(Math.abs(clip.rotations[k]!), 5));
    });
  });
});
