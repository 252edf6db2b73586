import type { Edit } from '@warper/core';
import { useStore } from 'react-redux';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { ChosenOnTracks, CurveSource } from './curveSource';

/** Copies the chosen keys of curves, and puts copied ones in at the playhead; null for what cannot be done now. */
export function useKeyClipboard(
  { clipboard }: CurveSource,
  chosen: ChosenOnTracks,
  onEdit: (edit: Edit | null, chosen?: ChosenOnTracks) => void,
): { readonly onCopy: (() => void) | null; readonly onPaste: (() => void) | null } {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const hasCopied = useAppSelector((s) => s.session.copiedKeys !== null);
  if (!clipboard) return { onCopy: null, onPaste: null };
  const copy = (): void => {
    const copied = clipboard.copy(chosen);
    if (copied.size === 0) return;
    dispatch(sessionActions.keysCopied(Object.fromEntries(copied)));
    const count = [...copied.values()].reduce((sum, keys) => sum + keys.length, 0);
    dispatch(sessionActions.announced(`${count} ${count === 1 ? 'key' : 'keys'} copied`));
  };
  const paste = (): void => {
    const { copiedKeys, frame } = store.getState().session;
    if (!copiedKeys) return;
    const pasted = clipboard.paste(new Map(Object.entries(copiedKeys)), frame);
    onEdit(pasted.edit, pasted.chosen);
  };
  return { onCopy: chosen.size > 0 ? copy : null, onPaste: hasCopied ? paste : null };
}
