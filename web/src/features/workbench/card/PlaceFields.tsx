import type { Character, Edit, FloorPlace } from '@warper/core';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { NumberField } from '../../../ui/NumberField';

/** Where a character or prop stands that nothing has been said of. */
export const ORIGIN: FloorPlace = { x: 0, z: 0, heading: 0 };

interface Props {
  readonly character: Character;
  readonly disabled?: boolean;
  /** What puts it elsewhere; where it starts unless there is more to it. */
  readonly moved?: (start: FloorPlace) => Edit;
}

/** Where a character or prop stands on the floor at its first frame, and which way it faces. */
export function PlaceFields({ character: { id, start }, disabled, moved }: Props) {
  const dispatch = useAppDispatch();
  const place = start ?? ORIGIN;
  const set = (values: Partial<FloorPlace>): void => {
    const next = { ...place, ...values };
    dispatch(commit(moved?.(next) ?? { type: 'start character', character: id, start: next }));
  };
  const metres = { unit: 'm', digits: 3, step: 0.05, disabled } as const;
  return (
    <>
      <NumberField label="X" {...metres} value={place.x} onChange={(x) => set({ x })} />
      <NumberField label="Z" {...metres} value={place.z} onChange={(z) => set({ z })} />
      <NumberField
        label="Facing"
        unit="°"
        digits={1}
        step={5}
        value={place.heading}
        disabled={disabled}
        onChange={(heading) => set({ heading })}
      />
    </>
  );
}
