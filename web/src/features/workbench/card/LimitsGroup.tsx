import type { ChoiceLimits } from '@warper/core';
import type { ReactNode } from 'react';
import { Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly title: string;
  readonly limits: ChoiceLimits;
  readonly onChange: (limits: ChoiceLimits) => void;
  readonly children?: ReactNode;
}

const CHECKS = [
  ['keepLength', 'Keep length'],
  ['keepEnd', 'Keep end of outgoing clip'],
  ['keepStart', 'Keep start of incoming clip'],
  ['sameFeet', 'Same feet planted'],
  ['steps', 'Allow made steps'],
  ['bridges', 'Allow bridges'],
] as const satisfies readonly (readonly [keyof ChoiceLimits, string])[];

/** What a choice of a join keeps to. */
export function LimitsGroup({ title, limits, onChange, children }: Props) {
  return (
    <Group title={title}>
      <NumberField
        label="Ends may move"
        unit="s"
        digits={2}
        step={0.1}
        least={0}
        value={limits.within}
        onChange={(within) => onChange({ ...limits, within })}
      />
      {CHECKS.map(([key, label]) => (
        <Check
          key={key}
          label={label}
          checked={limits[key]}
          onChange={(on) => onChange({ ...limits, [key]: on })}
        />
      ))}
      {children}
    </Group>
  );
}
