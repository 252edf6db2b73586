import type { CSSProperties } from 'react';
import { Suspense, lazy, useEffect } from 'react';
import { Provider } from 'react-redux';
import type { FallbackProps } from 'react-error-boundary';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Link, Route, Routes, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { describeError } from './data/importFiles';
import { Button } from './ui/controls';
import { ScenesPage } from './features/scenes/ScenesPage';
import { UpdateNotice } from './parts/UpdateNotice';
import { keepPreferences } from './data/preferences';
import type { AppStore } from './store/store';
import { useAppSelector } from './store/store';

/** Pages that are loaded apart, so that the first one is there at once. */
const LOADERS = {
  workbench: () => import('./features/workbench/Workbench').then((m) => ({ default: m.Workbench })),
  library: () => import('./features/library/LibraryPage').then((m) => ({ default: m.LibraryPage })),
  server: () => import('./features/library/server/ServerPage').then((m) => ({ default: m.ServerPage })),
  continuity: () =>
    import('./features/continuity/ContinuityPage').then((m) => ({ default: m.ContinuityPage })),
  bake: () => import('./features/bake/BakePage').then((m) => ({ default: m.BakePage })),
  clip: () => import('./features/library/clip/ClipPage'),
  bones: () => import('./features/library/bones/BonesPage'),
  measures: () => import('./features/help/MeasuresPage').then((m) => ({ default: m.MeasuresPage })),
};
const Workbench = lazy(LOADERS.workbench);
const LibraryPage = lazy(LOADERS.library);
const ServerPage = lazy(LOADERS.server);
const ContinuityPage = lazy(LOADERS.continuity);
const BakePage = lazy(LOADERS.bake);
const ClipPage = lazy(LOADERS.clip);
const BonesPage = lazy(LOADERS.bones);
const MeasuresPage = lazy(LOADERS.measures);

/** Messages in the colours of the day or the night. */
const TOAST_COLOURS = {
  '--normal-bg': 'var(--raised)',
  '--normal-text': 'var(--ink)',
  '--normal-border': 'var(--rule)',
} as CSSProperties;

/** Seconds after which the other pages are fetched, so that they open even when the server has gone. */
const FETCH_AFTER = 8;

/** The application: its pages and what they share. */
export function App({ store }: { store: AppStore }) {
  useEffect(() => {
    const later = setTimeout(
      () => void Promise.all(Object.values(LOADERS).map((load) => load())),
      FETCH_AFTER * 1000,
    );
    return () => clearTimeout(later);
  }, []);
  return (
    <Provider store={store}>
      <PreferencesKeeper />
      <UpdateNotice />
      <BrowserRouter>
        <Pages />
      </BrowserRouter>
      <Toaster
        expand
        position="bottom-center"
        duration={8000}
        style={TOAST_COLOURS}
        toastOptions={{ className: 'font-sans!', classNames: { description: 'text-soft!' } }}
      />
    </Provider>
  );
}

/** The pages. One that fails says so, and leaves the others; going elsewhere, or trying again, begins anew. */
function Pages() {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Failed} resetKeys={[pathname]}>
      <Suspense fallback={null}>
        <Routes>
          <Route path="/" element={<ScenesPage />} />
          <Route path="/library" element={<LibraryPage />} />
          <Route path="/library/server" element={<ServerPage />} />
          <Route path="/library/clip/:id" element={<ClipPage />} />
          <Route path="/library/clip/:id/bones" element={<BonesPage />} />
          <Route path="/scene/:id" element={<Workbench />} />
          <Route path="/scene/:id/continuity" element={<ContinuityPage />} />
          <Route path="/scene/:id/bake" element={<BakePage />} />
          <Route path="/measures" element={<MeasuresPage />} />
          <Route path="*" element={<Nowhere />} />
        </Routes>
      </Suspense>
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
  const { theme, unit, axes, autoFollow, soundOn, toured, folded, ownKeys } = useAppSelector(
    (s) => s.session,
  );
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useEffect(
    () => keepPreferences({ theme, unit, axes, autoFollow, soundOn, toured, folded, ownKeys }),
    [theme, unit, axes, autoFollow, soundOn, toured, folded, ownKeys],
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
