import '@fontsource-variable/archivo/wdth.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import './ui/theme/tokens.css';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { SheetView } from './rooms/tasting/SheetPage';
import { TasterTrouble } from './rooms/tasting/TasterTrouble';

const PourPage = lazy(async () => ({ default: (await import('./rooms/tasting/PourPage')).PourPage }));

// The phones of tasters and runners: their sheet, and nothing of the bench. It follows the phone's own light and dark.
const dark = window.matchMedia('(prefers-color-scheme: dark)');
const shade = () => document.documentElement.setAttribute('data-mantine-color-scheme', dark.matches ? 'dark' : 'light');
shade();
dark.addEventListener('change', shade);

const [, kind, token = ''] = window.location.pathname.split('/');

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <TasterTrouble>
      <Suspense>{kind === 'p' ? <PourPage token={token} /> : <SheetView token={token} />}</Suspense>
    </TasterTrouble>
  </StrictMode>,
);
