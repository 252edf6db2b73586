import type { Dial, Dials } from '@warper/core';
import { DIALS } from '@warper/core';
import { DIAL_LOOKS, DIAL_NAMES } from './dialLooks';
import { NumberField } from './NumberField';

interface Props {
  readonly dials: Dials;
  readonly onChange: (dials: Dials) => void;
}

/** How a motion is performed: fields for what is asked of it before it would be posed. */
export function DialFields({ dials, onChange }: Props) {
  const set = (dial: Dial, value: number): void => {
    const { [dial]: _, ...others } = dials;
    onChange(value === DIALS[dial].none ? others : { ...others, [dial]: value });
  };
  return DIAL_NAMES.map((dial) => {
    const { label, times, ...look } = DIAL_LOOKS[dial];
    const { least, most, none } = DIALS[dial];
    return (
      <NumberField
        key={dial}
        label={label}
        {...look}
        least={least * times}
        most={most * times}
        value={(dials[dial] ?? none) * times}
        onChange={(value) => set(dial, Number((value / times).toFixed(6)))}
      />
    );
  });
}
