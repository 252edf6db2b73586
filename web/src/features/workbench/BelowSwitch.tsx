import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { Button } from '../../ui/controls';

const CHOICES = [
  ['lanes', 'Lanes'],
  ['cues', 'Cue sheet'],
  ['curves', 'Curves'],
  ['seam', 'Seam desk'],
  ['continuity', 'Continuity'],
  ['shots', 'Shots'],
  ['alternates', 'Alternates'],
] as const;

/** Chooses what is below the view. */
export function BelowSwitch() {
  const dispatch = useAppDispatch();
  const below = useAppSelector((s) => s.session.below);
  return (
    <div role="group" aria-label="Below the view" className="flex h-full items-center gap-1 pl-3 text-small">
      {CHOICES.map(([which, name]) => (
        <Button
          look="tab"
          key={which}
          aria-pressed={below === which}
          className="py-0 leading-[18px] whitespace-nowrap"
          onClick={() => dispatch(sessionActions.showedBelow(which))}
        >
          {name}
        </Button>
      ))}
    </div>
  );
}
