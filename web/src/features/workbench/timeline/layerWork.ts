import type { Edit, LayerLane, Scene } from '@warper/core';
import {
  copyLayerEdit,
  defined,
  framesPerSecond,
  layerClip,
  layerLanes,
  linkSidesEdit,
  mergeDownEdit,
  parseRate,
} from '@warper/core';
import { writeGlb, fileName } from '@warper/formats';
import { freshId } from '../../../data/freshId';
import { motion } from '../../../data/motion';
import { keepRead, library } from '../../../data/pageLibrary';
import { commit, refuse } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import type { Thunk } from '../commands/command';

const bodyOf = (scene: Scene, character: string) =>
  defined(library.body(defined(scene.characters[character]).body) ?? undefined);

/** Copies a layer to a character, or to the other side of its own. */
export const copyLayer =
  (layer: LayerLane, character: string, mirrored: boolean): Thunk =>
  (dispatch, getState) => {
    const scene = getState().scene.document;
    if (!scene) return;
    try {
      const name = mirrored ? `${layer.name} mirrored` : layer.name;
      const to = { character, skeleton: bodyOf(scene, character), mirrored, name };
      const edit = copyLayerEdit(scene, layer, bodyOf(scene, layer.character), to, () => freshId('l'));
      if (dispatch(commit(edit))) dispatch(sessionActions.announced(`${layer.name} copied as ${name}`));
    } catch (error) {
      dispatch(refuse(error));
    }
  };

/** Links a layer with its other side, or parts the two. */
export const linkSides =
  (layer: LayerLane): Thunk =>
  (dispatch, getState) => {
    const scene = getState().scene.document;
    if (!scene) return;
    try {
      const edit: Edit =
        layer.pair === null
          ? linkSidesEdit(scene, layer, bodyOf(scene, layer.character), () => freshId('l'))
          : { type: 'pair layers', layer: layer.id, with: null };
      dispatch(commit(edit));
    } catch (error) {
      dispatch(refuse(error));
    }
  };

const planOf = (state: RootState, character: string) =>
  selectPreviewPlan(state).plan.characters.find((c) => c.character.id === character);

/** Makes one layer of a layer and the one below it. */
export const mergeLayer =
  (layer: LayerLane): Thunk =>
  (dispatch, getState) => {
    const scene = getState().scene.document;
    const plan = planOf(getState(), layer.character);
    if (!scene || !plan) return;
    try {
      const edit = mergeDownEdit(plan, layerLanes(scene, layer.character), layer);
      if (dispatch(commit(edit)))
        dispatch(sessionActions.selected({ kind: 'character', id: layer.character }));
    } catch (error) {
      dispatch(refuse(error));
    }
  };

/** Keeps the key poses of a layer as a clip of the library. */
export const saveLayerClip =
  (layer: LayerLane): Thunk =>
  async (dispatch, getState) => {
    const scene = getState().scene.document;
    if (!scene) return;
    try {
      const rate = framesPerSecond(parseRate(scene.rate));
      const clip = layerClip(layer, bodyOf(scene, layer.character), rate);
      const result = await motion.read(await writeGlb(clip), `${fileName(layer.name)}.glb`);
      await keepRead({ ...result, clips: result.clips.map((c) => ({ ...c, name: layer.name })) });
      dispatch(sessionActions.announced(`${layer.name} is in the library`));
    } catch (error) {
      dispatch(refuse(error));
    }
  };

export const removeLayer =
  (layer: LayerLane): Thunk =>
  (dispatch) => {
    dispatch(commit({ type: 'remove layer', layer: layer.id }));
    dispatch(sessionActions.selected({ kind: 'character', id: layer.character }));
  };
