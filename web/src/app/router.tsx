import { createBrowserRouter, Navigate } from 'react-router';
import { OnAircraftInHand } from './aircraft-in-hand.tsx';
import { Shell } from './shell.tsx';
import { Trouble } from './trouble.tsx';

export const router = createBrowserRouter([
  {
    path: '/join/:token',
    errorElement: <Trouble />,
    hydrateFallbackElement: <p>Opening Rouse…</p>,
    lazy: async () => ({ Component: (await import('../features/sign-in/join.tsx')).JoinView }),
  },
  { path: '/sign-in', element: <Shell />, children: [{ index: true, element: <Navigate to="/" replace /> }] },
  {
    path: '/',
    element: <Shell />,
    errorElement: <Trouble />,
    hydrateFallbackElement: <p>Opening Rouse…</p>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('../features/today/today.tsx')).TodayView }) },
      { path: 'brief', element: <OnAircraftInHand key="brief" title="Brief" to={(a) => `/brief/${a}`} /> },
      { path: 'power', element: <OnAircraftInHand key="power" title="Power" to={(a) => `/power/${a}`} /> },
      {
        path: 'power/:aircraft',
        lazy: async () => ({ Component: (await import('../features/power/power.tsx')).PowerView }),
      },
      {
        path: 'brief/:aircraft',
        lazy: async () => ({ Component: (await import('../features/brief/brief.tsx')).BriefView }),
      },
      {
        lazy: async () => ({ Component: (await import('../features/set-up/set-up.tsx')).SetUp }),
        children: [
          { path: 'set-up', element: <Navigate to="/set-up/aircraft" replace /> },
          {
            path: 'set-up/first-steps',
            lazy: async () => ({ Component: (await import('../features/set-up/first-steps.tsx')).FirstSteps }),
          },
          {
            path: 'set-up/aircraft',
            lazy: async () => ({ Component: (await import('../features/set-up/aircraft.tsx')).AircraftSetUp }),
          },
          {
            path: 'set-up/sites',
            lazy: async () => ({ Component: (await import('../features/set-up/sites.tsx')).Sites }),
          },
          {
            path: 'set-up/lessons',
            lazy: async () => ({ Component: (await import('../features/set-up/lessons.tsx')).LessonsSetUp }),
          },
          {
            path: 'set-up/lines',
            lazy: async () => ({ Component: (await import('../features/set-up/lines.tsx')).Lines }),
          },
          {
            path: 'set-up/people',
            lazy: async () => ({ Component: (await import('../features/set-up/people.tsx')).People }),
          },
          {
            path: 'set-up/operator',
            lazy: async () => ({ Component: (await import('../features/set-up/operator.tsx')).Operator }),
          },
          {
            path: 'set-up/audit',
            lazy: async () => ({ Component: (await import('../features/set-up/audit.tsx')).Audit }),
          },
          { path: 'set-up/me', lazy: async () => ({ Component: (await import('../features/set-up/me.tsx')).Me }) },
          { path: 'types', lazy: async () => ({ Component: (await import('../features/types/types.tsx')).TypesView }) },
        ],
      },
      {
        path: 'types/drafts/:draft',
        lazy: async () => ({ Component: (await import('../features/types/editor/editor.tsx')).TypeEditor }),
      },
      {
        path: 'types/:type/:version',
        lazy: async () => ({ Component: (await import('../features/types/type.tsx')).TypeView }),
      },
      { path: 'start', lazy: async () => ({ Component: (await import('../features/start/find-run.tsx')).FindRun }) },
      {
        path: 'start/:run',
        lazy: async () => ({ Component: (await import('../features/start/start.tsx')).StartView }),
      },
      {
        path: 'debrief',
        lazy: async () => ({ Component: (await import('../features/debrief/last-run.tsx')).LastRun }),
      },
      {
        path: 'drill',
        lazy: async () => ({ Component: (await import('../features/drill/drill.tsx')).DrillView }),
      },
      {
        path: 'drill/desk/:code',
        lazy: async () => ({ Component: (await import('../features/drill/desk.tsx')).Desk }),
      },
      {
        path: 'drill/:type/:version/hands',
        lazy: async () => ({ Component: (await import('../features/drill/hands.tsx')).Hands }),
      },
      {
        path: 'drill/:type/:version/:lesson',
        lazy: async () => ({ Component: (await import('../features/drill/one-lesson.tsx')).OneLesson }),
      },
      {
        path: 'log',
        lazy: async () => ({ Component: (await import('../features/log/page.tsx')).LogView }),
        children: [
          { index: true, element: <Navigate to="/log/tails" replace /> },
          { path: 'tails', lazy: async () => ({ Component: (await import('../features/log/tails.tsx')).TailsView }) },
          { path: 'runs', lazy: async () => ({ Component: (await import('../features/log/runs.tsx')).RunsView }) },
          { path: 'me', lazy: async () => ({ Component: (await import('../features/log/people.tsx')).PersonView }) },
          {
            path: 'people',
            lazy: async () => ({ Component: (await import('../features/log/people.tsx')).PeopleView }),
          },
          {
            path: 'people/:person',
            lazy: async () => ({ Component: (await import('../features/log/people.tsx')).PersonView }),
          },
          {
            path: 'recording',
            lazy: async () => ({ Component: (await import('../features/replay/replay.tsx')).ReplayView }),
          },
          {
            path: 'past',
            lazy: async () => ({ Component: (await import('../features/replay/past.tsx')).PastView }),
          },
          {
            path: 'exceedances/:run/:seq',
            lazy: async () => ({ Component: (await import('../features/log/exceedance.tsx')).ExceedanceView }),
          },
        ],
      },
      {
        path: 'log/:aircraft',
        lazy: async () => ({ Component: (await import('../features/log/tail.tsx')).TailView }),
        children: [
          { index: true, element: <Navigate to="trends" replace /> },
          { path: 'runs', lazy: async () => ({ Component: (await import('../features/log/tail-runs.tsx')).TailRuns }) },
          {
            path: 'trends',
            lazy: async () => ({ Component: (await import('../features/log/trends.tsx')).TrendsView }),
          },
          {
            path: 'exceedances',
            lazy: async () => ({ Component: (await import('../features/log/exceedances.tsx')).ExceedancesView }),
          },
          { path: 'books', lazy: async () => ({ Component: (await import('../features/log/books.tsx')).BooksView }) },
        ],
      },
      {
        path: 'debrief/:run',
        lazy: async () => ({ Component: (await import('../features/debrief/debrief.tsx')).DebriefView }),
      },
    ],
  },
]);
