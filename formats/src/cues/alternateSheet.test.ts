import { describe, expect, it } from '@jest/globals';
import type { InputError } from '@warper/core';
import { alternatesOf, compile, parseScene, versionOf } from '@warper/core';
import { readSceneFile, sourcesOfScene, writeSceneFile } from '../scenefile/sceneFile';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { load, turn, walk } from './testing';

const idle = { clip: 'keeper-idle.glb' };
const characters = [
  { name: 'Keeper', body: 'keeper.glb', cues: [walk, walk, idle] },
  { name: 'Visitor', body: 'visitor.glb', cues: [{ clip: 'visitor-idle.glb' }] },
];
const sheet = {
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters,
  alternate: { name: 'Straight on' },
  alternates: [
    {
      name: 'Turns',
      comment: 'Shorter.',
      characters: [{ name: 'Keeper', body: 'keeper.glb', cues: [walk, turn, idle] }],
    },
  ],
};

const refusal = async (changed: object): Promise<InputError> => {
  try {
    await assembleCues(parseCueSheet({ ...sheet, ...changed }), load);
  } catch (error) {
    return error as InputError;
  }
  throw new Error('it was accepted');
};

describe('a sheet with alternates', () => {
  it('is the scene in hand, with each alternate as if it were laid out alone', async () => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    const [own, turns] = alternatesOf(scene);
    expect([own?.name, own?.differences, turns?.name, turns?.comment]).toEqual([
      'Straight on',
      null,
      'Turns',
      'Shorter.',
    ]);
    const { alternate: _, alternates, ...plain } = sheet;
    const alone = parseCueSheet({ ...plain, characters: [alternates[0]!.characters[0], characters[1]] });
    const other = await assembleCues(alone, load);
    expect(versionOf(scene, turns!)).toEqual(other.scene);
    expect(turns?.scope?.characters).toEqual(['c1']);
    // What follows the second cue is shared: it lies beside the frames that differ.
    const [, second, third] = compile(other.scene, library).characters[0]!.segments;
    expect(turns?.scope?.from).toBe(second!.start + second!.overlap / 2);
    expect(turns?.scope?.to).toBe(third!.start + third!.overlap / 2);
  });

  it('is kept whole in a scene file, with the files that only an alternate plays', async () => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    const again = await readSceneFile(writeSceneFile(scene, library), 'a.warper');
    expect(again.scene).toEqual(scene);
    expect(parseScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
    const files = again.library.sources().map((s) => s.file);
    expect(files).toContain('keeper-turn-left-90.glb');
    expect(sourcesOfScene(scene).size).toBe(files.length);
    const { alternates, alternateOrder } = again.scene;
    const turns = compile(versionOf(again.scene, alternates[alternateOrder[1]!]!), again.library);
    expect(turns.characters[0]?.segments[1]?.name).toBe('Turn left 90');
  });

  it('says what is wrong, and where', async () => {
    const [turns] = sheet.alternates;
    expect(await refusal({ alternate: undefined })).toMatchObject({ place: { path: 'alternates' } });
    expect(await refusal({ alternates: [] })).toMatchObject({
      message: 'The scene has no other alternates.',
    });
    expect(await refusal({ alternates: [turns, turns] })).toMatchObject({
      message: 'There are two alternates called Turns.',
      place: { path: 'alternates[1].name' },
    });
    expect(await refusal({ alternates: [{ ...turns, name: 'Straight on' }] })).toMatchObject({
      place: { path: 'alternates[0].name' },
    });
    const nobody = { ...turns, characters: [{ name: 'Cook', cues: [walk] }] };
    expect(await refusal({ alternates: [nobody] })).toMatchObject({
      message: 'The scene has no character Cook.',
      hint: 'It has Keeper, Visitor.',
    });
    const typo = { ...turns, characters: [{ name: 'Keeper', cues: [{ clp: 'x' }] }] };
    expect(await refusal({ alternates: [typo] })).toMatchObject({
      place: { path: 'alternates[0].characters[0].cues[0].clp' },
    });
    const overlap = { ...walk, seam: { overlap: 900 } };
    const tooMuch = { ...turns, characters: [{ ...characters[0], cues: [walk, overlap] }] };
    expect((await refusal({ alternates: [tooMuch] })).place.path).toMatch(
      /^alternates\[0\]: characters\[0\]\.cues\[1\]/,
    );
  });
});
