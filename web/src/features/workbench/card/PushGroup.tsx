import type { CharacterPlan } from '@warper/core';
import { framesPerSecond, pushEdit } from '@warper/core';
import { useState } from 'react';
import { freshId } from '../../../data/freshId';
import { commit, refuse } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import type { Thunk } from '../commands/command';

/** Metres that somebody is pushed, and seconds until they stand again, unless asked otherwise. */
const FAR = 0.3;
const SECONDS = 0.5;
const NOBODY = '';

/** Has the character pushed at the playhead by somebody or something, with what follows from it. */
export function PushGroup({ plan: own }: { readonly plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const frame = Math.round(useAppSelector((s) => s.session.frame));
  const { plan } = useAppSelector(selectPreviewPlan);
  const fps = framesPerSecond(plan.rate);
  const [by, setBy] = useState<string | null>(null);
  const [distance, setDistance] = useState(FAR);
  const [seconds, setSeconds] = useState(SECONDS);
  const others = plan.characters.filter((c) => c !== own);
  const door = others.find((c) => c.character.prop?.shape === 'door');
  const chosen = by ?? door?.character.id ?? others[0]?.character.id ?? NOBODY;
  return (
    <Group title="Push">
      <Choice
        label="By"
        value={chosen}
        options={[
          ...others.map((c) => [c.character.id, c.character.name] as const),
          [NOBODY, 'nobody in the scene'],
        ]}
        onChange={setBy}
      />
      <NumberField
        label="Distance"
        unit="m"
        digits={2}
        step={0.05}
        least={0.01}
        most={10}
        value={distance}
        onChange={setDistance}
      />
      <NumberField
        label="Lasts"
        unit="f"
        least={1}
        framesPerSecond={fps}
        value={Math.max(1, Math.round(seconds * fps))}
        onChange={(frames) => setSeconds(frames / fps)}
      />
      <div>
        <Button
          onClick={() =>
            dispatch(
              pushNow(own.character.id, chosen === NOBODY ? null : chosen, frame, distance, seconds * fps),
            )
          }
        >
          Push at frame {frame}
        </Button>
      </div>
    </Group>
  );
}

/** Has a character pushed: marker, root keys and the swing of a door are one step of undo. */
export const pushNow =
  (character: string, by: string | null, frame: number, distance: number, frames: number): Thunk =>
  (dispatch, getState) => {
    try {
      const { plan } = selectPreviewPlan(getState());
      const ids = { marker: freshId('m'), layer: freshId('y'), door: freshId('y') };
      const edit = pushEdit(plan, {
        character,
        by,
        frame,
        frames: Math.max(1, Math.round(frames)),
        distance,
        heading: null,
        ids,
      });
      if (!dispatch(commit(edit))) return;
      dispatch(sessionActions.selected({ kind: 'layer', id: ids.layer }));
      dispatch(sessionActions.announced(`Pushed by ${distance} metres at frame ${frame}`));
    } catch (error) {
      dispatch(refuse(error));
    }
  };
