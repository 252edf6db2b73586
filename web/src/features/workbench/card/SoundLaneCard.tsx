import type { Scene, SoundLane } from '@warper/core';
import { SURFACES } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { TextField } from '../../../ui/TextField';
import { GainField } from './GainField';

const SURFACE_NAMES = { stone: 'Stone', wood: 'Wood', gravel: 'Gravel' } as const;

interface FieldsProps {
  readonly lane: SoundLane;
  readonly scene: Scene;
  readonly set: (values: Partial<SoundLane>) => void;
}

/** A sound lane: how loud all on it is, and whose steps are heard. */
export function SoundLaneCard({ lane, scene }: { readonly lane: SoundLane; readonly scene: Scene }) {
  const dispatch = useAppDispatch();
  const set = (values: Partial<SoundLane>): void =>
    void dispatch(commit({ type: 'sound lane', lane: { ...lane, ...values } }));
  const at = scene.soundLaneOrder.indexOf(lane.id);
  const move = (to: number): void => void dispatch(commit({ type: 'order sound lane', lane: lane.id, to }));
  return (
    <>
      <p className="text-soft">Sound lane</p>
      <h2 className="mb-2 text-title font-bold">{lane.name}</h2>
      <Group title="Lane">
        <TextField
          label="Name"
          value={lane.name}
          onChange={(name) => name.trim() && set({ name: name.trim() })}
        />
        <GainField value={lane.gain} onChange={(gain) => set({ gain })} />
        <Check label="Muted" checked={lane.muted} onChange={(muted) => set({ muted })} />
      </Group>
      <StepsFields lane={lane} scene={scene} set={set} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button disabled={at === 0} onClick={() => move(at - 1)}>
          Up
        </Button>
        <Button disabled={at === scene.soundLaneOrder.length - 1} onClick={() => move(at + 1)}>
          Down
        </Button>
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove sound lane', lane: lane.id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove
        </Button>
      </div>
    </>
  );
}

/** Whose steps are heard on the lane. */
function StepsFields({ lane, scene, set }: FieldsProps) {
  const { steps } = lane;
  const walking = scene.characterOrder.flatMap((id) => {
    const character = scene.characters[id];
    return character && !character.prop ? [[id, character.name] as const] : [];
  });
  return (
    <Group title="Steps">
      <Choice
        label="Steps of"
        value={steps?.character ?? ''}
        options={[['', 'Nobody'], ...walking]}
        onChange={(character) =>
          set({ steps: character ? { character, surface: steps?.surface ?? 'stone' } : null })
        }
      />
      {steps && (
        <Choice
          label="Floor"
          value={steps.surface}
          options={SURFACES.map((s) => [s, SURFACE_NAMES[s]] as const)}
          onChange={(surface) => set({ steps: { ...steps, surface } })}
        />
      )}
      <p className="text-note text-soft">
        Heard where their feet come down, and where an impact marker has them hit.
      </p>
    </Group>
  );
}
