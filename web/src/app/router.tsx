import { createBrowserRouter } from 'react-router';
import { FindAircraft } from '../features/today/find-aircraft.tsx';
import { Shell } from './shell.tsx';
import { Trouble } from './trouble.tsx';

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <Trouble />,
    hydrateFallbackElement: <p>Opening Rouse…</p>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('../features/today/today.tsx')).TodayView }) },
      { path: 'brief', element: <FindAircraft title="Brief" place="/brief" /> },
      { path: 'power', element: <FindAircraft title="Power" place="/power" /> },
      {
        path: 'power/:aircraft',
        lazy: async () => ({ Component: (await import('../features/power/power.tsx')).PowerView }),
      },
      {
        path: 'brief/:aircraft',
        lazy: async () => ({ Component: (await import('../features/brief/brief.tsx')).BriefView }),
      },
      { path: 'types', lazy: async () => ({ Component: (await import('../features/types/types.tsx')).TypesView }) },
      {
        path: 'types/:type/:version',
        lazy: async () => ({ Component: (await import('../features/types/type.tsx')).TypeView }),
      },
      { path: 'start', lazy: async () => ({ Component: (await import('../features/start/find-run.tsx')).FindRun }) },
      {
        path: 'start/:run',
        lazy: async () => ({ Component: (await import('../features/start/start.tsx')).StartView }),
      },
      { path: 'debrief', lazy: async () => ({ Component: (await import('../features/debrief/runs.tsx')).RunsView }) },
      {
        path: 'practice',
        lazy: async () => ({ Component: (await import('../features/practice/practice.tsx')).PracticeView }),
      },
      { path: 'replay', lazy: async () => ({ Component: (await import('../features/replay/replay.tsx')).ReplayView }) },
      {
        path: 'debrief/:run',
        lazy: async () => ({ Component: (await import('../features/debrief/debrief.tsx')).DebriefView }),
      },
    ],
  },
]);
