import { useEffect } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import { chordOf } from './chords';
import { commandOfChord } from './ownKeys';

/** Keys that belong to what has the focus, for the list that `?` shows. */
export const FOCUS_KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['Tab', 'from segment to segment and seam to seam'],
  ['Enter', 'on a clip: add it at the end of the lane'],
  ['← →', 'on a segment, seam, group or marker: move it a frame (with Shift ten)'],
  ['↑ ↓', 'on a segment: to the lane above or below'],
  ['Alt ← →', 'on a segment: its end (with Shift its start); on a seam: its length'],
  ['Ctrl ← →', 'on a segment: another part of its clip'],
  ['Alt ↑ ↓', 'on the head of a lane: its place in the order'],
  ['Alt, Shift', 'while dragging: no snapping; another part of the clip, or a longer seam alone'],
  ['U', 'held, on a seam: see it without its fit'],
  ['Escape', 'while dragging: cancel'],
];

/** Chords that open the list of keys and the palette; both are fixed, so that there is always a way back. */
export const FIXED_KEYS = { keys: ['?'], palette: ['/', 'Mod+K'] } as const;

/** Binds the keys that hold everywhere on the workbench. */
export function useWorkbenchKeys(show: { keys: () => void; palette: () => void }): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const chord = chordOf(event);
      if (chord === null || event.defaultPrevented || event.isComposing || belongsToFocus(event, chord))
        return;
      const run = runOf(chord);
      if (!run) return;
      event.preventDefault();
      run();
    };
    const runOf = (chord: string): (() => void) | null => {
      if (FIXED_KEYS.keys.some((k) => k === chord)) return show.keys;
      if (FIXED_KEYS.palette.some((k) => k === chord)) return show.palette;
      const command = commandOfChord(chord, store.getState().session.ownKeys);
      return command ? () => void dispatch(command.run) : null;
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [dispatch, store, show]);
}

/** Whether a press is for what has the focus: a field, an open menu or sheet, or Space on a control. */
function belongsToFocus(event: KeyboardEvent, chord: string): boolean {
  const target = event.target as HTMLElement;
  if (target.closest('[role=dialog],[role=menu],[role=listbox]')) return true;
  if (target.closest('input:not([type=checkbox]),textarea,select,[contenteditable=true]')) return true;
  // Segments and clips have no use for Space.
  if (chord !== 'Space' || target.dataset.segment || target.dataset.clip) return false;
  return /^(BUTTON|A)$/.test(target.tagName);
}
