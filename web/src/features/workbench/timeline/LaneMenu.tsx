import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'react-redux';
import { selectedSegments } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { clipPath } from '../../../parts/clipPath';
import { giveFocusBack } from '../../../ui/giveFocusBack';
import { shownChord } from '../commands/chords';
import { commandOf } from '../commands/commands';
import { keysOf } from '../commands/ownKeys';

/** What of the lanes a menu is for. */
export type MenuTarget =
  | { readonly kind: 'segment'; readonly id: string; readonly clip: string }
  | { readonly kind: 'seam'; readonly id: string }
  | { readonly kind: 'lane' };

/** The commands of a menu, a rule between the lists. */
const ENTRIES: Readonly<Record<MenuTarget['kind'], readonly (readonly string[])[]>> = {
  segment: [
    ['cut', 'trim start', 'trim end', 'freeze'],
    ['duplicate', 'copy', 'swap', 'group'],
    ['reverse', 'mirror', 'disable'],
    ['frame'],
    ['remove', 'remove and leave gap'],
  ],
  seam: [['crossfade', 'seam cut'], ['frame'], ['range start', 'range end']],
  lane: [['paste', 'select all'], ['marker', 'range start', 'range end', 'whole range'], ['frame all']],
};

interface Props {
  /** What is at a press, or has the focus when a key opens the menu. */
  readonly targetAt: (event: { target: EventTarget; clientX: number; clientY: number }) => MenuTarget;
  readonly children: ReactNode;
}

/** What applies to the segment, seam or lane under the pointer, with its keys. */
export function LaneMenu({ targetAt, children }: Props) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const [target, setTarget] = useState<MenuTarget>({ kind: 'lane' });
  const open = (event: React.MouseEvent): void => {
    const next = targetAt(event);
    setTarget(next);
    const { session, scene } = store.getState();
    // One of several in hand leaves them in hand.
    const held =
      next.kind === 'segment' && selectedSegments(session.selection, scene.document).includes(next.id);
    if (next.kind === 'seam' || (next.kind === 'segment' && !held))
      dispatch(sessionActions.selected({ kind: next.kind, id: next.id }));
  };
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild onContextMenu={open}>
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content
          className="z-50 min-w-56 rounded-md border bg-raised p-1 shadow-lg"
          onCloseAutoFocus={giveFocusBack}
        >
          <Entries target={target} />
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

const ITEM =
  'flex cursor-pointer justify-between gap-6 rounded px-2 py-0.5 outline-none data-highlighted:bg-paper';

function Entries({ target }: { readonly target: MenuTarget }) {
  const navigate = useNavigate();
  return (
    <>
      {target.kind === 'segment' && (
        <ContextMenu.Item className={ITEM} onSelect={() => void navigate(clipPath(target.clip))}>
          Open clip
        </ContextMenu.Item>
      )}
      {ENTRIES[target.kind].map((ids, i) => (
        <div key={ids.join()} role="none">
          {(i > 0 || target.kind === 'segment') && <ContextMenu.Separator className="my-1 border-t" />}
          {ids.map((id) => (
            <Entry key={id} id={id} />
          ))}
        </div>
      ))}
    </>
  );
}

function Entry({ id }: { readonly id: string }) {
  const dispatch = useAppDispatch();
  const own = useAppSelector((s) => s.session.ownKeys);
  const command = commandOf(id);
  return (
    <ContextMenu.Item className={ITEM} onSelect={() => dispatch(command.run)}>
      <span>{command.name}</span>
      <kbd className="font-sans text-note text-soft">
        {keysOf(command, own).slice(0, 1).map(shownChord).join()}
      </kbd>
    </ContextMenu.Item>
  );
}
