import '@fontsource-variable/archivo/wght.css';
import './styles.css';
import { StyledEngineProvider, ThemeProvider } from '@mui/material';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { CheckPage } from './stations/check/CheckPage.tsx';
import { CutPage } from './stations/extract/ExtractPage.tsx';
import { DeliverPage } from './stations/handOver/HandOverPage.tsx';
import { GatherPage } from './stations/gather/GatherPage.tsx';
import { PlacePage } from './stations/place/PlacePage.tsx';
import { ComparePage } from './stations/plan/ComparePage.tsx';
import { PlanPage } from './stations/plan/PlanPage.tsx';
import { SheetPage } from './stations/plan/SheetPage.tsx';
import { RehearsalPage } from './stations/rehearsal/RehearsalPage.tsx';
import { ShootLayout } from './shell/ShootLayout.tsx';
import { ShootsPage } from './stations/shoots/ShootsPage.tsx';
import { Missing } from './shell/Missing.tsx';
import { theme } from './theme.ts';

const router = createBrowserRouter([
  { path: '/', element: <ShootsPage /> },
  {
    path: '/shoots/:shootId',
    element: <ShootLayout />,
    children: [
      { index: true, element: <Navigate to="gather" replace /> },
      { path: 'plan', element: <PlanPage /> },
      { path: 'plan/compare', element: <ComparePage /> },
      { path: 'plan/:planId/sheet', element: <SheetPage /> },
      { path: 'check', element: <CheckPage /> },
      { path: 'gather', element: <GatherPage /> },
      { path: 'cut', element: <CutPage /> },
      { path: 'place', element: <PlacePage /> },
      { path: 'deliver', element: <DeliverPage /> },
    ],
  },
  { path: '/rehearsal', element: <RehearsalPage /> },
  { path: '*', element: <Missing what="page" /> },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <StyledEngineProvider injectFirst>
      <ThemeProvider theme={theme}>
        <RouterProvider router={router} />
      </ThemeProvider>
    </StyledEngineProvider>
  </StrictMode>,
);
