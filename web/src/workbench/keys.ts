import { useHotkeys } from 'react-hotkeys-hook';
import { commit, freshId, redo, undo } from '../store/edits';
import { sessionActions } from '../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../store/store';
import { shownPlan } from '../store/selectors';
import { togglePlay } from './playback';

/** The keys of the workbench, for the list that `?` shows. */
export const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['Space', 'play or pause'],
  ['← →', 'one frame back or on (with Shift ten); on a segment: move it'],
  ['Alt ← →', 'on a segment: move its end'],
  ['Home, End', 'first and last frame'],
  ['Tab', 'from segment to segment and seam to seam'],
  ['Enter', 'on a clip: add it at the end of the lane'],
  ['D', 'duplicate the segment'],
  ['Delete', 'remove the segment and close the gap (with Shift leave the gap)'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['+ −', 'zoom the timeline'],
  ['1 2 3 4', 'look around, from the front, the side, the top'],
  ['?', 'this list'],
];

/** Binds the keys that hold everywhere on the workbench. */
export function useWorkbenchKeys(showKeys: () => void): void {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => Math.floor(s.session.frame + 1e-6));
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const selection = useAppSelector((s) => s.session.selection);
  const { plan } = useAppSelector(shownPlan);
  const go = (to: number): void => {
    dispatch(sessionActions.played(false));
    dispatch(sessionActions.went(Math.min(Math.max(0, to), Math.max(0, plan.end - 1))));
  };
  const options = { preventDefault: true };
  useHotkeys('space', () => void dispatch(togglePlay()), { ...options, ignoreEventWhen: onControl });
  useHotkeys('left', () => go(frame - 1), options);
  useHotkeys('right', () => go(frame + 1), options);
  useHotkeys('shift+left', () => go(frame - 10), options);
  useHotkeys('shift+right', () => go(frame + 10), options);
  useHotkeys('home', () => go(0), options);
  useHotkeys('end', () => go(plan.end - 1), options);
  useHotkeys('mod+z', () => void dispatch(undo()), options);
  useHotkeys('mod+shift+z, mod+y', () => void dispatch(redo()), options);
  useHotkeys('mod+s', () => void dispatch(sessionActions.announced('Every edit is saved at once')), options);
  useHotkeys('plus, equal, shift+equal', () => void dispatch(sessionActions.zoomed(ppf * 1.3)), {
    ...options,
    useKey: false,
  });
  useHotkeys('minus', () => void dispatch(sessionActions.zoomed(ppf / 1.3)), options);
  (['free', 'front', 'side', 'top'] as const).forEach((angle, i) => {
    // The list is fixed, so the order of hooks is too.
    // eslint-disable-next-line react-hooks/rules-of-hooks
    useHotkeys(String(i + 1), () => void dispatch(sessionActions.turned(angle)), options);
  });
  useHotkeys('shift+slash', showKeys, options);
  useHotkeys('delete, backspace', () => {
    if (selection.kind !== 'segment') return;
    dispatch(commit({ type: 'remove', segment: selection.id, close: true }));
    dispatch(sessionActions.selected({ kind: 'scene' }));
  });
  useHotkeys('d', () => {
    if (selection.kind === 'segment')
      dispatch(commit({ type: 'duplicate', segment: selection.id, id: freshId('g') }));
  });
}

/** Space on a focused control belongs to the control, unless it is a segment or clip, which have no use for it. */
function onControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (target.dataset.segment || target.dataset.clip) return false;
  return /^(BUTTON|A|SELECT|INPUT|TEXTAREA)$/.test(target.tagName);
}
