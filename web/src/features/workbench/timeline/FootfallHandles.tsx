import type { FootfallTimes, Plan, SegmentPlan } from '@warper/core';
import { defined, roleWords } from '@warper/core';
import { useDrag } from '@use-gesture/react';
import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import { commit, preview } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { joinEdit, withFootfall } from '../card/joinEdit';
import { stepInHand } from '../stepInHand';
import { footRow } from './drawing/drawSeam';

interface Props {
  /** The incoming segment of the made step in hand. */
  readonly segment: SegmentPlan;
  readonly rate: Plan['rate'];
  /** Pixels of a frame. */
  readonly ppf: number;
}

/** Over a made step in hand: a handle for when each foot leaves the floor, and one for when it lands. */
export function FootfallHandles({ segment, rate, ppf }: Props) {
  const dispatch = useAppDispatch();
  const inHand = useAppSelector(stepInHand);
  const { madeStep, overlap, start } = segment;
  if (!madeStep || inHand?.segment !== segment.id) return null;
  const step = inHand.join;
  return madeStep.legs.flatMap(({ ankle }, i) => {
    const role = segment.clip.skeleton.roles[ankle];
    const { leaves, lands, swings } = defined(madeStep.feet[i]);
    if (!role || !swings) return [];
    const times: FootfallTimes = [leaves, lands];
    return ([0, 1] as const).map((which) => (
      <FootfallHandle
        key={`${role}-${which}`}
        label={`${roleWords(role)} ${which === 0 ? 'leaves' : 'lands'}, on the lane`}
        times={times}
        which={which}
        most={overlap}
        left={(start + times[which]) * ppf}
        top={footRow(madeStep, i)}
        ppf={ppf}
        onPreview={(next) =>
          void dispatch(
            preview(
              next && { type: 'seam', segment: segment.id, values: {}, join: withFootfall(step, role, next) },
            ),
          )
        }
        onChange={(next) =>
          void dispatch(commit(joinEdit(segment, withFootfall(step, role, next), overlap, rate)))
        }
      />
    ));
  });
}

interface HandleProps {
  readonly label: string;
  /** When the foot leaves and lands, frames from the start of the seam; which of both this is; the end of the seam. */
  readonly times: FootfallTimes;
  readonly which: 0 | 1;
  readonly most: number;
  /** Where it stands, pixels. */
  readonly left: number;
  readonly top: number;
  readonly ppf: number;
  readonly onPreview: (times: FootfallTimes | null) => void;
  readonly onChange: (times: FootfallTimes) => void;
}

/** One of both times of a foot; a foot lands a frame after it has left, at least. */
function FootfallHandle(props: HandleProps) {
  const { label, times, which, most, left, top, ppf, onPreview, onChange } = props;
  const began = useRef(times);
  const moved = (from: FootfallTimes, by: number): FootfallTimes => {
    const [leaves, lands] = from.map(Math.round) as [number, number];
    return which === 0
      ? [Math.min(Math.max(0, leaves + by), lands - 1), lands]
      : [leaves, Math.min(Math.max(leaves + 1, lands + by), most)];
  };
  const bind = useDrag(
    ({ first, last, canceled, movement: [x], event }) => {
      event.stopPropagation();
      if (first) began.current = times;
      const next = moved(began.current, Math.round(x / ppf));
      if (!last) return onPreview(next);
      onPreview(null);
      if (!canceled && next[which] !== began.current[which]) onChange(next);
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (e: KeyboardEvent): void => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    if (step === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    onChange(moved(times, step * (e.shiftKey ? 10 : 1)));
  };
  return (
    <div
      {...bind()}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={most}
      aria-valuenow={Number(times[which].toFixed(1))}
      className="absolute h-3.5 w-2 cursor-ew-resize touch-none rounded-sm border border-ink bg-raised"
      style={{ left: left - 4, top: top - 7 }}
      onKeyDown={onKeyDown}
      onClick={(e) => e.stopPropagation()}
    />
  );
}
