import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './App';
import './index.css';
import { makeStore } from './store/store';

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App store={makeStore()} />
  </StrictMode>,
);
