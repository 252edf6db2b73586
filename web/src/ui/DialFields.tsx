import type { Dial, Dials } from '@warper/core';
import { DIALS } from '@warper/core';
import { NumberField } from './NumberField';

/** What each dial is called, and how its value is written. */
const LOOKS: Readonly<
  Record<
    Dial,
    {
      readonly label: string;
      readonly unit: string;
      readonly times: number;
      readonly digits: number;
      readonly step: number;
    }
  >
> = {
  clearance: { label: 'Arm clearance', unit: '°', times: 1, digits: 1, step: 1 },
  lean: { label: 'Lean', unit: '°', times: 1, digits: 1, step: 1 },
  crouch: { label: 'Crouch', unit: 'cm', times: 100, digits: 1, step: 1 },
  stance: { label: 'Stance width', unit: 'cm', times: 100, digits: 1, step: 1 },
  arms: { label: 'Arm amplitude', unit: '×', times: 1, digits: 2, step: 0.05 },
  trunk: { label: 'Trunk amplitude', unit: '×', times: 1, digits: 2, step: 0.05 },
};

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
  return (Object.keys(LOOKS) as Dial[]).map((dial) => {
    const { label, times, ...look } = LOOKS[dial];
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
