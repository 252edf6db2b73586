import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';

const CHOICES = [
  ['lanes', 'lanes'],
  ['cues', 'cue sheet'],
] as const;

/** Chooses what is below the view. */
export function BelowSwitch() {
  const dispatch = useAppDispatch();
  const below = useAppSelector((s) => s.session.below);
  return (
    <div role="group" aria-label="Below the view" className="flex h-full items-center gap-1 pl-3 text-[13px]">
      {CHOICES.map(([which, name]) => (
        <button
          key={which}
          type="button"
          aria-pressed={below === which}
          className={`border-b-2 px-1 leading-[18px] ${below === which ? 'border-ink' : 'border-transparent text-soft hover:text-ink'}`}
          onClick={() => dispatch(sessionActions.showedBelow(which))}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
