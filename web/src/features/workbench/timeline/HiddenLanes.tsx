import type { Scene } from '@warper/core';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { hiddenLanes } from './rows';

/** How many lanes are left out, and what shows them again. */
export function HiddenLanes({ scene, top }: { scene: Scene; top: number }) {
  const dispatch = useAppDispatch();
  const hidden = hiddenLanes(scene);
  if (hidden.length === 0) return null;
  const show = (): void =>
    void dispatch(
      commit({
        type: 'several',
        label: 'hidden lanes',
        edits: hidden.map((l) => ({ type: 'change lane', lane: l.id, values: { hidden: false } })),
      }),
    );
  return (
    <Button look="bare" className="absolute left-4 py-1 text-soft underline" style={{ top }} onClick={show}>
      {hidden.length} hidden: show
    </Button>
  );
}
