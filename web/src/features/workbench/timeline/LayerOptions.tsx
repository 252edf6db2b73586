import type { LayerLane } from '@warper/core';
import { DropdownMenu } from 'radix-ui';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';

/** What can be done with a whole layer. */
export function LayerOptions({ layer }: { readonly layer: LayerLane }) {
  const dispatch = useAppDispatch();
  const remove = (): void => {
    dispatch(commit({ type: 'remove layer', layer: layer.id }));
    dispatch(sessionActions.selected({ kind: 'character', id: layer.character }));
  };
  return (
    <>
      <DropdownMenu.Separator className="my-1 border-t" />
      <Option onSelect={remove}>Remove layer</Option>
    </>
  );
}

function Option({ onSelect, children }: { readonly onSelect: () => void; readonly children: string }) {
  return (
    <DropdownMenu.Item className="px-3 py-1 outline-none data-[highlighted]:bg-paper" onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  );
}
