import type { CharacterPlan, MendableItem, SeamMeasures, Segment } from '@warper/core';
import { Button } from '../../../ui/controls';
import { MendPanel } from '../../../parts/MendPanel';
import { makeAutomatic, makePlain } from '../../../store/choices';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';

interface Props {
  readonly segment: Segment;
  readonly character: CharacterPlan;
  readonly measures: SeamMeasures;
}

/** What was chosen for a seam, or that it is the user's own; and what makes it otherwise, or better. */
export function ChoiceLine({ segment, character, measures }: Props) {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const isChoosing = useAppSelector((state) => state.session.choosing.includes(segment.id));
  const { auto, chosen } = segment.seam;
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
        {auto && measures.grade !== 'good' && !isChoosing && <MendPanel scene={scene} item={item} />}
      </div>
    </div>
  );
}
