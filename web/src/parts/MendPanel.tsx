import type { Edit, Mend, MendableItem, Scene } from '@warper/core';
import { InputError } from '@warper/core';
import { sourceOfId } from '@warper/formats';
import { useEffect, useRef, useState } from 'react';
import { db } from '../data/db';
import { describeError } from '../data/importFiles';
import { motion } from '../data/motion';
import { openSources } from '../data/pageLibrary';
import { commit } from '../store/edits';
import { sessionActions } from '../store/sessionSlice';
import { useAppDispatch } from '../store/store';
import { Button } from '../ui/controls';
import { GradeMark } from '../ui/grade';
import { writeMeasure } from '../ui/writeMeasure';

/** Files whose clips are tried as bridges at most. */
const MOST_SOURCES = 200;

/** Looks for what mends something, shows what it would be then, and takes it. */
export function MendPanel({ scene, item }: { readonly scene: Scene; readonly item: MendableItem }) {
  const dispatch = useAppDispatch();
  const { share, mend, problem, find, cancel } = useMend(scene, item);
  const take = async (edit: Edit): Promise<void> => {
    // A bridge may be of a file that is not open on this page yet.
    await openSources(clipsPlacedBy(edit).map(sourceOfId));
    if (dispatch(commit(edit))) dispatch(sessionActions.announced(`Mended: ${item.name}`));
  };
  if (share !== null)
    return (
      <span className="flex items-center gap-2" role="status">
        <span className="text-soft">{Math.round(share * 100)} %</span>
        <Button onClick={cancel}>Cancel</Button>
      </span>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      {mend ? (
        <>
          <span>
            {mend.what}: <GradeMark grade={mend.grade} /> {writeMeasure(mend.measure, mend.value)}
          </span>
          <Button look="primary" onClick={() => void take(mend.edit)}>
            Take it
          </Button>
        </>
      ) : (
        <Button onClick={() => void find()}>Find a mend</Button>
      )}
      {problem && <span className="text-watch">{problem}</span>}
    </span>
  );
}

/** The clips that an edit puts onto lanes. */
function clipsPlacedBy(edit: Edit): string[] {
  if (edit.type === 'several') return edit.edits.flatMap(clipsPlacedBy);
  return edit.type === 'place' ? [edit.segment.clip] : [];
}

/** The search for a mend; begins anew with another scene. */
function useMend(scene: Scene, item: MendableItem) {
  const [found, setFound] = useState<{ readonly scene: Scene; readonly mend: Mend | null } | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState('');
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const find = async (): Promise<void> => {
    stop.current = new AbortController();
    setShare(0);
    setProblem('');
    try {
      const sources = (await db.files.toCollection().primaryKeys()).slice(0, MOST_SOURCES);
      const mend = await motion.mend({ scene, item, sources }, setShare, stop.current.signal);
      setFound({ scene, mend });
      if (!mend) setProblem('Nothing that is tried makes it better. Set it by hand on its card.');
    } catch (error) {
      if (!(error instanceof InputError && error.code === 'cancelled'))
        setProblem(describeError(error).message);
    }
    setShare(null);
  };
  const mend = found?.scene === scene ? found.mend : null;
  return { share, mend, problem, find, cancel: (): void => stop.current?.abort() };
}
