import type { Character, Edit, Scene } from '@warper/core';
import { PLAIN_CHARACTER } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { freeName } from './freeName';

/** Metres between characters as they are added. */
const APART = 0.9;

/** A character with a body, beside those of a scene, and the edit that adds it with a lane. */
export function newCharacter(
  scene: Scene,
  body: { readonly id: string; readonly name: string },
): { readonly edit: Edit; readonly character: Character; readonly lane: string } {
  const others = Object.values(scene.characters);
  const id = freshId('c');
  const character: Character = {
    ...PLAIN_CHARACTER,
    id,
    name: freeName(
      body.name.replace(/[_-]+/g, ' '),
      others.map((c) => c.name),
    ),
    body: body.id,
    hue: others.length % 8,
    start: { x: others.length * APART, z: 0, heading: 0 },
  };
  const lane = `${id}body`;
  return { edit: { type: 'add character', character, lane }, character, lane };
}
