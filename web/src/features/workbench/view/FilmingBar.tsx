import type { Plan } from '@warper/core';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';
import { commandOf } from '../commands/commands';

/** Which camera is looked through, and where: in the whole view, in its corner, or beside it. */
export function FilmingBar({ plan }: { readonly plan: Plan }) {
  const dispatch = useAppDispatch();
  const { angle, filmedBy, filmView, guides } = useAppSelector((s) => s.session);
  const { cameras } = plan.filming;
  const isFilmed = angle === 'camera';
  // From the front and the side the axes that these are of stand here.
  const isFree = angle === 'free' || angle === 'top';
  return (
    <span role="group" aria-label="Cameras" className="flex items-baseline gap-1.5">
      {isFilmed && cameras.length > 0 && (
        <>
          <Select
            label="Look through"
            className="py-0! text-ink"
            value={cameras.some((c) => c.id === filmedBy) ? (filmedBy ?? '') : ''}
            options={[['', 'the shots'], ...cameras.map((c) => [c.id, c.name] as const)]}
            onChange={(id) => dispatch(sessionActions.filmedBy(id || null))}
          />
          <Button
            look="tab"
            aria-pressed={guides}
            title="Thirds and the safe frame over what the camera sees"
            onClick={() => dispatch(sessionActions.guided(!guides))}
          >
            Guides
          </Button>
        </>
      )}
      {isFree && cameras.length > 0 && (
        <Select
          label="What the camera sees"
          className="py-0! text-soft"
          value={filmView}
          options={[
            ['none', 'no inset'],
            ['corner', 'inset'],
            ['beside', 'beside'],
          ]}
          onChange={(where) => dispatch(sessionActions.filmViewed(where))}
        />
      )}
      {isFree && (
        <Button
          look="soft"
          title="A new camera that sees what the view sees"
          onClick={() => dispatch(commandOf('add camera').run)}
        >
          + Camera
        </Button>
      )}
    </span>
  );
}
