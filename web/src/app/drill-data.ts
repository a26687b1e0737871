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
import { v7 as uuidv7 } from 'uuid';
import { ApiRefusal } from '../platform/api.ts';
import { keepDrillAtHand, sendDrill } from '../platform/drills-at-hand.ts';
import { type Refused, serverData } from './server-data.ts';

interface Flown {
  type: { id: string; version: number };
  lesson: string;
  seed: number;
  acts: TimedAct[];
  ended_s: number;
}

/** A drill that is over: taken by the server, or kept on this device until one takes it. */
export type DrillOver = DrillKept | { waits: true };

/** Keeps a drill: where no server takes it, on this device. */
async function keep(path: string, flown: object, by: string): Promise<{ data: DrillOver } | { error: Refused }> {
  const drill = { id: uuidv7(), by, path, flown, flownAt_ms: Date.now() };
  try {
    return { data: await sendDrill<DrillKept>(drill) };
  } catch (error) {
    if (!(error instanceof ApiRefusal)) throw error;
    const { code, message, remedy, isOutage } = error;
    if (!isOutage) return { error: { code, message, remedy } };
    return keepDrillAtHand(drill).then(
      () => ({ data: { waits: true } as const }),
      () => ({
        error: { code, message, remedy: 'This browser keeps nothing either: fly it again when a server is there.' },
      }),
    );
  }
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
    keepDrill: build.mutation<DrillOver, { by: string; flown: Flown }>({
      queryFn: ({ by, flown }) => keep('/drill/flown', flown, by),
      invalidatesTags: ['drill'],
    }),
    openRoom: build.mutation<DrillRoom, void>({ query: () => ({ method: 'POST', path: '/drill/rooms', body: {} }) }),
    signDrill: build.mutation<{ by: string }, { drill: string; signature: Signature }>({
      query: ({ drill, signature }) => ({ method: 'POST', path: `/drill/flown/${drill}/signature`, body: signature }),
      invalidatesTags: ['drill'],
    }),
    keepRound: build.mutation<DrillOver, { by: string; flown: Omit<RoundFlown, 'id' | 'waited_s'> }>({
      queryFn: ({ by, flown }) => keep('/drill/rounds', flown, by),
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
