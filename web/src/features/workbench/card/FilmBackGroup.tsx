import type { Camera, Plan } from '@warper/core';
import { FILM_BACKS, gateOf } from '@warper/core';
import { Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly camera: Camera;
  readonly plan: Plan;
  readonly change: (values: Partial<Omit<Camera, 'id'>>) => void;
}

const OWN_BACK = 'own';

/** The size of its film back, and what of it makes the picture. */
export function FilmBackGroup({ camera, plan, change }: Props) {
  const { back } = camera;
  const named = Object.entries(FILM_BACKS).find(([, [w, h]]) => w === back[0] && h === back[1])?.[0];
  const [width, height] = gateOf(back, plan.filming.aspect);
  return (
    <Group title="Film back">
      <Choice
        label="Size"
        value={named ?? OWN_BACK}
        options={[
          ...Object.keys(FILM_BACKS).map((name) => [name, name] as const),
          [OWN_BACK, 'another size'] as const,
        ]}
        onChange={(name) => {
          const size = Object.entries(FILM_BACKS).find(([own]) => own === name)?.[1];
          if (size) change({ back: size });
        }}
      />
      {(['Width', 'Height'] as const).map((label, i) => (
        <NumberField
          key={label}
          label={label}
          unit="mm"
          digits={2}
          least={1}
          most={500}
          value={back[i] ?? 0}
          onChange={(value) => change({ back: i === 0 ? [value, back[1]] : [back[0], value] })}
        />
      ))}
      <p className="text-note text-soft">
        The picture is made of {Number(width.toFixed(2))} × {Number(height.toFixed(2))} mm of it.
      </p>
    </Group>
  );
}
