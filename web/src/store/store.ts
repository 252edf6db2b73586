import { configureStore, createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { serverApi } from '../data/server/serverApi';
import { ChangeLog } from '../data/changeLog';
import { sceneActions, sceneReducer } from './sceneSlice';
import { library, watchLibrary } from '../data/pageLibrary';
import { sessionActions, sessionReducer } from './sessionSlice';

/**
 * Makes a store. Every change of the document is written as it happens; a write that fails is tried again until it succeeds.
 */
export function makeStore() {
  const listener = createListenerMiddleware();
  const store = configureStore({
    reducer: { scene: sceneReducer, session: sessionReducer, [serverApi.reducerPath]: serverApi.reducer },
    middleware: (defaults) =>
      defaults({ serializableCheck: CHECKS, immutableCheck: CHECKS })
        .prepend(listener.middleware)
        .concat(serverApi.middleware),
  });
  let log: ChangeLog | null = null;
  listener.startListening({
    matcher: isAnyOf(sceneActions.opened, sceneActions.closed),
    effect: () => {
      log?.close();
      log = null;
    },
  });
  listener.startListening({
    matcher: isAnyOf(sceneActions.edited, sceneActions.amended, sceneActions.undone, sceneActions.redone),
    effect: (action, api) => {
      const { id, changes } = store.getState().scene;
      if (!id || changes === (api.getOriginalState() as RootState).scene.changes) return;
      log ??= logOf(store, () => (log = null));
      const written = { scene: id, number: changes, at: Date.now() };
      if (sceneActions.edited.match(action))
        log.add({ ...written, kind: 'edit', entry: action.payload.entry });
      else if (sceneActions.amended.match(action))
        log.add({ ...written, kind: 'amend', entry: action.payload.entry });
      else log.add({ ...written, kind: sceneActions.undone.match(action) ? 'undo' : 'redo' });
    },
  });
  watchLibrary(() => store.dispatch(sessionActions.libraryChanged(library.version)));
  return store;
}

/** Checks of the state in development; documents are large, so that their time is not worth a warning. */
const CHECKS = { warnAfter: 1000 };

/** Writes the changes of the open scene, and tells the store what becomes of them. */
const logOf = (store: Pick<AppStore, 'dispatch' | 'getState'>, onOvertaken: () => void): ChangeLog =>
  new ChangeLog({
    onSaved: () => store.dispatch(sceneActions.saved()),
    onFailed: (error) => store.dispatch(sceneActions.saveFailed(whyNotKept(error))),
    onOvertaken: () => {
      // What comes after this tab has taken the scene over again is written anew.
      onOvertaken();
      store.dispatch(sceneActions.heldElsewhere(true));
    },
    current: () => {
      const { id, document, past, future, changes } = store.getState().scene;
      return id && document ? { id, document, past, future, changes, updatedAt: Date.now() } : null;
    },
  });

export type AppStore = ReturnType<typeof makeStore>;
export type RootState = ReturnType<AppStore['getState']>;
export type AppDispatch = AppStore['dispatch'];

/** Why a browser did not keep something, and what can be done, in words. */
function whyNotKept(error: unknown): string {
  const name = (error as { name?: unknown; inner?: { name?: unknown } } | null)?.name;
  const inner = (error as { inner?: { name?: unknown } } | null)?.inner?.name;
  return [name, inner].includes('QuotaExceededError')
    ? 'This browser has no room left. Save the scene as a file, then remove clips or scenes that are not needed.'
    : 'This browser refuses to keep it. Save the scene as a file, and open it again elsewhere.';
}

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
