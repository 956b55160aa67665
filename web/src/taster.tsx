import '@fontsource-variable/archivo/wdth.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import './ui/theme/tokens.css';
import { type ComponentType, lazy, StrictMode, Suspense, useEffect, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { api, take } from './api/client';
import { SheetView } from './rooms/tasting/SheetPage';
import { TasterTrouble } from './rooms/tasting/TasterTrouble';
import type { Units } from './ui/units';
import { useUnits } from './ui/useUnits';

const SeriesSheet = lazy(async () => ({ default: (await import('./rooms/palate/SeriesSheet')).SeriesSheet }));
const HelperPage = lazy(async () => ({ default: (await import('./rooms/palate/HelperPage')).HelperPage }));
const PourPage = lazy(async () => ({ default: (await import('./rooms/tasting/PourPage')).PourPage }));

// The phones of tasters and runners: their sheet, and nothing of the bench. It follows the phone's own light and dark.
const dark = window.matchMedia('(prefers-color-scheme: dark)');
const shade = () => document.documentElement.setAttribute('data-mantine-color-scheme', dark.matches ? 'dark' : 'light');
shade();
dark.addEventListener('change', shade);

const [, kind, token = ''] = window.location.pathname.split('/');

/** A sheet is shown at once, and drawn anew should the bench tell its figures in other units than this phone last heard. */
function Sheet() {
  const [units, setUnits] = useState<Units>();
  const drawn = useUnits(units);
  useEffect(() => {
    take(api.GET('/api/v1/session')).then((session) => setUnits(session.units), NOT_NOW);
  }, []);
  const Page = PAGES[kind ?? ''] ?? SheetView;
  return (
    <Suspense key={drawn}>
      <Page token={token} />
    </Suspense>
  );
}

const PAGES: Record<string, ComponentType<{ token: string }>> = { p: PourPage, s: SeriesSheet, h: HelperPage };

const NOT_NOW = () => {};

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <TasterTrouble>
      <Sheet />
    </TasterTrouble>
  </StrictMode>,
);
