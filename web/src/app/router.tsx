import { createBrowserRouter } from 'react-router';
import { FindAircraft } from '../parts/find-aircraft.tsx';
import { Shell } from './shell.tsx';
import { Trouble } from './trouble.tsx';

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <Trouble />,
    hydrateFallbackElement: <p>Opening Rouse…</p>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('../views/today/today.tsx')).TodayView }) },
      { path: 'brief', element: <FindAircraft title="Brief" place="/brief" /> },
      { path: 'power', element: <FindAircraft title="Power" place="/power" /> },
      {
        path: 'power/:aircraft',
        lazy: async () => ({ Component: (await import('../views/power/power.tsx')).PowerView }),
      },
      {
        path: 'brief/:aircraft',
        lazy: async () => ({ Component: (await import('../views/brief/brief.tsx')).BriefView }),
      },
      { path: 'types', lazy: async () => ({ Component: (await import('../views/types/types.tsx')).TypesView }) },
      {
        path: 'types/:type/:version',
        lazy: async () => ({ Component: (await import('../views/types/type.tsx')).TypeView }),
      },
      { path: 'start', lazy: async () => ({ Component: (await import('../views/start/find-run.tsx')).FindRun }) },
      { path: 'start/:run', lazy: async () => ({ Component: (await import('../views/start/start.tsx')).StartView }) },
      { path: 'debrief', lazy: async () => ({ Component: (await import('../views/debrief/runs.tsx')).RunsView }) },
      {
        path: 'practice',
        lazy: async () => ({ Component: (await import('../views/practice/practice.tsx')).PracticeView }),
      },
      { path: 'replay', lazy: async () => ({ Component: (await import('../views/replay/replay.tsx')).ReplayView }) },
      {
        path: 'debrief/:run',
        lazy: async () => ({ Component: (await import('../views/debrief/debrief.tsx')).DebriefView }),
      },
    ],
  },
]);
