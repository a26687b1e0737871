import type { SerializedError } from '@reduxjs/toolkit';
import type { TypeFile } from '@rouse/core/aircraft';
import type {
  BriefContextMessage,
  Debrief,
  Practice,
  PracticeRow,
  RunDetail,
  StandInLine,
  StandInState,
  NewAircraft,
  NewDraft,
  Today,
  TypeDraftRow,
  TypeVersion,
} from '@rouse/core/contract';
import { createApi, type BaseQueryFn } from '@reduxjs/toolkit/query/react';
import { ApiRefusal, deleteJson, getJson, postJson, putJson } from '../platform/api.ts';

/** What the server refused, as the store can keep it. */
export interface Refused {
  code: string;
  message: string;
  remedy: string;
  /** the field that is named */
  path?: string | undefined;
}

export type Asked = string | { method: 'POST' | 'PUT' | 'DELETE'; path: string; body?: unknown };
const SEND = { POST: postJson, PUT: putJson, DELETE: deleteJson };

const ask: BaseQueryFn<Asked, unknown, Refused> = async (asked) => {
  try {
    if (typeof asked === 'string') return { data: await getJson(asked) };
    return { data: await SEND[asked.method](asked.path, asked.body) };
  } catch (error) {
    if (!(error instanceof ApiRefusal)) throw error;
    const { code, message, remedy, details } = error;
    return { error: { code, message, remedy, path: details?.path } };
  }
};

export interface AircraftNow {
  message: BriefContextMessage;
  type: TypeFile;
  /** server's clock less this machine's, ms */
  skew_ms: number;
}

/** What views read from the server: asked once, kept in the store, and asked again when it is old. */
export const serverData = createApi({
  reducerPath: 'server',
  baseQuery: ask,
  refetchOnMountOrArgChange: true,
  tagTypes: [
    'today',
    'types',
    'ways',
    'aircraft',
    'practice',
    'drill',
    'debrief',
    'session',
    'account',
    'set-up',
    'log',
  ],
  endpoints: (build) => ({
    today: build.query<Today, void>({ query: () => '/today', providesTags: ['today'] }),
    types: build.query<TypeVersion[], void>({ query: () => '/types', providesTags: ['types'] }),
    drafts: build.query<TypeDraftRow[], void>({ query: () => '/types/drafts', providesTags: ['types'] }),
    beginDraft: build.mutation<TypeDraftRow, NewDraft>({
      query: (body) => ({ method: 'POST', path: '/types/drafts', body }),
      invalidatesTags: ['types'],
    }),
    pads: build.query<{ pad: string; site: string; tails: string[] }[], void>({
      query: () => '/pads',
      providesTags: ['today'],
    }),
    addAircraft: build.mutation<{ aircraft: string }, NewAircraft>({
      query: (body) => ({ method: 'POST', path: '/aircraft', body }),
      invalidatesTags: ['today'],
    }),
    moveTail: build.mutation<unknown, { type: string; aircraft: string; version: number }>({
      query: ({ type, ...body }) => ({ method: 'PUT', path: `/types/${type}/tails`, body }),
      invalidatesTags: ['today'],
    }),
    type: build.query<TypeFile, { id: string; version: number | string }>({
      query: ({ id, version }) => `/types/${id}/${version}`,
    }),
    /** several types, each once */
    typesOfToday: build.query<TypeFile[], readonly Pick<TypeVersion, 'id' | 'version'>[]>({
      queryFn: async (types, _api, _options, get) => {
        const found: TypeFile[] = [];
        for (const path of new Set(types.map(({ id, version }) => `/types/${id}/${version}`))) {
          const type = await get(path);
          if (type.error) return { error: type.error };
          found.push(type.data as TypeFile);
        }
        return { data: found };
      },
    }),
    ways: build.query<Record<string, string>, string>({
      query: (type) => `/types/${type}/ways`,
      providesTags: ['ways'],
    }),
    run: build.query<RunDetail, string>({ query: (run) => `/runs/${run}` }),
    debrief: build.query<Debrief, string>({ query: (run) => `/runs/${run}/debrief`, providesTags: ['debrief'] }),
    practice: build.query<PracticeRow[], void>({ query: () => '/practice', providesTags: ['practice'] }),
    /** one aircraft as record and place know it, with the type that it flies */
    aircraft: build.query<AircraftNow, string>({
      queryFn: async (aircraft, _api, _options, get) => {
        const read = await get(`/aircraft/${aircraft}/brief`);
        if (read.error) return { error: read.error };
        const message = read.data as BriefContextMessage;
        const type = await get(`/types/${message.type.id}/${message.type.version}`);
        if (type.error) return { error: type.error };
        const skew_ms = Date.parse(message.now) - Date.now();
        return { data: { message, type: type.data as TypeFile, skew_ms } };
      },
      providesTags: ['aircraft'],
    }),
    keepPractice: build.mutation<unknown, Practice>({
      query: (body) => ({ method: 'POST', path: '/practice', body }),
      invalidatesTags: ['practice'],
    }),
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

/** Asks for Today while its page is still on its way. */
export const askToday = () => serverData.endpoints.today.initiate(undefined, { subscribe: false });

export const {
  useTodayQuery,
  useTypesQuery,
  useDraftsQuery,
  useBeginDraftMutation,
  usePadsQuery,
  useAddAircraftMutation,
  useMoveTailMutation,
  useTypeQuery,
  useTypesOfTodayQuery,
  useWaysQuery,
  useRunQuery,
  useDebriefQuery,
  usePracticeQuery,
  useAircraftQuery,
  useKeepPracticeMutation,
  useChoosePresetMutation,
  useLayLineMutation,
  useChooseWayMutation,
} = serverData;

/** @returns what went wrong, and what helps; null when nothing did */
export function troubleIn(error: Refused | SerializedError | undefined): string | null {
  if (error === undefined) return null;
  return 'remedy' in error ? `${error.message} ${error.remedy}` : (error.message ?? 'Something went wrong.');
}
