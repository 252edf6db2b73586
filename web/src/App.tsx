import { Suspense, lazy, useEffect } from 'react';
import { Provider } from 'react-redux';
import { BrowserRouter, Link, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { BakePage } from './bake/BakePage';
import { LibraryPage } from './library/LibraryPage';
import { ScenesPage } from './scenes/ScenesPage';
import { keepTheme } from './storage/theme';
import type { AppStore } from './store/store';
import { useAppSelector } from './store/store';
import { Workbench } from './workbench/Workbench';

/** Loaded when it is first opened: its charts are as large as the rest. */
const ClipPage = lazy(() => import('./library/clip/ClipPage'));

/** The application: its pages and what they share. */
export function App({ store }: { store: AppStore }) {
  return (
    <Provider store={store}>
      <Theme />
      <BrowserRouter>
        <Routes>
          <Route path="/" element={<ScenesPage />} />
          <Route path="/library" element={<LibraryPage />} />
          <Route
            path="/library/clip/:id"
            element={
              <Suspense fallback={null}>
                <ClipPage />
              </Suspense>
            }
          />
          <Route path="/scene/:id" element={<Workbench />} />
          <Route path="/scene/:id/bake" element={<BakePage />} />
          <Route path="*" element={<Nowhere />} />
        </Routes>
      </BrowserRouter>
      <Toaster position="bottom-center" toastOptions={{ className: 'font-sans!' }} />
    </Provider>
  );
}

function Theme() {
  const theme = useAppSelector((s) => s.session.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    keepTheme(theme);
  }, [theme]);
  return null;
}

function Nowhere() {
  return (
    <main className="grid h-full place-items-center">
      <p>
        There is nothing at this address.{' '}
        <Link to="/" className="underline">
          All scenes
        </Link>
      </p>
    </main>
  );
}
