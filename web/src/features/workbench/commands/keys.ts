import { useHotkeys } from 'react-hotkeys-hook';
import { useAppDispatch } from '../../../store/store';
import { COMMANDS } from './commands';

/** Keys that belong to what has the focus, for the list that `?` shows. */
export const FOCUS_KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['Tab', 'from segment to segment and seam to seam'],
  ['Enter', 'on a clip: add it at the end of the lane'],
  ['← →', 'on a segment, seam, group or marker: move it a frame (with Shift ten)'],
  ['↑ ↓', 'on a segment: to the lane above or below'],
  ['Alt ← →', 'on a segment: its end (with Shift its start); on a seam: its length'],
  ['Ctrl ← →', 'on a segment: another part of its clip'],
  ['Alt ↑ ↓', 'on the head of a lane: its place in the order'],
  ['Alt, Shift', 'while dragging: free of snapping; another part of the clip, or a longer seam alone'],
  ['Escape', 'while dragging: as it was'],
];

/** Binds the keys that hold everywhere on the workbench. */
export function useWorkbenchKeys(show: { keys: () => void; palette: () => void }): void {
  const dispatch = useAppDispatch();
  for (const { keys, run } of COMMANDS) {
    if (!keys) continue;
    // The list is fixed, so the order of hooks is too.
    // eslint-disable-next-line react-hooks/rules-of-hooks
    useHotkeys(keys, () => void dispatch(run), {
      preventDefault: true,
      ignoreEventWhen: keys === 'space' ? onControl : undefined,
      // Signs that need Shift on some keyboards are told by their place on it.
      useKey: !/plus|comma|period/.test(keys) && undefined,
    });
  }
  useHotkeys('shift+slash', show.keys, { preventDefault: true });
  useHotkeys('mod+k, slash', show.palette, { preventDefault: true });
}

/** Space on a focused control belongs to the control, unless it is a segment or clip, which have no use for it. */
function onControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (target.dataset.segment || target.dataset.clip) return false;
  return /^(BUTTON|A|SELECT|INPUT|TEXTAREA)$/.test(target.tagName);
}
