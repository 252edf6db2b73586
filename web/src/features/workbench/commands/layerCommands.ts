import type { LayerLane } from '@warper/core';
import { differenceEdit } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { commit, refuse } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { copyLayer, linkSides, mergeLayer, removeLayer, saveLayerClip } from '../timeline/layerWork';
import type { Command, Thunk } from './command';
import { chosen } from './command';

/** Does something with the layer in hand. */
const withLayer =
  (run: (layer: LayerLane) => Thunk): Thunk =>
  (dispatch, getState) => {
    const { selection } = getState().session;
    const layer = selection.kind === 'layer' ? getState().scene.document?.lanes[selection.id] : undefined;
    if (layer?.kind === 'layer') return dispatch(run(layer));
    dispatch(sessionActions.announced('Select a layer first'));
    return undefined;
  };

/** Keeps how the second of two selected segments differs from the first as a layer over the first. */
const difference: Thunk = (dispatch, getState) => {
  const [a = '', b = ''] = chosen(getState());
  const { characters } = selectPreviewPlan(getState()).plan;
  const plan = characters.find((c) => c.segments.some((s) => s.id === a)) ?? characters[0];
  if (!plan) return;
  const id = freshId('l');
  try {
    if (dispatch(commit(differenceEdit(plan, a, b, id))))
      dispatch(sessionActions.selected({ kind: 'layer', id }));
  } catch (error) {
    dispatch(refuse(error));
  }
};

/** What can be done with layers. */
export const LAYER_COMMANDS: readonly Command[] = [
  {
    id: 'layer mirror',
    name: 'Mirror the layer to the other side',
    words: 'flip left right copy opposite',
    group: 'Layers',
    keys: [],
    run: withLayer((layer) => copyLayer(layer, layer.character, true)),
  },
  {
    id: 'layer link',
    name: 'Link the layer with its other side, or part them',
    words: 'pair left right both hands symmetry together unlink',
    group: 'Layers',
    keys: [],
    run: withLayer(linkSides),
  },
  {
    id: 'layer merge',
    name: 'Merge the layer with the one below',
    words: 'flatten collapse combine bake down keys',
    group: 'Layers',
    keys: [],
    run: withLayer(mergeLayer),
  },
  {
    id: 'layer save',
    name: 'Save the key poses of the layer as a clip',
    words: 'export library store animation',
    group: 'Layers',
    keys: [],
    run: withLayer(saveLayerClip),
  },
  {
    id: 'layer remove',
    name: 'Remove the layer',
    words: 'delete',
    group: 'Layers',
    keys: [],
    run: withLayer(removeLayer),
  },
  {
    id: 'difference',
    name: 'Difference of two segments as a layer',
    words: 'extract additive delta subtract compare',
    group: 'Layers',
    keys: [],
    run: difference,
  },
];
