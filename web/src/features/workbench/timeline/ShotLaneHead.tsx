import { Plus } from 'lucide-react';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { commandOf } from '../commands/commands';
import { SHOT_ROW } from './geometry';

/** The head of the camera lane. */
export function ShotLaneHead({ top, cameras }: { readonly top: number; readonly cameras: number }) {
  const dispatch = useAppDispatch();
  return (
    <div className="absolute inset-x-0 flex border-b bg-paper" style={{ top, height: SHOT_ROW }}>
      <Button
        look="bare"
        className="min-w-0 flex-1 py-1 pl-4 text-left"
        title="Shot list"
        onClick={() => dispatch(sessionActions.showedBelow('shots'))}
      >
        <span className="block font-semibold">Shots</span>
        <span className="block text-small text-soft">
          {cameras} {cameras === 1 ? 'camera' : 'cameras'}
        </span>
      </Button>
      <Button
        look="soft"
        className="self-start p-1"
        aria-label="Shot from the playhead"
        title="Shot from the playhead (T)"
        onClick={() => dispatch(commandOf('shot').run)}
      >
        <Plus size={14} aria-hidden />
      </Button>
    </div>
  );
}
