import type { Character, Edit, Prop, PropShape, Scene } from '@warper/core';
import { PLAIN_CHARACTER } from '@warper/core';
import { PROPS } from '@warper/formats';
import type { CastBody } from '../../../data/castBodies';
import { freshId } from '../../../data/freshId';
import { openSources } from '../../../data/pageLibrary';
import { keepProp } from '../../../data/props';
import { commit, refuse } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { Thunk } from '../commands/command';
import type { FloorPoint } from '../view/floorUnder';
import { floorUnder } from '../view/floorUnder';
import { freeName } from './freeName';

/** A prop with a body, and the edit that adds it. */
function newProp(
  scene: Scene,
  body: { readonly id: string; readonly name: string },
  prop: Prop,
  { x, z, height }: FloorPoint,
): { readonly edit: Edit; readonly character: Character } {
  const others = Object.values(scene.characters);
  const id = freshId('p');
  const rounded = (v: number): number => Math.round(v * 100) / 100;
  const character: Character = {
    ...PLAIN_CHARACTER,
    id,
    name: freeName(
      body.name.replace(/[_-]+/g, ' ').replace(/^./, (first) => first.toUpperCase()),
      others.map((c) => c.name),
    ),
    body: body.id,
    hue: others.length % 8,
    start: { x: rounded(x), z: rounded(z), heading: 0 },
    prop: { ...prop, raised: height },
  };
  return { edit: { type: 'add character', character, lane: `${id}body` }, character };
}

/** Puts a prop on the floor, or on another one, once its body is there: at a place, or in the middle of the view. */
const putProp =
  (
    body: () => Promise<{ readonly id: string; readonly name: string }>,
    prop: Prop,
    at: FloorPoint | null,
  ): Thunk =>
  async (dispatch, getState) => {
    try {
      const made = await body();
      const scene = getState().scene.document;
      if (!scene) return;
      const place = at ?? floorUnder(null) ?? { x: 0, z: 0, height: 0, on: null };
      const { edit, character } = newProp(scene, made, prop, place);
      if (!dispatch(commit(edit))) return;
      dispatch(sessionActions.selected({ kind: 'character', id: character.id }));
      dispatch(sessionActions.announced(`${character.name} added${place.on ? ` on ${place.on}` : ''}`));
    } catch (error) {
      dispatch(refuse(error));
    }
  };

/** Puts a prop that is made in code on the floor: at a place, or in the middle of the view. */
export function addProp(shape: Exclude<PropShape, 'own file'>, at: FloorPoint | null): Thunk {
  const { size, colour } = PROPS[shape];
  const make = async () => ({ id: await keepProp({ shape, size, colour }), name: shape });
  return putProp(make, { shape, size, colour, raised: 0 }, at);
}

/** What is said of the look of a prop that came with a file: its body has its own. */
const OWN: Prop = { shape: 'own file', size: [1, 1, 1], colour: '#888888', raised: 0 };

/** Puts a body of the library on the floor as a prop: at a place, or in the middle of the view. */
export const addBodyAsProp = ({ body, name }: CastBody, at: FloorPoint | null): Thunk =>
  putProp(
    async () => {
      await openSources([body.source]);
      return { id: body.id, name };
    },
    OWN,
    at,
  );
