import { createBrowserRouter, Navigate } from 'react-router';
import { Lost } from './ui/Lost';
import { Shell } from './ui/Shell';
import { Told } from './ui/Told';

/** Rooms are fetched when first entered. What breaks in one leaves the frame around it standing. */
export const router = createBrowserRouter([
  {
    Component: Told,
    HydrateFallback: () => null,
    children: [
      {
        path: '/v/:token',
        lazy: async () => ({ Component: (await import('./rooms/reports/ShownPage')).ShownPage }),
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
      },
      {
        path: '/flights/:id/tablet',
        lazy: async () => ({ Component: (await import('./rooms/tasting/TabletPage')).TabletPage }),
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
      },
      {
        path: '/flights/:id/links',
        lazy: async () => ({ Component: (await import('./rooms/tasting/LinksPage')).LinksPage }),
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
      },
      {
        path: '/flights/:id/paper',
        lazy: async () => ({ Component: (await import('./rooms/tasting/PaperPage')).PaperPage }),
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
      },
      {
        path: '/live-brews/:id',
        lazy: async () => ({ Component: (await import('./rooms/live_brews/LiveBrewPage')).LiveBrewPage }),
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
      },
      {
        path: '/',
        Component: Shell,
        HydrateFallback: () => null,
        ErrorBoundary: Lost,
        children: [
          {
            ErrorBoundary: Lost,
            children: [
              {
                index: true,
                handle: { title: 'Bench' },
                lazy: async () => ({ Component: (await import('./rooms/bench/BenchPage')).BenchPage }),
              },
              {
                path: 'trials',
                handle: { title: 'Trials' },
                lazy: async () => ({ Component: (await import('./rooms/trials/TrialsPage')).TrialsPage }),
              },
              {
                path: 'trials/new',
                handle: { title: 'A new question' },
                lazy: async () => ({ Component: (await import('./rooms/trials/NewTrialPage')).NewTrialPage }),
              },
              {
                path: 'trials/:id',
                lazy: async () => ({ Component: (await import('./rooms/progress/TrialLayout')).TrialLayout }),
                children: [
                  {
                    ErrorBoundary: Lost,
                    children: [
                      { index: true, element: <Navigate to="ask" replace /> },
                      {
                        path: 'ask',
                        handle: { station: 'Ask' },
                        lazy: async () => ({ Component: (await import('./rooms/trials/AskStation')).AskStation }),
                      },
                      {
                        path: 'set-up',
                        handle: { station: 'Set up' },
                        lazy: async () => ({ Component: (await import('./rooms/trials/SetUpStation')).SetUpStation }),
                      },
                      {
                        path: 'set-up/plan',
                        handle: { station: 'Plan' },
                        lazy: async () => ({ Component: (await import('./rooms/planning/PlanPage')).PlanPage }),
                      },
                      {
                        path: 'set-up/run-sheet',
                        handle: { station: 'Run sheet' },
                        lazy: async () => ({ Component: (await import('./rooms/planning/RunSheetPage')).RunSheetPage }),
                      },
                      {
                        path: 'brew',
                        handle: { station: 'Brew' },
                        lazy: async () => ({ Component: (await import('./rooms/brewing/BrewStation')).BrewStation }),
                      },
                      {
                        path: 'measure',
                        handle: { station: 'Measure' },
                        lazy: async () => ({
                          Component: (await import('./rooms/measuring/MeasureStation')).MeasureStation,
                        }),
                      },
                      {
                        path: 'taste',
                        handle: { station: 'Taste' },
                        lazy: async () => ({ Component: (await import('./rooms/tasting/TasteStation')).TasteStation }),
                      },
                      {
                        path: 'verdict',
                        handle: { station: 'Verdict' },
                        lazy: async () => ({
                          Component: (await import('./rooms/verdicts/VerdictStation')).VerdictStation,
                        }),
                      },
                    ],
                  },
                ],
              },
              {
                path: 'trials/:id/report',
                handle: { title: 'Report' },
                lazy: async () => ({ Component: (await import('./rooms/reports/ReportPage')).ReportPage }),
              },
              {
                path: 'recipes',
                handle: { title: 'Recipes' },
                lazy: async () => ({ Component: (await import('./rooms/recipes/RecipesPage')).RecipesPage }),
              },
              {
                path: 'recipes/new',
                handle: { title: 'A new recipe' },
                lazy: async () => ({ Component: (await import('./rooms/recipes/NewRecipePage')).NewRecipePage }),
              },
              {
                path: 'recipes/handed',
                handle: { title: 'Shared recipes' },
                lazy: async () => ({ Component: (await import('./rooms/recipes/HandedPage')).HandedPage }),
              },
              {
                path: 'recipes/compare',
                handle: { title: 'Recipes compared' },
                lazy: async () => ({ Component: (await import('./rooms/recipes/ComparePage')).ComparePage }),
              },
              {
                path: 'recipes/:id',
                lazy: async () => ({ Component: (await import('./rooms/recipes/RecipePage')).RecipePage }),
              },
              {
                path: 'recipes/:id/card',
                lazy: async () => ({ Component: (await import('./rooms/recipes/CardPage')).CardPage }),
              },
              {
                path: 'kit/translator',
                handle: { title: 'Settings translated' },
                lazy: async () => ({ Component: (await import('./rooms/kit/TranslatorPage')).TranslatorPage }),
              },
              {
                path: 'palate',
                handle: { title: 'Palate' },
                lazy: async () => ({ Component: (await import('./rooms/palate/PalatePage')).PalatePage }),
              },
              {
                path: 'palate/drills/:id',
                handle: { title: 'Drill' },
                lazy: async () => ({ Component: (await import('./rooms/palate/DrillPage')).DrillPage }),
              },
              {
                path: 'palate/:id',
                handle: { title: 'Series' },
                lazy: async () => ({ Component: (await import('./rooms/palate/SessionPage')).SessionPage }),
              },
              {
                path: 'grind',
                handle: { title: 'Grind room' },
                lazy: async () => ({ Component: (await import('./rooms/grinding/GrindRoomPage')).GrindRoomPage }),
              },
              {
                path: 'grind/sample',
                handle: { title: 'A sieve sample' },
                lazy: async () => ({ Component: (await import('./rooms/grinding/SamplePage')).SamplePage }),
              },
              {
                path: 'charts',
                handle: { title: 'Charts' },
                lazy: async () => ({ Component: (await import('./rooms/charts/ChartsPage')).ChartsPage }),
              },
              {
                path: 'people',
                handle: { title: 'People and phones' },
                lazy: async () => ({ Component: (await import('./rooms/people/PeoplePage')).PeoplePage }),
              },
              {
                path: 'words',
                handle: { title: 'Glossary' },
                lazy: async () => ({ Component: (await import('./rooms/words/WordsPage')).WordsPage }),
              },
              {
                path: 'brew',
                handle: { title: 'Brew a cup' },
                lazy: async () => ({ Component: (await import('./rooms/live_brews/LoosePage')).LoosePage }),
              },
              {
                path: 'brews',
                handle: { title: 'Brews' },
                lazy: async () => ({ Component: (await import('./rooms/brews/BrewsPage')).BrewsPage }),
              },
              {
                path: 'brews/bring-in',
                handle: { title: 'Import a spreadsheet' },
                lazy: async () => ({ Component: (await import('./rooms/imports/ImportPage')).ImportPage }),
              },
              {
                path: 'in-and-out',
                handle: { title: 'Import and export' },
                lazy: async () => ({ Component: (await import('./rooms/bench_files/ExchangePage')).ExchangePage }),
              },
              {
                path: 'kit/card/:id',
                lazy: async () => ({ Component: (await import('./rooms/cards/CardPage')).CardPage }),
              },
              {
                path: 'kit/blend',
                handle: { title: 'Waters blended' },
                lazy: async () => ({ Component: (await import('./rooms/kit/BlendPage')).BlendPage }),
              },
              {
                path: 'kit/instruments',
                handle: { title: 'Accuracy, place, units' },
                lazy: async () => ({ Component: (await import('./rooms/kit/InstrumentsPage')).InstrumentsPage }),
              },
              {
                path: 'kit/:kind?/:item?',
                handle: { title: 'Kit' },
                lazy: async () => ({ Component: (await import('./rooms/kit/KitPage')).KitPage }),
              },
              { path: '*', Component: Lost },
            ],
          },
        ],
      },
    ],
  },
]);
