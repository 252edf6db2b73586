import type { Segment } from '@warper/core';
import { Button } from '../../../ui/controls';
import { makeAutomatic, makePlain } from '../../../store/choices';
import { useAppDispatch, useAppSelector } from '../../../store/store';

/** What was chosen for a seam, or that it is the user's own; and what makes it otherwise. */
export function ChoiceLine({ segment }: { readonly segment: Segment }) {
  const dispatch = useAppDispatch();
  const isChoosing = useAppSelector((state) => state.session.choosing.includes(segment.id));
  const { auto, chosen } = segment.seam;
  return (
    <div className="mb-2.5">
      <p className="text-note text-soft" role="status">
        {isChoosing ? 'Choosing the join…' : auto ? (chosen?.why ?? 'Chosen automatically.') : 'Set by hand.'}
      </p>
      <div className="mt-1 flex gap-1.5">
        <Button disabled={isChoosing} onClick={() => void dispatch(makeAutomatic([segment.id]))}>
          {auto ? 'Choose again' : 'Choose automatically'}
        </Button>
        <Button disabled={isChoosing} onClick={() => dispatch(makePlain([segment.id]))}>
          Plain crossfade
        </Button>
      </div>
    </div>
  );
}
