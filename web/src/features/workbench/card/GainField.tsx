import { GAIN } from '@warper/core';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly value: number;
  readonly onChange: (decibels: number) => void;
}

/** By how much a sound or a lane is louder or softer. */
export const GainField = ({ value, onChange }: Props) => (
  <NumberField
    label="Gain"
    unit="dB"
    digits={1}
    least={GAIN.least}
    most={GAIN.most}
    value={value}
    onChange={onChange}
  />
);
