import type { Edit } from '@warper/core';
import { useRef } from 'react';
import { useStore } from 'react-redux';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import type { Target } from './geometry';
import { snap } from './geometry';
import { snapTargets } from './snapping';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

/** A block on a lane of shots, sounds or lines, which is moved as a whole. */
export interface Block {
  readonly id: string;
  readonly name: string;
  readonly start: number;
  /** Where others end there too, its own end moves along and draws nothing. */
  readonly end: number;
  readonly select: () => void;
  /** The edit that moves it by so many frames, and so many pixels down. */
  readonly moved: (frames: number, down: number) => Edit;
  readonly remove: () => void;
  /** What Alt and an arrow do. */
  readonly order?: (by: -1 | 1) => void;
}

/** What the end of a block snaps to. */
export function useEndTargets(id: string): () => readonly Target[] {
  const store = useStore<RootState>();
  return () => snapTargets(store.getState(), new Set([id]), { from: 0, to: 0 });
}

/** A block is selected by a press, moved by drags and arrow keys, removed with Delete. */
export function useBlockHands(block: Block) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const from = useRef({ block, targets: [] as ReturnType<typeof snapTargets> });
  const bind = useTimelineDrag((d: TimelineDrag) => {
    if (d.first) {
      const targets = snapTargets(store.getState(), new Set([block.id]), { from: 0, to: 0 });
      const own = (frame: number): boolean => frame === block.start || frame === block.end;
      from.current = { block, targets: targets.filter((t) => !own(t.frame)) };
      block.select();
    }
    if (d.canceled) return void dispatch(preview(null));
    const { block: kept, targets } = from.current;
    const wanted = kept.start + d.frames;
    const ppf = store.getState().session.pixelsPerFrame;
    const start = Math.round(d.event.altKey ? wanted : (snap(wanted, targets, ppf) ?? wanted));
    const change = kept.moved(start - kept.start, d.down);
    dispatch(d.last ? commit(change) : preview(change));
  }, block.select);
  const onKeyDown = (e: React.KeyboardEvent): void => {
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (e.key === 'Enter' || e.key === ' ') {
      block.select();
      dispatch(sessionActions.went(block.start));
    } else if (e.key === 'Delete' || e.key === 'Backspace') block.remove();
    else if (by !== 0 && e.altKey && block.order) block.order(by);
    else if (by !== 0) {
      const frames = by * (e.shiftKey ? 10 : 1);
      if (dispatch(commit(block.moved(frames, 0))))
        dispatch(sessionActions.announced(`${block.name} moved by ${frames} frames`));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  // A screen reader presses without a pointer.
  return { ...bind(), onKeyDown, onClick: block.select };
}
