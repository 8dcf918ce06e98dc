import '@fontsource-variable/archivo/wght.css';
import './styles.css';
import { ThemeProvider } from '@mui/material';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, type RouteObject } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { part } from './shared/part.ts';
import { Missing } from './shell/Missing.tsx';
import { Shell } from './shell/Shell.tsx';
import { ShootLayout } from './shell/ShootLayout.tsx';
import { Thrown } from './shell/StationBroken.tsx';
import { Waiting } from './shell/Waiting.tsx';
import { theme } from './theme.ts';

/** A page that is loaded when it is opened. */
const page =
  (load: () => Promise<React.ComponentType>): RouteObject['lazy'] =>
  async () => ({ Component: await part(load) });

/** The stations of a shoot. */
const stations: RouteObject[] = [
  { index: true, element: <Navigate to="gather" replace /> },
  { path: 'plan', lazy: page(async () => (await import('./stations/plan/PlanPage.tsx')).PlanPage) },
  { path: 'plan/compare', lazy: page(async () => (await import('./stations/plan/ComparePage.tsx')).ComparePage) },
  { path: 'plan/:planId/sheet', lazy: page(async () => (await import('./stations/plan/SheetPage.tsx')).SheetPage) },
  { path: 'check', lazy: page(async () => (await import('./stations/check/CheckPage.tsx')).CheckPage) },
  { path: 'gather/:panel?', lazy: page(async () => (await import('./stations/gather/GatherPage.tsx')).GatherPage) },
  { path: 'extract', lazy: page(async () => (await import('./stations/extract/ExtractPage.tsx')).ExtractPage) },
  { path: 'place', lazy: page(async () => (await import('./stations/place/PlacePage.tsx')).PlacePage) },
  {
    path: 'hand-over/:panel?',
    lazy: page(async () => (await import('./stations/handOver/HandOverPage.tsx')).HandOverPage),
  },
  { path: 'log/:panel?', lazy: page(async () => (await import('./stations/log/LogPage.tsx')).LogPage) },
  { path: '*', element: <Missing what="station" /> },
];

const pages: RouteObject[] = [
  { path: '/', lazy: page(async () => (await import('./stations/shoots/ShootsPage.tsx')).ShootsPage) },
  {
    path: '/shoots/:shootId',
    element: <ShootLayout />,
    children: [{ errorElement: <Thrown />, children: stations }],
  },
  {
    path: '/rehearsal',
    lazy: page(async () => (await import('./stations/rehearsal/RehearsalPage.tsx')).RehearsalPage),
  },
  { path: '*', element: <Missing what="page" /> },
];

const router = createBrowserRouter([
  { element: <Shell />, HydrateFallback: Waiting, children: [{ errorElement: <Thrown />, children: pages }] },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <ThemeProvider theme={theme}>
      <RouterProvider router={router} />
    </ThemeProvider>
  </StrictMode>,
);
