import type {
  BooksMessage,
  ExceedanceMessage,
  ExceedanceSummary,
  LoggedTail,
  PersonLog,
  RunFilter,
  RunsPage,
  StartActs,
  TrendsMessage,
  WhatIfAnswer,
  WhatIfAsked,
} from '@rouse/core/contract';
import { serverData } from './server-data.ts';

const query = (filter: RunFilter): string =>
  new URLSearchParams(Object.entries(filter).filter((e): e is [string, string] => typeof e[1] === 'string' && e[1] !== '')).toString(); // oxfmt-ignore

/** What happened, as the log reads it. */
const logData = serverData.injectEndpoints({
  endpoints: (build) => ({
    loggedTails: build.query<LoggedTail[], void>({ query: () => '/log/tails', providesTags: ['log'] }),
    loggedRuns: build.query<RunsPage, RunFilter>({ query: (filter) => `/log/runs?${query(filter)}`, providesTags: ['log'] }),
    loggedPeople: build.query<{ person: string; name: string; roles: string[] }[], void>({ query: () => '/log/people' }),
    /** one person's log; one's own for none */
    personLog: build.query<PersonLog, string | null>({ query: (person) => (person === null ? '/log/me' : `/log/people/${person}`) }),
    trends: build.query<TrendsMessage, string>({ query: (aircraft) => `/aircraft/${aircraft}/trends`, providesTags: ['log'] }),
    exceedances: build.query<ExceedanceSummary[], string>({ query: (aircraft) => `/aircraft/${aircraft}/exceedances`, providesTags: ['log'] }),
    exceedance: build.query<ExceedanceMessage, { run: string; seq: string }>({ query: ({ run, seq }) => `/exceedances/${run}/${seq}`, providesTags: ['log'] }),
    startActs: build.query<StartActs, { run: string; watch: string; attempt: number }>({
      query: ({ run, watch, attempt }) => `/runs/${run}/starts/${watch}/${attempt}/acts`,
    }),
    askWhatIf: build.mutation<WhatIfAnswer, { run: string; asked: WhatIfAsked }>({
      query: ({ run, asked }) => ({ method: 'POST', path: `/runs/${run}/what-if`, body: asked }),
    }),
    books: build.query<BooksMessage, string>({ query: (aircraft) => `/aircraft/${aircraft}/books`, providesTags: ['log'] }),
  }),
}); // oxfmt-ignore

export const {
  useLoggedTailsQuery,
  useLoggedRunsQuery,
  useLoggedPeopleQuery,
  usePersonLogQuery,
  useTrendsQuery,
  useExceedancesQuery,
  useExceedanceQuery,
  useBooksQuery,
  useStartActsQuery,
  useAskWhatIfMutation,
} = logData;
