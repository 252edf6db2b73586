import type { CharacterPlan, LayerLane, LayerValues, Look, Scene } from '@warper/core';
import { LOOK_LIMITS, PLAIN_LOOK, defined, jointOfRole, posedAt } from '@warper/core';
import { useAppSelector } from '../../../store/store';
import { Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly layer: LayerLane;
  readonly scene: Scene;
  readonly plan: CharacterPlan;
  readonly change: (values: LayerValues) => void;
}

const NOTHING = '(nothing)';
const POINT = '(place)';
/** How far before the eyes a place begins, metres. */
const AHEAD = 2;

/** What the head follows with the eyes: a place, or another character. */
export function LookGroup({ layer, scene, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { look } = layer;
  const set = (values: Partial<Look>): void => {
    if (look) change({ look: { ...look, ...values } });
  };
  const choose = (value: string): void => {
    const { at: _, ...rest } = look ?? { ...PLAIN_LOOK, at: null };
    if (value === NOTHING) change({ look: null });
    else if (value === POINT) change({ look: { ...rest, at: { point: placeAhead(plan, frame) } } });
    else change({ look: { ...rest, at: { character: value } } });
  };
  const others = scene.characterOrder.filter((id) => id !== layer.character);
  return (
    <Group title="Look">
      <Choice
        label="Look at"
        value={look === null ? NOTHING : 'point' in look.at ? POINT : look.at.character}
        options={[
          [NOTHING, 'Nothing'],
          [POINT, 'A place'],
          ...others.map((id) => [id, defined(scene.characters[id]).name] as const),
        ]}
        onChange={choose}
      />
      {look && 'point' in look.at && <PlaceOfLook point={look.at.point} set={set} />}
      {look && <LookFields look={look} set={set} />}
    </Group>
  );
}

const AXES = ['X', 'Y', 'Z'] as const;

interface PointProps {
  readonly point: readonly [number, number, number];
  readonly set: (values: Partial<Look>) => void;
}

function PlaceOfLook({ point, set }: PointProps) {
  return AXES.map((axis, k) => (
    <NumberField
      key={axis}
      label={`Place ${axis}`}
      unit="m"
      digits={2}
      step={0.05}
      value={defined(point[k])}
      onChange={(v) => {
        const [x, y, z] = point.map((p, i) => (i === k ? v : p)) as [number, number, number];
        set({ at: { point: [x, y, z] } });
      }}
    />
  ));
}

interface FieldProps {
  readonly look: Look;
  readonly set: (values: Partial<Look>) => void;
}

function LookFields({ look, set }: FieldProps) {
  const degrees = { unit: '°', digits: 0, step: 1, least: 0 } as const;
  return (
    <>
      {'character' in look.at && (
        <NumberField
          label="Lag"
          unit="f"
          digits={1}
          least={0}
          most={LOOK_LIMITS.lag}
          value={look.lag}
          onChange={(lag) => set({ lag })}
        />
      )}
      <NumberField
        label="Turn up to"
        {...degrees}
        most={LOOK_LIMITS.turn}
        value={look.turn}
        onChange={(turn) => set({ turn })}
      />
      <NumberField
        label="Tilt up to"
        {...degrees}
        most={LOOK_LIMITS.tilt}
        value={look.tilt}
        onChange={(tilt) => set({ tilt })}
      />
      <NumberField
        label="Share of the chest"
        unit="%"
        step={5}
        least={0}
        most={100}
        value={look.chest * 100}
        onChange={(percent) => set({ chest: percent / 100 })}
      />
    </>
  );
}

/** A place before the eyes of a character. */
function placeAhead(plan: CharacterPlan, frame: number): [number, number, number] {
  const { world, heading } = posedAt(plan, frame);
  const head = Math.max(0, jointOfRole(plan.skeleton, 'head')) * 3;
  const [x = 0, y = 0, z = 0] = world.positions.slice(head, head + 3);
  const rounded = (v: number): number => Math.round(v * 100) / 100;
  return [rounded(x + AHEAD * Math.sin(heading)), rounded(y), rounded(z + AHEAD * Math.cos(heading))];
}
