import type { Edit, Mend, MendableItem, Scene } from '@warper/core';
import { InputError } from '@warper/core';
import { sourceOfId } from '@warper/formats';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useRef, useState } from 'react';
import { db } from '../../data/db';
import { describeError } from '../../data/importFiles';
import { motion } from '../../data/motion';
import { openSources } from '../../data/pageLibrary';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch } from '../../store/store';
import { Button } from '../../ui/controls';
import { MovingFigure } from '../../ui/Figures';
import { GradeMark } from '../../ui/grade';
import { writeMeasure } from '../../ui/writeMeasure';

/** Files whose clips are tried as bridges at most. */
const MOST_SOURCES = 200;

interface Props {
  readonly scene: Scene;
  readonly item: MendableItem;
  /** Shows how it would be, null as it is; where there is a view to show it in. */
  readonly onShow?: (mend: Mend | null) => void;
}

/** Looks for what mends something, shows what it would be then, and takes it. */
export function MendPanel({ scene, item, onShow }: Props) {
  const { share, mends, problem, find, cancel } = useMends(scene, item);
  if (share !== null)
    return (
      <span className="flex items-center gap-2" role="status">
        <span className="text-soft">{Math.round(share * 100)} %</span>
        <Button onClick={cancel}>Cancel</Button>
      </span>
    );
  if (mends && mends.length > 0)
    return (
      <ul aria-label={`Mends of ${item.name}`} className="flex w-full flex-col gap-2">
        {mends.map((mend, i) => (
          <li key={i}>
            <MendOffer item={item} mend={mend} onShow={onShow} />
          </li>
        ))}
      </ul>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Button onClick={() => void find()}>Find a mend</Button>
      {problem && <span className="text-watch">{problem}</span>}
    </span>
  );
}

/** One mend: what it does, how good it would be, and how a clip looks that it puts between. */
function MendOffer({ item, mend, onShow }: Omit<Props, 'scene'> & { readonly mend: Mend }) {
  const dispatch = useAppDispatch();
  const [isShown, setShown] = useState(false);
  // What is shown is no longer once this is gone.
  useEffect(() => (isShown ? () => onShow?.(null) : undefined), [isShown, onShow]);
  const show = async (on: boolean): Promise<void> => {
    setShown(on);
    if (on) await openSources(clipsPlacedBy(mend.edit).map(sourceOfId));
    onShow?.(on ? mend : null);
  };
  const take = async (): Promise<void> => {
    setShown(false);
    onShow?.(null);
    // A bridge may be of a file that is not open on this page yet.
    await openSources(clipsPlacedBy(mend.edit).map(sourceOfId));
    if (dispatch(commit(mend.edit))) dispatch(sessionActions.announced(`Mended: ${item.name}`));
  };
  const { bridge } = mend;
  return (
    <div className="flex items-center gap-2">
      {bridge && <BridgeFigure clip={bridge.clip} />}
      <div className="min-w-0 flex-1">
        <p>
          {mend.what}
          {bridge && (
            <span className="text-soft">
              , {Math.abs(bridge.seconds).toFixed(1)} s {bridge.seconds < 0 ? 'shorter' : 'longer'}
            </span>
          )}
          : <GradeMark grade={mend.grade} /> {writeMeasure(mend.measure, mend.value)}
        </p>
        <span className="mt-1 flex gap-1.5">
          {onShow && (
            <Button aria-pressed={isShown} onClick={() => void show(!isShown)}>
              {isShown ? 'As it is' : 'Show it'}
            </Button>
          )}
          <Button look="primary" onClick={() => void take()}>
            Take it
          </Button>
        </span>
      </div>
    </div>
  );
}

/** How a clip moves that is offered as a bridge. */
function BridgeFigure({ clip }: { readonly clip: string }) {
  const known = useLiveQuery(
    async () => ({ preview: await db.previews.get(clip), clip: await db.clips.get(clip) }),
    [clip],
  );
  if (!known?.preview) return null;
  return (
    <MovingFigure
      preview={known.preview}
      seconds={known.clip?.facts.seconds ?? 2}
      playing
      width={44}
      height={52}
    />
  );
}

/** The clips that an edit puts onto lanes. */
function clipsPlacedBy(edit: Edit): string[] {
  if (edit.type === 'several') return edit.edits.flatMap(clipsPlacedBy);
  return edit.type === 'place' ? [edit.segment.clip] : [];
}

/** The search for mends; begins anew with another scene. */
function useMends(scene: Scene, item: MendableItem) {
  const [found, setFound] = useState<{ readonly scene: Scene; readonly mends: readonly Mend[] } | null>(null);
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
      const mends = await motion.mend({ scene, item, sources }, setShare, stop.current.signal);
      setFound({ scene, mends });
      if (mends.length === 0)
        setProblem('Nothing that is tried makes it better. Set it by hand on its card.');
    } catch (error) {
      if (!(error instanceof InputError && error.code === 'cancelled'))
        setProblem(describeError(error).message);
    }
    setShare(null);
  };
  const mends = found?.scene === scene ? found.mends : null;
  return { share, mends, problem, find, cancel: (): void => stop.current?.abort() };
}
