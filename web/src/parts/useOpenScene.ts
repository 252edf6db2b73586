import { sourcesOfScene } from '@warper/formats';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { DEMONSTRATION, ensureDemonstration } from '../data/demonstration';
import { describeError } from '../data/importFiles';
import { openSources } from '../data/pageLibrary';
import { loadScene } from '../data/scenes';
import { sceneActions } from '../store/sceneSlice';
import { sessionActions } from '../store/sessionSlice';
import { firstZoom } from '../store/sessionState';
import { useAppDispatch, useAppSelector } from '../store/store';

/** The state of opening a scene. */
export type Opening =
  | { readonly state: 'opening' | 'open' }
  | { readonly state: 'failed'; readonly message: string; readonly hint: string };

/** Opens the scene of the address into the store, with the motion that it uses. */
export function useOpenScene(): Opening & { id: string } {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const openId = useAppSelector((s) => s.scene.id);
  const [failure, setFailure] = useState<{ id: string; message: string; hint: string } | null>(null);
  useEffect(() => {
    if (openId === id) return;
    let gone = false;
    const open = async (): Promise<void> => {
      if (id === DEMONSTRATION) await ensureDemonstration();
      const stored = await loadScene(id);
      if (!stored) throw new Error('There is no such scene in this browser.');
      await openSources(sourcesOfScene(stored.document));
      if (gone) return;
      dispatch(sessionActions.began());
      dispatch(sessionActions.zoomed(firstZoom(innerWidth)));
      dispatch(sceneActions.opened(stored));
    };
    open().catch((error) => !gone && setFailure({ id, ...describeError(error) }));
    return () => {
      gone = true;
    };
  }, [id, openId, dispatch]);
  if (openId === id) return { state: 'open', id };
  return failure?.id === id ? { state: 'failed', ...failure } : { state: 'opening', id };
}
