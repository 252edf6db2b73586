import { describe, expect, it } from '@jest/globals';
import type { InputError } from '@warper/core';
import { beatFrames, compile, heardSounds, heardSteps } from '@warper/core';
import { readSceneFile, writeSceneFile } from '../scenefile/sceneFile';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';
import { load, walk } from './testing';

const sheet = {
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters: [{ name: 'Keeper', body: 'keeper.glb', cues: [{ ...walk, repeat: 4 }] }],
  soundLanes: [
    { name: 'Feet', gain: -3, steps: { character: 'Keeper', surface: 'gravel' } },
    { name: 'Music', muted: true },
  ],
  sounds: [
    { file: 'shanty.wav', lane: 'Music', start: 6, in: 5, repeat: 2, tempo: { beatsPerMinute: 72 } },
    { file: 'wind.wav', name: 'Gusts', start: 0, fadeIn: 1, gain: -6 },
    { file: 'hail-boat.wav', start: 20, beats: [0.1, 0.4] },
  ],
  lines: [{ speaker: 'Keeper', text: 'Ahoy!', start: 20, end: 50 }],
};

describe('a sheet with sounds', () => {
  it('has them on their lanes, with their files, beats and lines', async () => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    const lanes = scene.soundLaneOrder.map((id) => scene.soundLanes[id]!);
    expect(lanes.map((l) => [l.name, l.gain, l.muted, l.steps])).toEqual([
      ['Feet', -3, false, { character: 'c1', surface: 'gravel' }],
      ['Music', 0, true, null],
      ['Sounds', 0, false, null],
    ]);
    const [shanty, wind, hail] = Object.values(scene.sounds);
    expect(shanty).toMatchObject({ name: 'shanty', lane: 'sl2', start: 6, in: 5, repeat: 2 });
    expect(shanty?.out).toBeCloseTo(40 / 3, 4);
    // The first beat that is heard is the sixth of the file: at 5 s.
    expect(beatFrames(shanty!, 30)[0]).toBeCloseTo(6, 6);
    expect(beatFrames(shanty!, 30)[1]).toBeCloseTo(31, 6);
    expect(wind).toMatchObject({ name: 'Gusts', lane: 'sl3', fadeIn: 1, gain: -6, seconds: 6 });
    expect(hail?.beats).toEqual([0.1, 0.4]);
    expect(scene.lines).toEqual({ li1: { id: 'li1', speaker: 'Keeper', text: 'Ahoy!', start: 20, end: 50 } });
    expect(heardSounds(scene, 30).map((s) => s.id)).toEqual(['so2', 'so3']);
    // Four cycles of two steps each, the foot that stands at first left out.
    const falls = heardSteps(scene, compile(scene, library));
    expect(falls.length).toBeGreaterThanOrEqual(7);
    expect(falls.length).toBeLessThanOrEqual(8);
    expect(falls[0]?.source).toBe('made:gravel-0');
  });

  it('is packed with its sound files, and unpacked with them', async () => {
    const { scene, library } = await assembleCues(parseCueSheet(sheet), load);
    const bytes = writeSceneFile(scene, library);
    const again = await readSceneFile(bytes, 'a.warper');
    expect(again.scene).toEqual(scene);
    expect(again.library.sounds()).toEqual(library.sounds());
    const none = writeSceneFile({ ...scene, sounds: {} }, library);
    expect((await readSceneFile(none, 'a.warper')).library.sounds()).toEqual([]);
    expect(none.length).toBeLessThan(bytes.length - 200_000);
  });

  it('is refused where it says what cannot be, with the place', async () => {
    const refused = async (change: object): Promise<string> => {
      try {
        await assembleCues(parseCueSheet({ ...sheet, ...change }), load);
      } catch (error) {
        return (error as InputError).place.path ?? '';
      }
      return 'read';
    };
    expect(await refused({})).toBe('read');
    const sound = (change: object) => refused({ sounds: [{ file: 'wind.wav', start: 0, ...change }] });
    expect(await sound({ out: 6.5 })).toBe('sounds[0].out');
    expect(await sound({ in: 5, out: 5 })).toBe('sounds[0].in');
    expect(await sound({ file: 'keeper.glb' })).toBe('sounds[0].file');
    expect(await sound({ loud: true })).toBe('sounds[0].loud');
    expect(await sound({ tempo: { beatsPerMinute: 1 } })).toBe('sounds[0].tempo.beatsPerMinute');
    expect(await sound({ tempo: { beatsPerMinute: 90 }, beats: [] })).toBe('sounds[0].tempo');
    expect(await sound({ beats: [2, 1] })).toBe('sounds[0].sounds.so1.beats');
    expect(await refused({ soundLanes: [{ name: 'A', steps: { character: 'Nobody' } }] })).toBe(
      'soundLanes[0].steps.character',
    );
    expect(await refused({ soundLanes: [{ name: 'A' }, { name: 'A' }] })).toBe('soundLanes[1].name');
    expect(await refused({ lines: [{ text: 'Ahoy', start: 4, end: 4 }] })).toBe('lines[0].end');
  });
});
