import { CircleHelp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { DEMONSTRATION, START_OVER, freshDemonstration } from '../../../data/demonstration';
import { describeError } from '../../../data/importFiles';
import { replaceDocument } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { giveFocusBack } from '../../../ui/giveFocusBack';
import type { Thunk } from '../commands/command';

const ITEM = 'cursor-pointer px-3 py-1 outline-none data-highlighted:bg-paper';

/** Help: the tour, the keys, how joins are measured; in the demonstration also its first state again. */
export function HelpMenu({ id, onKeys }: { readonly id: string; readonly onKeys: () => void }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet" aria-label="Help" title="Help" data-tour="help">
          <CircleHelp size={16} aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 min-w-52 rounded-md border bg-raised py-1 shadow-lg"
          onCloseAutoFocus={giveFocusBack}
        >
          <DropdownMenu.Item className={ITEM} onSelect={() => dispatch(sessionActions.touredTo(0))}>
            Take the tour
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={onKeys}>
            Keys
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void navigate('/measures')}>
            How joins are measured
          </DropdownMenu.Item>
          {id === DEMONSTRATION && (
            <DropdownMenu.Item className={ITEM} onSelect={() => void dispatch(startOver)}>
              Start the demonstration over
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Makes the demonstration what it was at first, as one step of undo. */
const startOver: Thunk = async (dispatch) => {
  try {
    dispatch(replaceDocument(await freshDemonstration(), START_OVER));
    dispatch(sessionActions.selected({ kind: 'scene' }));
    dispatch(sessionActions.announced('The demonstration is as it was at first'));
  } catch (error) {
    const { message, hint } = describeError(error);
    toast.error(message, { description: hint });
  }
};
