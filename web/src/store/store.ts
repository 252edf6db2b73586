import { configureStore, createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { serverApi } from '../library/server/serverApi';
import { saveScene } from '../storage/scenes';
import { sceneActions, sceneReducer } from './sceneSlice';
import { library, watchLibrary } from '../motion/pageLibrary';
import { sessionActions, sessionReducer } from './sessionSlice';

const listener = createListenerMiddleware();

/** Time before a save that failed is tried again, milliseconds. */
const RETRY_AFTER = 3000;

/** Makes a store; every edit of the document is kept at once, and a failed save is tried again until it succeeds. */
export function makeStore() {
  const store = configureStore({
    reducer: { scene: sceneReducer, session: sessionReducer, [serverApi.reducerPath]: serverApi.reducer },
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false })
        .prepend(listener.middleware)
        .concat(serverApi.middleware),
  });
  watchLibrary(() => store.dispatch(sessionActions.libraryChanged(library.version)));
  return store;
}

export type AppStore = ReturnType<typeof makeStore>;
export type RootState = ReturnType<AppStore['getState']>;
export type AppDispatch = AppStore['dispatch'];

listener.startListening({
  matcher: isAnyOf(sceneActions.edited, sceneActions.stepped),
  effect: async (_, api) => {
    api.cancelActiveListeners();
    const { id, document, past, future } = (api.getState() as RootState).scene;
    if (!id || !document) return;
    for (;;) {
      try {
        await saveScene({ id, document, past, future, updatedAt: Date.now() });
        api.dispatch(sceneActions.saved());
        return;
      } catch (error) {
        api.dispatch(sceneActions.saveFailed(whyNotKept(error)));
        await api.delay(RETRY_AFTER);
      }
    }
  },
});

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
