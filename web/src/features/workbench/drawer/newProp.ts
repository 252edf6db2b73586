import type { Character, Edit, PropShape, Scene } from '@warper/core';
import { PLAIN_CHARACTER } from '@warper/core';
import { PROPS } from '@warper/formats';
import { freshId } from '../../../data/freshId';
import { describeError } from '../../../data/importFiles';
import { keepProp } from '../../../data/props';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';
import type { FloorPoint } from '../view/floorUnder';
import { floorUnder } from '../view/floorUnder';
import { freeName } from './freeName';

/** A prop as it is made unless asked otherwise, and the edit that adds it. */
function newProp(
  scene: Scene,
  shape: Exclude<PropShape, 'own file'>,
  body: string,
  { x, z }: FloorPoint,
): { readonly edit: Edit; readonly character: Character } {
  const others = Object.values(scene.characters);
  const { size, colour } = PROPS[shape];
  const id = freshId('p');
  const rounded = (v: number): number => Math.round(v * 100) / 100;
  const character: Character = {
    ...PLAIN_CHARACTER,
    id,
    name: freeName(
      shape.replace(/^./, (first) => first.toUpperCase()),
      others.map((c) => c.name),
    ),
    body,
    hue: others.length % 8,
    start: { x: rounded(x), z: rounded(z), heading: 0 },
    prop: { shape, size, colour, raised: 0 },
  };
  return { edit: { type: 'add character', character, lane: `${id}body` }, character };
}

/** Puts a prop on the floor: at a place, or in the middle of the view. */
export const addProp =
  (shape: Exclude<PropShape, 'own file'>, at: FloorPoint | null): Thunk =>
  async (dispatch, getState) => {
    try {
      const body = await keepProp({ shape, ...PROPS[shape] });
      const scene = getState().scene.document;
      if (!scene) return;
      const { edit, character } = newProp(scene, shape, body, at ?? floorUnder(null) ?? { x: 0, z: 0 });
      if (!dispatch(commit(edit))) return;
      dispatch(sessionActions.selected({ kind: 'character', id: character.id }));
      dispatch(sessionActions.announced(`${character.name} added`));
    } catch (error) {
      const { message, hint } = describeError(error);
      dispatch(sessionActions.refused({ message, hint }));
    }
  };
