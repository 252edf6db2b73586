import { configureStore, createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { serverApi } from '../library/server/serverApi';
import { saveScene } from '../storage/scenes';
import { sceneActions, sceneReducer } from './sceneSlice';
import { sessionReducer } from './sessionSlice';

const listener = createListenerMiddleware();

/** Time before a save that failed is tried again, milliseconds. */
const RETRY_AFTER = 3000;

/** Makes a store; every edit of the document is kept at once, and a failed save is tried again until it succeeds. */
export function makeStore() {
  return configureStore({
    reducer: { scene: sceneReducer, session: sessionReducer, [serverApi.reducerPath]: serverApi.reducer },
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false })
        .prepend(listener.middleware)
        .concat(serverApi.middleware),
  });
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
        api.dispatch(sceneActions.saved('saved'));
        return;
      } catch {
        api.dispatch(sceneActions.saved('failed'));
        await api.delay(RETRY_AFTER);
      }
    }
  },
});

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
