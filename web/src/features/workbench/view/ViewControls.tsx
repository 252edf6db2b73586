import type { Plan } from '@warper/core';
import { Scan } from 'lucide-react';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { ViewAngle } from '../../../store/sessionState';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { FilmingBar } from './FilmingBar';
import { MeasureBar } from './Measure';
import { PoseBar } from './PoseBar';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';
import { commandOf } from '../commands/commands';

const ANGLES: readonly (readonly [ViewAngle, string])[] = [
  ['free', 'Around'],
  ['front', 'Front'],
  ['side', 'Side'],
  ['top', 'Top'],
  ['both', 'Front and side'],
  ['camera', 'Camera'],
];

/** Where the view looks from, what it follows, and what it shows beside the performance. */
export function ViewControls() {
  const dispatch = useAppDispatch();
  const angle = useAppSelector((s) => s.session.angle);
  const { plan } = useAppSelector(selectPreviewPlan);
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-3 border-b bg-paper px-1.5 py-0.5 text-small">
      <div role="group" aria-label="Look from" className="flex">
        {ANGLES.map(([key, name]) => (
          <Button
            look="tab"
            key={key}
            aria-pressed={angle === key}
            onClick={() => dispatch(sessionActions.turned(key))}
          >
            {name}
          </Button>
        ))}
      </div>
      {(angle === 'front' || angle === 'side' || angle === 'both') && <AxesChoice />}
      {angle !== 'camera' && (
        <Button
          look="soft"
          className="inline-flex items-center gap-1"
          title="Bring the selection into view (V)"
          aria-label="Frame the selection"
          onClick={() => dispatch(commandOf('frame').run)}
        >
          <Scan size={14} aria-hidden /> Frame
        </Button>
      )}
      {angle !== 'camera' && <FollowChoice plan={plan} />}
      <FilmingBar plan={plan} />
      <GhostFields />
      <MeasureBar plan={plan} />
      <PoseBar plan={plan} />
    </div>
  );
}

/** Whose front and side are looked at. */
function AxesChoice() {
  const dispatch = useAppDispatch();
  const axes = useAppSelector((s) => s.session.axes);
  return (
    <Select
      label="Front and side of"
      className="py-0! text-soft"
      value={axes}
      options={[
        ['character', 'of the character'],
        ['world', 'of the world'],
      ]}
      onChange={(value) => dispatch(sessionActions.axesChosen(value))}
    />
  );
}

/** Stands for following whoever leaves the view while it plays. */
const LEAVING = '(leaving)';

function FollowChoice({ plan }: { plan: Plan }) {
  const dispatch = useAppDispatch();
  const follow = useAppSelector((s) => s.session.follow);
  const auto = useAppSelector((s) => s.session.autoFollow);
  const choose = (value: string): void => {
    const id = value === LEAVING ? '' : value;
    dispatch(sessionActions.followed(id || null));
    if (!id) dispatch(sessionActions.autoFollowed(value === LEAVING));
  };
  return (
    <span className="flex items-baseline gap-1.5 text-soft">
      <label htmlFor="follow">Follow</label>
      <Select
        id="follow"
        className="py-0! text-ink"
        value={follow ?? (auto ? LEAVING : '')}
        options={[
          [LEAVING, 'who leaves'],
          ['', 'nobody'],
          ...plan.characters.map((c) => [c.character.id, c.character.name] as const),
        ]}
        onChange={choose}
      />
    </span>
  );
}

/** How many ghosts are shown on either side of the playhead, and how far apart. */
function GhostFields() {
  const dispatch = useAppDispatch();
  const { count, spacing } = useAppSelector((s) => s.session.ghosts);
  const field = 'w-9 border-b border-dotted border-soft bg-transparent text-right text-ink';
  return (
    <div role="group" aria-label="Ghosts" className="flex items-baseline gap-1.5 text-soft">
      <label className="flex items-baseline gap-1.5">
        Ghosts
        <input
          type="number"
          className={field}
          min={0}
          max={8}
          value={count}
          onChange={(e) =>
            dispatch(sessionActions.ghosted({ spacing, count: clamp(e.currentTarget.valueAsNumber, 0, 8) }))
          }
        />
      </label>
      {count > 0 && (
        <label className="flex items-baseline gap-1.5">
          every
          <input
            type="number"
            className={field}
            min={1}
            max={300}
            value={spacing}
            onChange={(e) =>
              dispatch(
                sessionActions.ghosted({ count, spacing: clamp(e.currentTarget.valueAsNumber, 1, 300) }),
              )
            }
          />
          f
        </label>
      )}
    </div>
  );
}

const clamp = (value: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, Number.isFinite(value) ? Math.round(value) : least));
