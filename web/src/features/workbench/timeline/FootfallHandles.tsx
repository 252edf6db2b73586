import type { FootfallTimes, Plan, SegmentPlan } from '@warper/core';
import { defined, roleWords } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { joinEdit, withFootfall } from '../card/joinEdit';
import { stepInHand } from '../stepInHand';
import { LaneHandle } from './LaneHandle';
import { footRow } from './drawing/drawSeam';
import type { Target } from './geometry';
import { footfallTargets } from './snapping';

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
  const store = useStore<RootState>();
  const inHand = useAppSelector(stepInHand);
  const { madeStep, overlap, start } = segment;
  if (!madeStep || inHand?.segment !== segment.id) return null;
  const step = inHand.join;
  // Counted from the start of the seam, as the times of its feet are.
  const targets = (): Target[] =>
    footfallTargets(store.getState()).map((t) => ({ ...t, frame: t.frame - start }));
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
        targets={targets}
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
  readonly targets: () => readonly Target[];
  /** Where it stands, pixels. */
  readonly left: number;
  readonly top: number;
  readonly ppf: number;
  readonly onPreview: (times: FootfallTimes | null) => void;
  readonly onChange: (times: FootfallTimes) => void;
}

/** One of both times of a foot; a foot lands a frame after it has left, at least. */
function FootfallHandle({ times, which, most, onPreview, onChange, ...place }: HandleProps) {
  const moved = (by: number): FootfallTimes => {
    const [leaves, lands] = times.map(Math.round) as [number, number];
    return which === 0
      ? [Math.min(Math.max(0, leaves + by), lands - 1), lands]
      : [leaves, Math.min(Math.max(leaves + 1, lands + by), most)];
  };
  return (
    <LaneHandle
      {...place}
      value={times[which]}
      least={0}
      most={most}
      onPreview={(by) => onPreview(by && moved(by.frames))}
      onChange={({ frames }) => onChange(moved(frames))}
    />
  );
}
