import type { FootfallTimes, SegmentPlan, Stepping } from '@warper/core';
import { roleWords } from '@warper/core';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly join: Stepping;
  /** The incoming segment as it is laid out. */
  readonly after: SegmentPlan;
  readonly perSecond: number;
  readonly onChange: (join: Stepping) => void;
}

/** When each foot of a made step leaves the floor and lands, in frames from the start of the seam. */
export function FootfallGroup({ join, after, perSecond, onChange }: Props) {
  const { madeStep } = after;
  if (!madeStep) return null;
  const set = (role: string, times: FootfallTimes): void => {
    const [leaves, lands] = times;
    const last = after.overlap;
    const from = Math.min(Math.max(0, leaves), last - 1);
    const to = Math.min(Math.max(lands, from + 1), last);
    onChange({ ...join, footfalls: { ...join.footfalls, [role]: [from, to] } });
  };
  return (
    <Group title="Footfalls">
      {madeStep.legs.map(({ ankle }, i) => {
        const role = after.clip.skeleton.roles[ankle];
        const foot = madeStep.feet[i];
        if (!role || !foot) return null;
        const words = roleWords(role);
        const name = words.charAt(0).toUpperCase() + words.slice(1);
        if (!foot.swings)
          return (
            <p key={role} className="text-soft">
              {name} stays where it is
            </p>
          );
        const { leaves, lands } = foot;
        return (
          <div key={role}>
            <NumberField
              label={`${name} leaves`}
              unit="f"
              value={leaves}
              least={0}
              framesPerSecond={perSecond}
              onChange={(at) => set(role, [at, Math.max(lands, at + 1)])}
            />
            <NumberField
              label={`${name} lands`}
              unit="f"
              value={lands}
              least={1}
              framesPerSecond={perSecond}
              onChange={(at) => set(role, [Math.min(leaves, at - 1), at])}
            />
          </div>
        );
      })}
      {Object.keys(join.footfalls).length > 0 && (
        <div className="flex justify-end">
          <Button look="quiet" onClick={() => onChange({ ...join, footfalls: {} })}>
            Automatic footfalls
          </Button>
        </div>
      )}
    </Group>
  );
}
