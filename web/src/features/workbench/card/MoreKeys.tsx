import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';

/** Says that a list has more keys than it tells, and where they all are. */
export function MoreKeys({ count, shown }: { readonly count: number; readonly shown: number }) {
  const dispatch = useAppDispatch();
  if (count <= shown) return null;
  return (
    <p className="text-note text-soft">
      {shown > 0 ? `${shown} of ${count} keys, those around the playhead.` : `${count} points.`}{' '}
      <Button look="link" onClick={() => dispatch(sessionActions.showedBelow('curves'))}>
        All on the curves
      </Button>
    </p>
  );
}
