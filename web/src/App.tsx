import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes } from 'react-router-dom';
import { JobsPage } from './features/jobs/JobsPage';
import { QuayPage } from './features/quay/QuayPage';
import { KeyOverlay } from './shared/KeyOverlay';
import { Notices } from './shared/Notices';
import { useEvents } from './shared/useEvents';
import { useThemeOnPage } from './shared/useTheme';

const ShoresPage = lazy(() => import('./features/shores/ShoresPage'));
const ComparePage = lazy(() => import('./features/compare/ComparePage'));
const RoutinesPage = lazy(() => import('./features/routines/RoutinesPage'));
const BatchesPage = lazy(() => import('./features/batches/BatchesPage'));
const BatchPage = lazy(() => import('./features/batches/BatchPage'));
const BenchPage = lazy(() => import('./features/bench/BenchPage'));
const AtlasPage = lazy(() => import('./features/atlas/AtlasPage'));
const CrossingPage = lazy(() => import('./features/crossing/CrossingPage'));

/** The page: quay, crossing, shores, atlas, jobs. The 3D part is fetched when a crossing is opened. */
export function App() {
  useEvents();
  useThemeOnPage();
  return (
    <>
      <Suspense fallback={<p className="loading">Opening …</p>}>
        <Routes>
          <Route path="/" element={<QuayPage />} />
          <Route path="/jobs" element={<JobsPage />} />
          <Route path="/shores" element={<ShoresPage />} />
          <Route path="/shores/:id" element={<ShoresPage />} />
          <Route path="/compare" element={<ComparePage />} />
          <Route path="/routines" element={<RoutinesPage />} />
          <Route path="/routines/:id" element={<RoutinesPage />} />
          <Route path="/batches" element={<BatchesPage />} />
          <Route path="/batches/:id" element={<BatchPage />} />
          <Route path="/atlas" element={<AtlasPage />} />
          <Route path="/crossings/:id" element={<Navigate to="cargo" replace />} />
          <Route path="/crossings/:id/materials" element={<BenchPage />} />
          <Route path="/crossings/:id/:stop" element={<CrossingPage />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Suspense>
      <KeyOverlay />
      <Notices />
    </>
  );
}
