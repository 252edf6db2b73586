import { Suspense, lazy, useEffect } from 'react';
import { Provider } from 'react-redux';
import type { FallbackProps } from 'react-error-boundary';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Link, Route, Routes, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { BakePage } from './features/bake/BakePage';
import { LibraryPage } from './features/library/LibraryPage';
import { ServerPage } from './features/library/server/ServerPage';
import { describeError } from './data/importFiles';
import { Button } from './ui/controls';
import { ScenesPage } from './features/scenes/ScenesPage';
import { keepPreferences } from './data/preferences';
import type { AppStore } from './store/store';
import { useAppSelector } from './store/store';
import { Workbench } from './features/workbench/Workbench';

/** Loaded apart from the rest: charts are as large as everything else. */
const loadClipPage = () => import('./features/library/clip/ClipPage');
const loadBonesPage = () => import('./features/library/bones/BonesPage');
const ClipPage = lazy(loadClipPage);
const BonesPage = lazy(loadBonesPage);

/** Seconds after which the pages that are loaded apart are fetched, so that they open even when the server has gone. */
const FETCH_AFTER = 4;

/** The application: its pages and what they share. */
export function App({ store }: { store: AppStore }) {
  useEffect(() => {
    const later = setTimeout(() => void Promise.all([loadClipPage(), loadBonesPage()]), FETCH_AFTER * 1000);
    return () => clearTimeout(later);
  }, []);
  return (
    <Provider store={store}>
      <PreferencesKeeper />
      <BrowserRouter>
        <Pages />
      </BrowserRouter>
      <Toaster position="bottom-center" toastOptions={{ className: 'font-sans!' }} />
    </Provider>
  );
}

/** The pages. One that fails says so, and leaves the others; going elsewhere, or trying again, begins anew. */
function Pages() {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Failed} resetKeys={[pathname]}>
      <Routes>
        <Route path="/" element={<ScenesPage />} />
        <Route path="/library" element={<LibraryPage />} />
        <Route path="/library/server" element={<ServerPage />} />
        <Route
          path="/library/clip/:id"
          element={
            <Suspense fallback={null}>
              <ClipPage />
            </Suspense>
          }
        />
        <Route
          path="/library/clip/:id/bones"
          element={
            <Suspense fallback={null}>
              <BonesPage />
            </Suspense>
          }
        />
        <Route path="/scene/:id" element={<Workbench />} />
        <Route path="/scene/:id/bake" element={<BakePage />} />
        <Route path="*" element={<Nowhere />} />
      </Routes>
    </ErrorBoundary>
  );
}

function Failed({ error, resetErrorBoundary }: FallbackProps) {
  return (
    <main role="alert" className="grid h-full place-items-center text-center">
      <div>
        <p className="font-semibold">This page could not be shown. Nothing that was kept is lost.</p>
        <p className="pb-3 text-soft">{describeError(error).message}</p>
        <div className="flex justify-center gap-3">
          <Button onClick={resetErrorBoundary}>Try again</Button>
          <Link to="/" className="py-1 underline">
            All scenes
          </Link>
        </div>
      </div>
    </main>
  );
}

/** Carries out and keeps what the user prefers. */
function PreferencesKeeper() {
  const { theme, unit, axes, autoFollow, ownKeys } = useAppSelector((s) => s.session);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useEffect(
    () => keepPreferences({ theme, unit, axes, autoFollow, ownKeys }),
    [theme, unit, axes, autoFollow, ownKeys],
  );
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
