import { liveQuery } from 'dexie';
import { useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { openSources } from '../../data/pageLibrary';
import { sourcesOfScene } from '@warper/formats';
import { holdScene } from '../../data/sceneLock';
import type { SceneHold } from '../../data/sceneLock';
import { lastChange, loadScene } from '../../data/scenes';
import { sceneActions } from '../../store/sceneSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';

/** Milliseconds between two looks whether the last edit is kept. */
const LOOK = 30;
const MOST_LOOKS = 60;

/** Holds the open scene for this tab, or follows the one that has it; gives what takes it over. */
export function useSceneHold(id: string): () => void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const hold = useRef<SceneHold | null>(null);
  const elsewhere = useAppSelector((s) => s.scene.elsewhere);

  useEffect(() => {
    const follow = async (): Promise<void> => {
      const stored = await loadScene(id);
      if (!stored) return;
      await openSources(sourcesOfScene(stored.document));
      dispatch(sceneActions.followed(stored));
    };
    const kept = async (): Promise<void> => {
      for (let i = 0; i < MOST_LOOKS && store.getState().scene.save === 'saving'; i++)
        await new Promise((resolve) => setTimeout(resolve, LOOK));
    };
    let first = true;
    hold.current = holdScene(
      id,
      (state) => {
        // What the other tab did last is taken over with the scene.
        if (state === 'held' && !first) void follow().then(() => dispatch(sceneActions.heldElsewhere(false)));
        else dispatch(sceneActions.heldElsewhere(state === 'elsewhere'));
        first = false;
      },
      kept,
    );
    return () => hold.current?.release();
  }, [id, dispatch, store]);

  useEffect(() => {
    if (!elsewhere) return;
    const watched = liveQuery(() => lastChange(id)).subscribe(() => {
      void loadScene(id).then(async (stored) => {
        if (!stored) return;
        await openSources(sourcesOfScene(stored.document));
        if (store.getState().scene.elsewhere) dispatch(sceneActions.followed(stored));
      });
    });
    return () => watched.unsubscribe();
  }, [id, elsewhere, dispatch, store]);

  return () => hold.current?.take();
}
