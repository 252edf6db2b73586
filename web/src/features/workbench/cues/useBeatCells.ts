import type { Plan, Segment } from '@warper/core';
import { toast } from 'sonner';
import { keptClips } from '../../../data/keptClips';
import { openSources } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { canLoop } from '../card/ReplaceClip';
import type { Typed } from './beatEdits';
import { findByName } from './cueTable';

/** What becomes of what is typed into the cells of a beat: it is done, or said to be unreadable. */
export function useBeatCells(segment: Segment, rate: Plan['rate']) {
  const dispatch = useAppDispatch();
  const wrong = (text: string, hint: string): void =>
    void toast.error(`“${text}” cannot be read.`, { description: hint });
  return {
    take:
      (read: (segment: Segment, text: string, rate: Plan['rate']) => Typed) =>
      (text: string): void => {
        const typed = read(segment, text, rate);
        if ('hint' in typed) wrong(text, typed.hint);
        else dispatch(commit(typed.edit));
      },
    /** Another clip by its name. */
    replace: async (text: string): Promise<void> => {
      const clip = findByName(await keptClips(), text);
      if (!clip) return wrong(text, 'Choose a clip of the list.');
      await openSources([clip.source]);
      const by = { clip: clip.id, name: clip.name, loop: canLoop(clip) };
      dispatch(commit({ type: 'replace', segment: segment.id, by }));
    },
  };
}
