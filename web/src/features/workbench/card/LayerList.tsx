import type { CharacterPlan, LayerLane } from '@warper/core';
import { PLAIN_LAYER, layerLanes } from '@warper/core';
import { Button, Group } from '../../../ui/controls';
import { commit } from '../../../store/edits';
import { selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { freshId } from '../../../data/freshId';

/** The layers of a character, the top one first; a new one lies on top. */
export function LayerList({ plan }: { plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const { id } = plan.character;
  const layers = layerLanes(scene, id).reverse();
  const add = (): void => {
    // What is posed by hand goes on top of the motion, which goes on below it.
    const layer: LayerLane = {
      ...PLAIN_LAYER,
      id: freshId('l'),
      character: id,
      name: `Layer ${layers.length + 1}`,
      blend: 'additive',
    };
    if (dispatch(commit({ type: 'add layer', layer })))
      dispatch(sessionActions.selected({ kind: 'layer', id: layer.id }));
  };
  return (
    <Group title="Layers, top first">
      <ul>
        {layers.map((layer) => (
          <li key={layer.id}>
            <Button
              look="row"

              onClick={() => dispatch(sessionActions.selected({ kind: 'layer', id: layer.id }))}
            >
              <span>{layer.name}</span>
              <span className="text-soft">{layer.blend}</span>
            </Button>
          </li>
        ))}
      </ul>
      <div>
        <Button onClick={add}>Add a layer</Button>
      </div>
    </Group>
  );
}
