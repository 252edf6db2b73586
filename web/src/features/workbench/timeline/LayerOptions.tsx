import type { LayerLane } from '@warper/core';
import { defined } from '@warper/core';
import { DropdownMenu } from 'radix-ui';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { Thunk } from '../commands/command';
import { copyLayer, linkSides, mergeLayer, removeLayer, saveLayerClip } from './layerWork';

/** What can be done with a whole layer. */
export function LayerOptions({ layer }: { readonly layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const { characters, characterOrder } = useAppSelector(selectPreviewScene);
  const others = characterOrder.filter((id) => id !== layer.character).map((id) => defined(characters[id]));
  const entries: readonly (readonly [string, Thunk])[] = [
    ['Mirror to the other side', copyLayer(layer, layer.character, true)],
    [layer.pair === null ? 'Link left and right' : 'Part left and right', linkSides(layer)],
    ...others.map(({ id, name }) => [`Copy to ${name}`, copyLayer(layer, id, false)] as const),
    ['Merge with the layer below', mergeLayer(layer)],
    ['Save key poses as a clip', saveLayerClip(layer)],
    ['Remove layer', removeLayer(layer)],
  ];
  return (
    <>
      <DropdownMenu.Separator className="my-1 border-t" />
      {entries.map(([name, run]) => (
        <DropdownMenu.Item
          key={name}
          className="px-3 py-1 outline-none data-[highlighted]:bg-paper"
          onSelect={() => void dispatch(run)}
        >
          {name}
        </DropdownMenu.Item>
      ))}
    </>
  );
}
