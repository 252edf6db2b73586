import type { CharacterPlan, FloorPlace } from '@warper/core';
import { restHeight } from '@warper/core';
import { Button, Check, Group } from '../../parts/controls';
import { NumberField } from '../../parts/NumberField';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch } from '../../store/store';

/** A character: where it starts, and what it is. */
export function CharacterCard({ plan }: { plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const { id, name, start } = plan.character;
  const place = start ?? { x: 0, z: 0, heading: 0 };
  const set = (values: Partial<FloorPlace>): void =>
    void dispatch(commit({ type: 'start character', character: id, start: { ...place, ...values } }));
  return (
    <>
      <p className="text-soft">Character</p>
      <h2 className="mb-2 text-[15px] font-bold">{name}</h2>
      <Group title="Starts at">
        <Check
          label="where the first clip stands"
          checked={start === null}
          onChange={(authored) =>
            dispatch(commit({ type: 'start character', character: id, start: authored ? null : place }))
          }
        />
        <NumberField
          label="x"
          unit="m"
          digits={3}
          step={0.05}
          value={place.x}
          disabled={!start}
          onChange={(x) => set({ x })}
        />
        <NumberField
          label="z"
          unit="m"
          digits={3}
          step={0.05}
          value={place.z}
          disabled={!start}
          onChange={(z) => set({ z })}
        />
        <NumberField
          label="facing"
          unit="°"
          digits={1}
          step={5}
          value={place.heading}
          disabled={!start}
          onChange={(heading) => set({ heading })}
        />
      </Group>
      <Group title="Body">
        <p className="text-soft">
          {plan.skeleton.names.length} joints, {restHeight(plan.skeleton).toFixed(2)} m between its joints
        </p>
      </Group>
      <div className="border-t pt-3">
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove character', character: id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove {name}
        </Button>
      </div>
    </>
  );
}
