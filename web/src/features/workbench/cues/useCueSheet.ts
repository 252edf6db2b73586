import { useState } from 'react';
import { toast } from 'sonner';
import { keptClips } from '../../../data/keptClips';
import { openSources } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { newSegment } from '../drawer/newSegment';
import type { CueRow } from './cueRows';
import { tableText } from './cueRows';
import { findByName, readCueTable } from './cueTable';

/** What is done with the cue sheet as a whole. */
export function useCueSheet() {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const [problems, setProblems] = useState<readonly string[]>([]);
  return {
    problems,
    dismiss: () => setProblems([]),
    /** Takes rows of a spreadsheet. */
    paste: async (text: string): Promise<void> => {
      const character = selection.kind === 'character' ? selection.id : (scene.characterOrder[0] ?? null);
      const read = readCueTable(text, { scene, rate: plan.rate, clips: await keptClips(), character });
      setProblems(read.problems);
      if (read.count === 0) return;
      await openSources(read.sources);
      const label = `paste of ${read.count} beats`;
      if (dispatch(commit({ type: 'several', label, edits: read.edits })))
        dispatch(sessionActions.announced(`${read.count} beats pasted`));
    },
    /** Adds a clip by its name at the end of a lane. */
    add: async (lane: string, name: string): Promise<void> => {
      const clip = findByName(await keptClips(), name);
      if (!clip)
        return void toast.error(`No clip is called “${name}”.`, { description: 'Choose one of the list.' });
      await openSources([clip.source]);
      if (dispatch(commit({ type: 'place', lane, segment: newSegment(clip), at: 'end' })))
        dispatch(sessionActions.announced(`${clip.name} added`));
    },
    copy: (rows: readonly CueRow[]): void =>
      void navigator.clipboard?.writeText(tableText(rows)).then(
        () => toast.success('The cue sheet is copied, for a spreadsheet.'),
        () => toast.error('The browser does not let this page copy.'),
      ),
  };
}
