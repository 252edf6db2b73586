import { selectAlternates } from '../../../store/alternates';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { swapTo } from '../commands/alternateCommands';
import { commandOf } from '../commands/commands';

/** The alternates of the scene; pressed, one is taken in hand. */
export function AlternateGroup() {
  const dispatch = useAppDispatch();
  const alternates = useAppSelector(selectAlternates);
  return (
    <Group title="Alternates">
      <ul>
        {alternates.map(({ id, name, differences }) => (
          <li key={id}>
            <Button
              look="row"
              aria-pressed={differences === null}
              onClick={() => differences && dispatch(swapTo(id))}
            >
              <span className="truncate">{name}</span>
              {!differences && <span className="text-soft">in hand</span>}
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button onClick={() => dispatch(commandOf('new alternate').run)}>New alternate</Button>
        {alternates.length > 0 && (
          <Button look="quiet" onClick={() => dispatch(sessionActions.showedBelow('alternates'))}>
            Compare
          </Button>
        )}
      </div>
    </Group>
  );
}
