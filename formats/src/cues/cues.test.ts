import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { InputError, compile, layOut } from '@warper/core';
import { makeTestGlb } from '../testing';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const load = (name: string): Promise<Uint8Array> => Promise.resolve(made(name));
const sheet = (cues: object[], more: object = {}): unknown => ({
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters: [{ name: 'Keeper', cues }],
  ...more,
});
const spans = async (value: unknown): Promise<string[]> => {
  const { scene, library } = await assembleCues(parseCueSheet(value), load);
  return Object.values(scene.lanes).flatMap((lane) =>
    layOut(scene, lane, library).map((p) => `[${p.start}, ${p.end})`),
  );
};
const failure = async (value: unknown): Promise<InputError> => {
  try {
    await assembleCues(parseCueSheet(value), load);
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    return error as InputError;
  }
  throw new Error('it was accepted');
};
const walk = { clip: 'keeper-walk.glb' };
const turn = { clip: 'keeper-turn-round.glb' };

describe('the worked examples of docs/cue-sheet.md', () => {
  const text = readFileSync(new URL('../../../docs/cue-sheet.md', import.meta.url), 'utf8');
  const examples = [...text.matchAll(/```json\n([\s\S]*?)```([\s\S]*?)(?=\n## )/g)].map((m) => ({
    sheet: JSON.parse(m[1]!),
    prose: m[2]!,
  }));

  it('are nine, and each comes out as its prose says', async () => {
    expect(examples).toHaveLength(9);
    for (const example of examples) {
      const said = [...example.prose.matchAll(/\[\d+, \d+\)/g)].map((m) => m[0]);
      expect(said.length).toBeGreaterThan(0);
      expect(await spans(example.sheet)).toEqual(said);
    }
  });
});

describe('laying out', () => {
  it('gives the example of the contract: [0, 90), then a 40-frame turn with overlap 8 at [82, 122)', async () => {
    expect(
      await spans(
        sheet([
          { ...walk, repeat: 3 },
          { ...turn, length: 40, seam: { overlap: 8 } },
        ]),
      ),
    ).toEqual(['[0, 90)', '[82, 122)']);
  });

  it('cuts between repeats of one loop, overlaps between different clips', async () => {
    expect(await spans(sheet([{ ...walk, repeat: 2 }, { ...walk, repeat: 2 }, turn]))).toEqual([
      '[0, 60)',
      '[60, 120)',
      '[112, 254)',
    ]);
  });

  it('keeps the default overlap to what there is room for', async () => {
    // 10 frames leave room for half of them.
    expect(await spans(sheet([walk, { ...turn, out: 10 }]))).toEqual(['[0, 31)', '[26, 36)']);
    expect(await spans(sheet([{ ...walk, out: 4 }, turn]))).toEqual(['[0, 4)', '[0, 142)']);
  });

  it('starts each character on its own and places it', async () => {
    const { scene, library } = await assembleCues(
      parseCueSheet({
        format: 'warper-cues',
        version: 1,
        rate: '30000/1001',
        characters: [
          { name: 'A', body: 'keeper.glb', start: { x: 1 }, cues: [walk] },
          { name: 'B', cues: [walk, turn] },
        ],
      }),
      load,
    );
    const plan = compile(scene, library);
    expect(plan.characters.map((c) => c.character.name)).toEqual(['A', 'B']);
    expect(plan.characters[0]!.character.start).toEqual({ x: 1, z: 0, heading: 0 });
    expect(plan.characters[1]!.character.start).toBeNull();
    expect(plan.rate).toEqual({ num: 30000, den: 1001 });
  });
});

describe('settling', () => {
  it('has no overlap and 0.3 s unless said otherwise', async () => {
    const { scene } = await assembleCues(
      parseCueSheet(
        sheet([
          walk,
          { ...turn, seam: { kind: 'settle' } },
          { ...walk, seam: { kind: 'settle', frames: 14 } },
        ]),
      ),
      load,
    );
    expect(
      Object.values(scene.segments).map((s) => [s.start, s.seam.kind === 'settle' && s.seam.frames]),
    ).toEqual([
      [0, false],
      [31, 9],
      [173, 14],
    ]);
  });
});

describe('what is wrong with a sheet', () => {
  const cases: [string, unknown, string, RegExp, RegExp?][] = [
    [
      'an unknown key',
      sheet([{ ...walk, repeats: 3 }]),
      'characters[0].cues[0].repeats',
      /Unknown key "repeats"/,
      /"repeat"/,
    ],
    [
      'an unknown key at the top',
      { ...(sheet([walk]) as object), rates: 3 },
      'rates',
      /Unknown key/,
      /"rate"/,
    ],
    [
      'an unknown key of a seam',
      sheet([walk, { ...turn, seam: { overlp: 3 } }]),
      'characters[0].cues[1].seam.overlp',
      /Unknown/,
      /"overlap"/,
    ],
    ['a missing clip', sheet([{ take: 'x' }]), 'characters[0].cues[0].clip', /clip/],
    ['an out beyond the clip', sheet([{ ...walk, out: 99 }]), 'characters[0].cues[0].out', /31 samples/],
    ['an in after its out', sheet([{ ...walk, in: 9, out: 9 }]), 'characters[0].cues[0].in', /9/],
    [
      'length and speed',
      sheet([{ ...walk, length: 9, speed: 2 }]),
      'characters[0].cues[0].length',
      /not both/,
    ],
    [
      'a seam on the first cue',
      sheet([{ ...walk, seam: {} }]),
      'characters[0].cues[0].seam',
      /nothing comes before/,
    ],
    [
      'too long an overlap',
      sheet([walk, { ...turn, seam: { overlap: 40 } }]),
      'characters[0].cues[1].seam.overlap',
      /not possible/,
      /1 to 31/,
    ],
    [
      'overlaps that do not fit into a cue',
      sheet([
        walk,
        { ...walk, seam: { overlap: 20, kind: 'crossfade' } },
        { ...turn, seam: { overlap: 20 } },
      ]),
      'characters[0].cues[2].seam.overlap',
      /not possible/,
      /1 to 11/,
    ],
    [
      'an overlap on a cut',
      sheet([walk, { ...turn, seam: { kind: 'cut', overlap: 3 } }]),
      'characters[0].cues[1].seam.overlap',
      /cut has no overlap/,
    ],
    [
      'frames of a cut',
      sheet([walk, { ...turn, seam: { kind: 'cut', frames: 3 } }]),
      'characters[0].cues[1].seam.frames',
      /settles/,
    ],
    [
      'an overlap where it settles',
      sheet([walk, { ...turn, seam: { kind: 'settle', overlap: 3 } }]),
      'characters[0].cues[1].seam.overlap',
      /no overlap/,
    ],
    [
      'a gap and an overlap',
      sheet([walk, { ...turn, gap: 3, seam: { overlap: 3 } }]),
      'characters[0].cues[1].gap',
      /not both/,
    ],
    [
      'an unknown take',
      sheet([{ ...walk, take: 'Run' }]),
      'characters[0].cues[0].take',
      /no take "Run"/,
      /"Walk"/,
    ],
    ['a wrong version', { ...(sheet([walk]) as object), version: 2 }, 'version', /version/],
    ['a rate of zero', { ...(sheet([walk]) as object), rate: 0 }, 'rate', /rate/],
    ['no object', 'walk', '', /object/],
  ];
  it.each(cases.map(([name, value, path, message, hint]) => ({ name, value, path, message, hint })))(
    '$name',
    async (c) => {
      const error = await failure(c.value);
      expect(error.place.path).toBe(c.path);
      expect(error.message).toMatch(c.message);
      expect(error.hint).toMatch(c.hint ?? /^/);
    },
  );

  it('several takes without a choice', async () => {
    const channel = { node: 'a', path: 'rotation' as const, times: [0, 1], values: [0, 0, 0, 1, 0, 0, 0, 1] };
    const glb = await makeTestGlb([{ name: 'a' }, { name: 'b', parent: 'a' }], {
      one: [channel],
      two: [channel],
    });
    await expect(
      assembleCues(parseCueSheet(sheet([{ clip: 'x.glb' }])), () => Promise.resolve(glb)),
    ).rejects.toMatchObject({ code: 'take', hint: expect.stringContaining('"one", "two"') });
  });
});
