import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './App';
import './index.css';
import { keptPreferences } from './data/preferences';
import { sessionActions } from './store/sessionSlice';
import { makeStore } from './store/store';

const store = makeStore();
store.dispatch(sessionActions.preferred(keptPreferences()));

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App store={store} />
  </StrictMode>,
);
