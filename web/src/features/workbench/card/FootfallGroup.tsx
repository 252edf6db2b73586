import type { FootfallTimes, SegmentPlan, Stepping } from '@warper/core';
import { roleWords } from '@warper/core';
import { Slider } from 'radix-ui';
import { useState } from 'react';
import { Button, Group } from '../../../ui/controls';
import { withFootfall } from './joinEdit';

interface Props {
  readonly join: Stepping;
  /** The incoming segment as it is laid out. */
  readonly after: SegmentPlan;
  /** Shows what a drag in hand would make; null ends it. */
  readonly onPreview: (join: Stepping | null) => void;
  readonly onChange: (join: Stepping) => void;
}

/** When each foot of a made step leaves the floor and lands: a row with two handles for each, in frames from the start of the seam. */
export function FootfallGroup({ join, after, onPreview, onChange }: Props) {
  const { madeStep, overlap } = after;
  if (!madeStep) return null;
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
        return (
          <FootRow
            key={role}
            name={name}
            times={[foot.leaves, foot.lands]}
            last={overlap}
            onPreview={(times) => onPreview(times && withFootfall(join, role, times))}
            onChange={(times) => onChange(withFootfall(join, role, times))}
          />
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

interface RowProps {
  readonly name: string;
  readonly times: FootfallTimes;
  /** The last frame of the seam. */
  readonly last: number;
  readonly onPreview: (times: FootfallTimes | null) => void;
  readonly onChange: (times: FootfallTimes) => void;
}

/** One foot: on the floor outside of its two handles, in the air between them. */
function FootRow({ name, times, last, onPreview, onChange }: RowProps) {
  const [dragged, setDragged] = useState<FootfallTimes | null>(null);
  const [leaves, lands] = dragged ?? times;
  const take = ([a = leaves, b = lands]: readonly number[]): FootfallTimes => [a, b];
  return (
    <div className="py-1">
      <div className="flex justify-between gap-2">
        <span className="text-soft">{name}</span>
        <span>
          leaves {Number(leaves.toFixed(1))} f, lands {Number(lands.toFixed(1))} f
        </span>
      </div>
      <Slider.Root
        className="relative flex h-5 touch-none items-center select-none"
        value={[leaves, lands]}
        min={0}
        max={last}
        step={1}
        minStepsBetweenThumbs={1}
        onValueChange={(values) => {
          setDragged(take(values));
          onPreview(take(values));
        }}
        onValueCommit={(values) => {
          setDragged(null);
          onPreview(null);
          onChange(take(values));
        }}
      >
        <Slider.Track className="h-[3px] w-full bg-ink">
          <Slider.Range className="absolute h-[3px] bg-rule" />
        </Slider.Track>
        {(['leaves', 'lands'] as const).map((what) => (
          <Slider.Thumb
            key={what}
            aria-label={`${name} ${what}`}
            className="block h-4 w-2 rounded-sm border border-ink bg-raised"
          />
        ))}
      </Slider.Root>
    </div>
  );
}
