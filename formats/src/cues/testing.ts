import { readFileSync } from 'node:fs';
import { expect } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import { InputError, compile, defined } from '@warper/core';
import { assembleCues } from './assemble';
import { parseCueSheet } from './sheet';

export const load = (name: string): Promise<Uint8Array> =>
  Promise.resolve(new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url))));
export const sheet = (cues: object[], character: object = {}): unknown => ({
  format: 'warper-cues',
  version: 1,
  rate: 30,
  characters: [{ name: 'Keeper', cues, ...character }],
});
export const assemble = (cues: object[], character: object = {}) =>
  assembleCues(parseCueSheet(sheet(cues, character)), load);
export const planOf = async (cues: object[], character: object = {}): Promise<CharacterPlan> => {
  const { scene, library } = await assemble(cues, character);
  return defined(compile(scene, library).characters[0]);
};
export const failure = async (cues: object[], character: object = {}): Promise<InputError> => {
  try {
    await assemble(cues, character);
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    return error as InputError;
  }
  throw new Error('it was accepted');
};
export const walk = { clip: 'keeper-walk.glb' };
export const turn = { clip: 'keeper-turn-left-90.glb' };
