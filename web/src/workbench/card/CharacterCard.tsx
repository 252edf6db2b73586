import type { CharacterPlan, FloorPlace } from '@warper/core';
import { LARGE_CORRECTION_CM, measureHolds, restHeight } from '@warper/core';
import { useMemo } from 'react';
import { Button, Check, Group } from '../../parts/controls';
import { NumberField } from '../../parts/NumberField';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch } from '../../store/store';
import { LayerList } from './LayerList';

/** What holding the feet costs: how far the furthest one is moved, and what no leg reaches. */
function HoldSummary({ plan }: { plan: CharacterPlan }) {
  const holds = useMemo(() => measureHolds(plan), [plan]);
  if (holds.length === 0) return null;
  const furthest = holds.reduce((a, b) => (b.correctionCm > a.correctionCm ? b : a));
  const left = Math.max(...holds.map((h) => h.leftCm));
  const large = furthest.correctionCm > LARGE_CORRECTION_CM;
  return (
    <p className={large || left > WORTH_SAYING_CM ? 'text-watch' : 'text-soft'}>
      Held {holds.length} times; at most {furthest.joint} by {furthest.correctionCm.toFixed(1)} cm in frames{' '}
      {Math.ceil(furthest.start)} to {Math.ceil(furthest.end)}
      {left > WORTH_SAYING_CM ? `, and ${left.toFixed(1)} cm are out of reach` : ''}.
    </p>
  );
}

/** Centimetres that a foot may stay from its place without a word about it. */
const WORTH_SAYING_CM = 0.1;

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
      <Group title="Feet">
        <Check
          label="held where they stand"
          checked={plan.character.footLock}
          onChange={(on) => dispatch(commit({ type: 'foot-lock', character: id, on }))}
        />
        <HoldSummary plan={plan} />
      </Group>
      <LayerList plan={plan} />
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
