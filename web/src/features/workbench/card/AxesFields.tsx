import type { Hold, PerAxis, TetherValues } from '@warper/core';
import { Button, Choice, Group } from '../../../ui/controls';

interface Props {
  readonly tether: Hold;
  readonly change: (values: TetherValues) => void;
}

const AXES = ['X', 'Y', 'Z'] as const;

/** Along which axes what is held follows, and about which it turns along. */
export function AxesFields({ tether, change }: Props) {
  return (
    <Group title="Follows">
      <AxisChips label="Moves along" values={tether.places} onChange={(places) => change({ places })} />
      <AxisChips label="Turns about" values={tether.turns} onChange={(turns) => change({ turns })} />
      <Choice
        label="Axes"
        value={tether.directions}
        options={[
          ['world', 'of the world'],
          ['floor', 'of the floor, as who holds it faces'],
          ['parent', 'of the joint that holds'],
          ['own', 'of what is held'],
        ]}
        onChange={(directions) => change({ directions })}
      />
    </Group>
  );
}

interface ChipProps {
  readonly label: string;
  readonly values: PerAxis<boolean>;
  readonly onChange: (values: PerAxis<boolean>) => void;
}

function AxisChips({ label, values, onChange }: ChipProps) {
  return (
    <div role="group" aria-label={label} className="flex items-center justify-between gap-2">
      <span className="text-soft">{label}</span>
      <span className="flex gap-1">
        {AXES.map((axis, i) => (
          <Button
            look="chip"
            key={axis}
            aria-label={`${label} ${axis}`}
            aria-pressed={values[i]}
            onClick={() => {
              const [x, y, z] = values.map((v, k) => (k === i ? !v : v)) as [boolean, boolean, boolean];
              onChange([x, y, z]);
            }}
          >
            {axis}
          </Button>
        ))}
      </span>
    </div>
  );
}
