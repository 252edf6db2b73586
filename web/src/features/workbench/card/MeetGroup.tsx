import type { CharacterPlan } from '@warper/core';
import { meetEdit } from '@warper/core';
import { useState } from 'react';
import { commit, refuse } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import type { Thunk } from '../commands/command';

interface Props {
  readonly segment: string;
  readonly character: CharacterPlan;
}

/** Metres at which two who hand something over stand to each other (common practice). */
const APART = 0.8;

/** Stands the character of a segment before somebody else at the playhead; what follows on the lane comes along. */
export function MeetGroup({ segment, character }: Props) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const { plan } = useAppSelector(selectPreviewPlan);
  const others = plan.characters.filter((c) => c !== character);
  const [chosen, setChosen] = useState('');
  const [distance, setDistance] = useState(APART);
  const [angle, setAngle] = useState(0);
  const other = others.find((c) => c.character.id === chosen) ?? others[0];
  if (!other) return null;
  return (
    <Group title="Meet">
      <Choice
        label="Whom"
        value={other.character.id}
        options={others.map((c) => [c.character.id, c.character.name] as const)}
        onChange={setChosen}
      />
      <NumberField
        label="Distance"
        unit="m"
        digits={2}
        step={0.05}
        least={0}
        most={100}
        value={distance}
        onChange={setDistance}
      />
      <NumberField label="From their front" unit="°" digits={1} step={5} value={angle} onChange={setAngle} />
      <div>
        <Button onClick={() => dispatch(meet(segment, other.character.id, frame, { distance, angle }))}>
          Meet at frame {frame}
        </Button>
      </div>
    </Group>
  );
}

const meet =
  (segment: string, other: string, frame: number, how: Parameters<typeof meetEdit>[5]): Thunk =>
  (dispatch, getState) => {
    const scene = getState().scene.document;
    if (!scene) return;
    try {
      const { plan } = selectPreviewPlan(getState());
      if (dispatch(commit(meetEdit(scene, plan, segment, other, frame, how))))
        dispatch(sessionActions.announced(`They stand ${how.distance} metres apart at frame ${frame}`));
    } catch (error) {
      dispatch(refuse(error));
    }
  };
