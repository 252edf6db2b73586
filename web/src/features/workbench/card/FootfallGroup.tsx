import type { FootfallTimes, LandingPlace, SegmentPlan, Stepping } from '@warper/core';
import { MAX_LANDING, PLAIN_STEP, roleWords } from '@warper/core';
import { Slider } from 'radix-ui';
import { Fragment, useState } from 'react';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { withFootfall, withLanding } from './joinEdit';

interface Props {
  readonly join: Stepping;
  /** The incoming segment as it is laid out. */
  readonly after: SegmentPlan;
  /** Shows what a drag in hand would make; null ends it. */
  readonly onPreview: (join: Stepping | null) => void;
  readonly onChange: (join: Stepping) => void;
}

/** When each foot of a made step leaves the floor and lands, in frames from the start of the seam: a row with two handles for each; and where. */
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
        return (
          <Fragment key={role}>
            {foot.swings ? (
              <FootRow
                name={name}
                times={[foot.leaves, foot.lands]}
                last={overlap}
                onPreview={(times) => onPreview(times && withFootfall(join, role, times))}
                onChange={(times) => onChange(withFootfall(join, role, times))}
              />
            ) : (
              <p className="text-soft">{name} stays where it is</p>
            )}
            <LandingFields
              name={name}
              place={join.landings[role] ?? BY_ITSELF}
              onChange={(place) => onChange(withLanding(join, role, place))}
            />
          </Fragment>
        );
      })}
      {Object.keys({ ...join.footfalls, ...join.landings }).length > 0 && (
        <div className="flex justify-end">
          <Button look="quiet" onClick={() => onChange(PLAIN_STEP)}>
            Automatic footfalls
          </Button>
        </div>
      )}
    </Group>
  );
}

const BY_ITSELF: LandingPlace = { x: 0, z: 0 };

interface LandingProps {
  readonly name: string;
  readonly place: LandingPlace;
  readonly onChange: (place: LandingPlace) => void;
}

/** How far from where its clip has it a foot lands; in the view its sole is dragged. */
function LandingFields({ name, place, onChange }: LandingProps) {
  const field = (label: string, axis: 'x' | 'z') => (
    <NumberField
      label={`${name} ${label}`}
      unit="m"
      digits={3}
      step={0.01}
      least={-MAX_LANDING}
      most={MAX_LANDING}
      value={place[axis]}
      onChange={(value) => onChange({ ...place, [axis]: value })}
    />
  );
  return (
    <>
      {field('further left', 'x')}
      {field('further forward', 'z')}
    </>
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
