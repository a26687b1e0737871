import { type ComponentType, lazy, type ReactNode, useState } from 'react';
import { matchRoutes, type RouteObject, useRoutes } from 'react-router';
import { readAhead } from '../run/read-run.ts';
import { OnAircraftInHand } from './aircraft-in-hand.tsx';
import { Redirect } from './redirect.tsx';
import { askToday } from './server-data.ts';
import { Shell } from './shell.tsx';
import { store } from './store.ts';
import { NoSuchPage } from './trouble.tsx';

type Params = Readonly<Record<string, string | undefined>>;

/** What a page needs that is on its way long before it is drawn: its scripts, and what it asks for first. */
interface Early {
  begin: (params: Params) => void;
}

/** A page whose scripts are read when somebody goes there. @param ask what it asks for first, when Rouse is opened on it */
function page(
  load: () => Promise<{ default: ComponentType }>,
  ask?: (params: Params) => void,
): Pick<RouteObject, 'element' | 'handle'> {
  let there: ComponentType | null = null;
  const read = async (): Promise<{ default: ComponentType }> => {
    const module = await load();
    there = module.default;
    return module;
  };
  const later = lazy(read);
  const Page = (): ReactNode => {
    // what is there already is drawn at once: a page that is waited for is held back for a moment by React
    const [Drawn] = useState(() => there ?? later);
    return <Drawn />;
  };
  const begin = (params: Params): void => {
    // what fails here fails again, and is told, when the page is drawn
    read().catch(() => undefined);
    ask?.(params);
  };
  return { element: <Page />, handle: { begin } satisfies Early };
}

const ROUTES: RouteObject[] = [
  {
    path: '/join/:token',
    ...page(async () => ({ default: (await import('../features/sign-in/join.tsx')).JoinView })),
  },
  { path: '/sign-in', element: <Shell />, children: [{ index: true, element: <Redirect to="/" /> }] },
  {
    path: '/',
    element: <Shell />,
    children: [
      {
        index: true,
        ...page(
          async () => ({ default: (await import('../features/today/today.tsx')).TodayView }),
          () => void store.dispatch(askToday()),
        ),
      },
      { path: 'brief', element: <OnAircraftInHand key="brief" title="Brief" to={(a) => `/brief/${a}`} /> },
      { path: 'power', element: <OnAircraftInHand key="power" title="Power" to={(a) => `/power/${a}`} /> },
      {
        path: 'power/:aircraft',
        ...page(async () => ({ default: (await import('../features/power/power.tsx')).PowerView })),
      },
      {
        path: 'brief/:aircraft',
        ...page(async () => ({ default: (await import('../features/brief/brief.tsx')).BriefView })),
      },
      {
        ...page(async () => ({ default: (await import('../features/set-up/set-up.tsx')).SetUp })),
        children: [
          { path: 'set-up', element: <Redirect to="/set-up/aircraft" /> },
          {
            path: 'set-up/first-steps',
            ...page(async () => ({ default: (await import('../features/set-up/first-steps.tsx')).FirstSteps })),
          },
          {
            path: 'set-up/aircraft',
            ...page(async () => ({ default: (await import('../features/set-up/aircraft.tsx')).AircraftSetUp })),
          },
          {
            path: 'set-up/sites',
            ...page(async () => ({ default: (await import('../features/set-up/sites.tsx')).Sites })),
          },
          {
            path: 'set-up/lessons',
            ...page(async () => ({ default: (await import('../features/set-up/lessons.tsx')).LessonsSetUp })),
          },
          {
            path: 'set-up/lines',
            ...page(async () => ({ default: (await import('../features/set-up/lines.tsx')).Lines })),
          },
          {
            path: 'set-up/people',
            ...page(async () => ({ default: (await import('../features/set-up/people.tsx')).People })),
          },
          {
            path: 'set-up/operator',
            ...page(async () => ({ default: (await import('../features/set-up/operator.tsx')).Operator })),
          },
          {
            path: 'set-up/audit',
            ...page(async () => ({ default: (await import('../features/set-up/audit.tsx')).Audit })),
          },
          { path: 'set-up/me', ...page(async () => ({ default: (await import('../features/set-up/me.tsx')).Me })) },
          {
            path: 'types',
            ...page(async () => ({ default: (await import('../features/types/types.tsx')).TypesView })),
          },
        ],
      },
      {
        path: 'types/drafts/:draft',
        ...page(async () => ({ default: (await import('../features/types/editor/editor.tsx')).TypeEditor })),
      },
      {
        path: 'types/:type/:version',
        ...page(async () => ({ default: (await import('../features/types/type.tsx')).TypeView })),
      },
      { path: 'start', ...page(async () => ({ default: (await import('../features/start/find-run.tsx')).FindRun })) },
      {
        path: 'start/:run',
        ...page(
          async () => ({ default: (await import('../features/start/start.tsx')).StartView }),
          ({ run }) => readAhead(run!),
        ),
      },
      {
        path: 'debrief',
        ...page(async () => ({ default: (await import('../features/debrief/last-run.tsx')).LastRun })),
      },
      {
        path: 'drill',
        ...page(async () => ({ default: (await import('../features/drill/drill.tsx')).DrillView })),
      },
      {
        path: 'drill/desk/:code',
        ...page(async () => ({ default: (await import('../features/drill/desk.tsx')).Desk })),
      },
      {
        path: 'drill/:type/:version/hands',
        ...page(async () => ({ default: (await import('../features/drill/hands.tsx')).Hands })),
      },
      {
        path: 'drill/:type/:version/:lesson',
        ...page(async () => ({ default: (await import('../features/drill/one-lesson.tsx')).OneLesson })),
      },
      {
        path: 'log',
        ...page(async () => ({ default: (await import('../features/log/page.tsx')).LogView })),
        children: [
          { index: true, element: <Redirect to="/log/tails" /> },
          { path: 'tails', ...page(async () => ({ default: (await import('../features/log/tails.tsx')).TailsView })) },
          { path: 'runs', ...page(async () => ({ default: (await import('../features/log/runs.tsx')).RunsView })) },
          { path: 'me', ...page(async () => ({ default: (await import('../features/log/people.tsx')).PersonView })) },
          {
            path: 'people',
            ...page(async () => ({ default: (await import('../features/log/people.tsx')).PeopleView })),
          },
          {
            path: 'people/:person',
            ...page(async () => ({ default: (await import('../features/log/people.tsx')).PersonView })),
          },
          {
            path: 'recording',
            ...page(async () => ({ default: (await import('../features/replay/replay.tsx')).ReplayView })),
          },
          {
            path: 'past',
            ...page(async () => ({ default: (await import('../features/replay/past.tsx')).PastView })),
          },
          {
            path: 'exceedances/:run/:seq',
            ...page(async () => ({ default: (await import('../features/log/exceedance.tsx')).ExceedanceView })),
          },
        ],
      },
      {
        path: 'log/:aircraft',
        ...page(async () => ({ default: (await import('../features/log/tail.tsx')).TailView })),
        children: [
          { index: true, element: <Redirect to="trends" /> },
          {
            path: 'runs',
            ...page(async () => ({ default: (await import('../features/log/tail-runs.tsx')).TailRuns })),
          },
          {
            path: 'trends',
            ...page(async () => ({ default: (await import('../features/log/trends.tsx')).TrendsView })),
          },
          {
            path: 'exceedances',
            ...page(async () => ({ default: (await import('../features/log/exceedances.tsx')).ExceedancesView })),
          },
          { path: 'books', ...page(async () => ({ default: (await import('../features/log/books.tsx')).BooksView })) },
        ],
      },
      {
        path: 'debrief/:run',
        ...page(async () => ({ default: (await import('../features/debrief/debrief.tsx')).DebriefView })),
      },
    ],
  },
  { path: '*', element: <NoSuchPage /> },
];

/** The page of this address, in its frame. */
export const Pages = () => useRoutes(ROUTES);

/** Begins to read what the page of an address needs, before it is known who asks for it. */
export function beginEarly(pathname: string): void {
  for (const { route, params } of matchRoutes(ROUTES, pathname) ?? [])
    (route.handle as Early | undefined)?.begin(params);
}
