import type { SerializedError } from '@reduxjs/toolkit';
import type { TypeFile } from '@rouse/core/aircraft';
import type { RunSummary, StandInLine, StandInState, Today, TypeVersion } from '@rouse/core/contract';
import { createApi, type BaseQueryFn } from '@reduxjs/toolkit/query/react';
import { ApiRefusal, getJson, postJson, putJson } from '../platform/api.ts';

/** What the server refused, as the store can keep it. */
export interface Refused {
  code: string;
  message: string;
  remedy: string;
}

type Asked = string | { method: 'POST' | 'PUT'; path: string; body: unknown };

const ask: BaseQueryFn<Asked, unknown, Refused> = async (asked) => {
  try {
    if (typeof asked === 'string') return { data: await getJson(asked) };
    const send = asked.method === 'POST' ? postJson : putJson;
    return { data: await send(asked.path, asked.body) };
  } catch (error) {
    if (!(error instanceof ApiRefusal)) throw error;
    const { code, message, remedy } = error;
    return { error: { code, message, remedy } };
  }
};

/** Runs of one tail, newest first. */
export interface RunsOfTail {
  tail: string;
  runs: RunSummary[];
}

/** What views read from the server: asked once, kept in the store, and asked again when it is old. */
export const serverData = createApi({
  reducerPath: 'server',
  baseQuery: ask,
  refetchOnMountOrArgChange: true,
  tagTypes: ['today', 'ways'],
  endpoints: (build) => ({
    today: build.query<Today, void>({ query: () => '/today', providesTags: ['today'] }),
    types: build.query<TypeVersion[], void>({ query: () => '/types' }),
    type: build.query<TypeFile, { id: string; version: number | string }>({
      query: ({ id, version }) => `/types/${id}/${version}`,
    }),
    ways: build.query<Record<string, string>, string>({
      query: (type) => `/types/${type}/ways`,
      providesTags: ['ways'],
    }),
    runs: build.query<RunsOfTail[], void>({ query: () => '/runs' }),
    choosePreset: build.mutation<StandInState, { aircraft: string; preset: string }>({
      query: (body) => ({ method: 'POST', path: '/stand-in/conditions', body }),
      invalidatesTags: ['today'],
    }),
    layLine: build.mutation<StandInState, { aircraft: string; line: StandInLine }>({
      query: (body) => ({ method: 'POST', path: '/stand-in/line', body }),
      invalidatesTags: ['today'],
    }),
    chooseWay: build.mutation<Record<string, string>, { type: string; version: number; choice: string; to: string }>({
      query: ({ type, ...body }) => ({ method: 'PUT', path: `/types/${type}/ways`, body }),
      invalidatesTags: ['ways'],
    }),
  }),
});

export const {
  useTodayQuery,
  useTypesQuery,
  useTypeQuery,
  useWaysQuery,
  useRunsQuery,
  useChoosePresetMutation,
  useLayLineMutation,
  useChooseWayMutation,
} = serverData;

/** @returns what went wrong, and what helps; null when nothing did */
export function troubleIn(error: Refused | SerializedError | undefined): string | null {
  if (error === undefined) return null;
  return 'remedy' in error ? `${error.message} ${error.remedy}` : (error.message ?? 'Something went wrong.');
}
