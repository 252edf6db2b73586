import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './App';
import './index.css';
import { keptTheme } from './data/theme';
import { sessionActions } from './store/sessionSlice';
import { makeStore } from './store/store';

const store = makeStore();
store.dispatch(sessionActions.themed(keptTheme()));

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App store={store} />
  </StrictMode>,
);
