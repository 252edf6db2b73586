import type { CharacterPlan, Mend, MendableItem, SeamMeasures, Segment } from '@warper/core';
import { useCallback, useState } from 'react';
import { Button } from '../../../ui/controls';
import { MendPanel } from '../../../parts/continuity/MendPanel';
import { showMend } from '../desk/showMend';
import { makeAutomatic, makePlain } from '../../../store/choices';
import { useAppDispatch, useAppSelector } from '../../../store/store';

interface Props {
  readonly segment: Segment;
  readonly character: CharacterPlan;
  readonly measures: SeamMeasures;
}

/** What was chosen for a seam, or that it is the user's own; and what makes it otherwise, or better. */
export function ChoiceLine({ segment, character, measures: shown }: Props) {
  const dispatch = useAppDispatch();
  const scene = useAppSelector((state) => state.scene.document);
  const isChoosing = useAppSelector((state) => state.session.choosing.includes(segment.id));
  // While a mend is shown, what it is offered for stays.
  const measures = useHeld(
    shown,
    useAppSelector((state) => state.scene.draft !== null),
  );
  const { auto, chosen } = scene?.segments[segment.id]?.seam ?? segment.seam;
  const item: MendableItem = {
    id: `seam:${segment.id}`,
    kind: 'seam',
    segment: segment.id,
    character: character.character.id,
    name: segment.name,
    measure: measures.worst,
    value: measures[measures.worst],
    grade: measures.grade,
  };
  const { frame } = measures;
  const onShow = useCallback(
    (mend: Mend | null): void => void dispatch(showMend(frame, mend)),
    [dispatch, frame],
  );
  return (
    <div className="mb-2.5">
      <p className="text-note text-soft" role="status">
        {isChoosing ? 'Choosing the join…' : auto ? (chosen?.why ?? 'Chosen automatically.') : 'Set by hand.'}
      </p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button disabled={isChoosing} onClick={() => void dispatch(makeAutomatic([segment.id]))}>
          {auto ? 'Choose again' : 'Choose automatically'}
        </Button>
        <Button disabled={isChoosing} onClick={() => dispatch(makePlain([segment.id]))}>
          Plain
        </Button>
        {auto && measures.grade !== 'good' && !isChoosing && scene && (
          <MendPanel scene={scene} item={item} onShow={onShow} />
        )}
      </div>
    </div>
  );
}

/** A value as it was last before it was held. */
function useHeld<T>(value: T, isHeld: boolean): T {
  const [kept, setKept] = useState(value);
  if (!isHeld && kept !== value) setKept(value);
  return isHeld ? kept : value;
}
