import { createBrowserRouter, Navigate } from 'react-router';
import { Lost } from './ui/Lost';
import { Shell } from './ui/Shell';

/** Rooms are fetched when first entered. */
export const router = createBrowserRouter([
  {
    path: '/t/:token',
    lazy: async () => ({ Component: (await import('./rooms/tasting/SheetPage')).SheetPage }),
    HydrateFallback: () => null,
    ErrorBoundary: Lost,
  },
  {
    path: '/',
    Component: Shell,
    HydrateFallback: () => null,
    ErrorBoundary: Lost,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('./rooms/bench/BenchPage')).BenchPage }) },
      { path: 'trials', lazy: async () => ({ Component: (await import('./rooms/trials/TrialsPage')).TrialsPage }) },
      {
        path: 'trials/new',
        lazy: async () => ({ Component: (await import('./rooms/trials/NewTrialPage')).NewTrialPage }),
      },
      {
        path: 'trials/:id',
        lazy: async () => ({ Component: (await import('./rooms/rails/TrialLayout')).TrialLayout }),
        children: [
          { index: true, element: <Navigate to="ask" replace /> },
          { path: 'ask', lazy: async () => ({ Component: (await import('./rooms/trials/AskStation')).AskStation }) },
          {
            path: 'set-up',
            lazy: async () => ({ Component: (await import('./rooms/trials/SetUpStation')).SetUpStation }),
          },
          {
            path: 'brew',
            lazy: async () => ({ Component: (await import('./rooms/brewing/BrewStation')).BrewStation }),
          },
          {
            path: 'measure',
            lazy: async () => ({ Component: (await import('./rooms/measuring/MeasureStation')).MeasureStation }),
          },
          {
            path: 'taste',
            lazy: async () => ({ Component: (await import('./rooms/tasting/TasteStation')).TasteStation }),
          },
          {
            path: 'verdict',
            lazy: async () => ({ Component: (await import('./rooms/verdicts/VerdictStation')).VerdictStation }),
          },
        ],
      },
      { path: '*', Component: Lost },
    ],
  },
]);
