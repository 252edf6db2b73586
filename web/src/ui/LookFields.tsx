import type { Look } from '@warper/core';
import { LOOK_LIMITS, PLAIN_LOOK, defined } from '@warper/core';
import { Choice } from './controls';
import { NumberField } from './NumberField';

const NOTHING = '(nothing)';
const POINT = '(place)';
const AXES = ['X', 'Y', 'Z'] as const;

type Point = readonly [number, number, number];

interface Props {
  readonly look: Look | null;
  /** What it is called to look at nothing of one's own. */
  readonly nothing?: string;
  /** Who can be looked at: ids and names. */
  readonly others?: readonly (readonly [id: string, name: string])[];
  /** Where a place begins, metres. */
  readonly placeAhead: () => Point;
  /** Whether its limits are asked for too. */
  readonly limits?: boolean;
  readonly onChange: (look: Look | null) => void;
}

/** What a head follows: a place, or another character; and how far it turns. */
export function LookFields(props: Props) {
  const { look, nothing = 'Nothing', others = [], placeAhead, limits = true, onChange } = props;
  const set = (values: Partial<Look>): void => {
    if (look) onChange({ ...look, ...values });
  };
  const choose = (value: string): void => {
    const { at: _, ...rest } = look ?? { ...PLAIN_LOOK, at: null };
    if (value === NOTHING) onChange(null);
    else if (value === POINT) onChange({ ...rest, at: { point: placeAhead() } });
    else onChange({ ...rest, at: { character: value } });
  };
  return (
    <>
      <Choice
        label="Look at"
        value={look === null ? NOTHING : 'point' in look.at ? POINT : look.at.character}
        options={[[NOTHING, nothing], [POINT, 'A place'], ...others]}
        onChange={choose}
      />
      {look && 'point' in look.at && <PlaceFields point={look.at.point} set={set} />}
      {look && limits && <LimitFields look={look} set={set} />}
    </>
  );
}

interface PlaceProps {
  readonly point: Point;
  readonly set: (values: Partial<Look>) => void;
}

function PlaceFields({ point, set }: PlaceProps) {
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

interface LimitProps {
  readonly look: Look;
  readonly set: (values: Partial<Look>) => void;
}

function LimitFields({ look, set }: LimitProps) {
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
