import type {
  Dispute,
  DrillKept,
  DrillMessage,
  DrillRoom,
  DueDrillsMessage,
  LessonsOfType,
  RoundFlown,
  Signature,
} from '@rouse/core/contract';
import type { TimedAct } from '@rouse/core/drill';
import { serverData } from './server-data.ts';

interface Flown {
  type: { id: string; version: number };
  lesson: string;
  seed: number;
  acts: TimedAct[];
  ended_s: number;
}

/** Lessons of a type, and what was made of them. */
const drillData = serverData.injectEndpoints({
  endpoints: (build) => ({
    drills: build.query<DrillMessage, { id: string; version: number }>({
      query: ({ id, version }) => `/drill/${id}/${version}`,
      providesTags: ['drill'],
    }),
    lessons: build.query<LessonsOfType, string>({ query: (type) => `/lessons/${type}`, providesTags: ['set-up'] }),
    disputeMark: build.mutation<unknown, { drill: string; dispute: Dispute }>({
      query: ({ drill, dispute }) => ({ method: 'POST', path: `/drill/flown/${drill}/disputes`, body: dispute }),
      invalidatesTags: ['drill'],
    }),
    dueDrills: build.query<DueDrillsMessage, void>({ query: () => '/drill/due', providesTags: ['drill'] }),
    keepDrill: build.mutation<DrillKept, Flown>({
      query: (body) => ({ method: 'POST', path: '/drill/flown', body }),
      invalidatesTags: ['drill'],
    }),
    openRoom: build.mutation<DrillRoom, void>({ query: () => ({ method: 'POST', path: '/drill/rooms', body: {} }) }),
    signDrill: build.mutation<{ by: string }, { drill: string; signature: Signature }>({
      query: ({ drill, signature }) => ({ method: 'POST', path: `/drill/flown/${drill}/signature`, body: signature }),
      invalidatesTags: ['drill'],
    }),
    keepRound: build.mutation<DrillKept, RoundFlown>({
      query: (body) => ({ method: 'POST', path: '/drill/rounds', body }),
      invalidatesTags: ['drill'],
    }),
  }),
});

export const {
  useDrillsQuery,
  useDueDrillsQuery,
  useLessonsQuery,
  useDisputeMarkMutation,
  useKeepDrillMutation,
  useKeepRoundMutation,
  useOpenRoomMutation,
  useSignDrillMutation,
} = drillData;
