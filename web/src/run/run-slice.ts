import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import type { LiveMessage, RunDetail, Wire } from '@rouse/core/contract';
import { type Entry, presentItem, reduceRun, type RunState } from '@rouse/core/procedure';
import type { Corridor } from '@rouse/core/watch';

export type LiveStatus = Extract<LiveMessage, { kind: 'status' }> & { arrivedAt_ms: number };

export interface FollowedRun {
  detail: RunDetail;
  type: TypeFile;
  /** usual range by start watch */
  corridors: Record<string, Corridor | null>;
  entries: Entry[];
  /** entries that came before those that stand in front of them */
  ahead: Entry[];
  /** what was written here while no server was reached: the list goes on with it, the journal has it when it is sent */
  meanwhile: Entry[];
  /** by the journal, and by what was written meanwhile */
  state: RunState;
}

/** A run of a type with sensors and a watch. */
export type WatchedRun = FollowedRun & { type: WatchedType };

/** @returns null for a run that is timed by hand */
export function asWatched(run: FollowedRun): WatchedRun | null {
  return run.detail.source !== 'by-hand' && isWatched(run.type) ? (run as WatchedRun) : null;
}

export interface RunSlice {
  followed: FollowedRun | null;
  status: LiveStatus | null;
  connected: boolean;
  /** entries of a person that are kept on this page until the server takes them */
  unsent: number;
  /** what the server refused last, until something is accepted */
  refusal: { message: string; remedy: string } | null;
  failure: string | null;
  /** what was moved last on the simulated aircraft, and when by the clock of the page */
  moved: { what: string; at_ms: number } | null;
}

const initialState: RunSlice = {
  followed: null,
  status: null,
  connected: false,
  unsent: 0,
  refusal: null,
  failure: null,
  moved: null,
};

const slice = createSlice({
  name: 'run',
  initialState,
  reducers: {
    runLoaded(slice, action: PayloadAction<Pick<FollowedRun, 'detail' | 'type'> & { corridors: WiredCorridors }>) {
      const { detail, type, corridors } = action.payload;
      return {
        ...slice,
        followed: {
          detail,
          type,
          corridors: unwireCorridors(corridors),
          entries: detail.entries,
          ahead: [],
          meanwhile: [],
          state: reduceRun(detail.entries),
        },
        failure: null,
        refusal: null,
      };
    },
    runLeft: ({ unsent }) => ({ ...initialState, unsent }),
    runFailed: (slice, action: PayloadAction<string>) => ({ ...slice, failure: action.payload }),
    entriesArrived(slice, action: PayloadAction<{ entries: Entry[]; whole: boolean }>) {
      if (!slice.followed) return slice;
      const { followed } = slice;
      const known = action.payload.whole ? [] : followed.entries;
      const ahead = action.payload.whole ? [] : followed.ahead;
      const { entries, rest } = inOrder(known, [...ahead, ...action.payload.entries]);
      if (entries.length === followed.entries.length && !action.payload.whole)
        return { ...slice, followed: { ...followed, ahead: rest } };
      const known_ids = new Set(entries.map((e) => e.id));
      const meanwhile = followed.meanwhile.filter((e) => !known_ids.has(e.id));
      const state = reduceRun([...entries, ...meanwhile]);
      // what the watch writes meanwhile answers nothing: only a person's entry, or another item, settles a refusal
      const settled =
        entries.slice(known.length).some((e) => e.by !== 'watch') ||
        presentItem(followed.type, state)?.id !== presentItem(followed.type, followed.state)?.id;
      return {
        ...slice,
        refusal: settled ? null : slice.refusal,
        followed: { ...followed, entries, ahead: rest, meanwhile, state },
      };
    },
    /** entries in their chain, behind what is followed */
    writtenMeanwhile(slice, action: PayloadAction<readonly Entry[]>) {
      const { followed } = slice;
      if (!followed) return slice;
      const meanwhile = [...followed.meanwhile, ...action.payload];
      return { ...slice, followed: { ...followed, meanwhile, state: reduceRun([...followed.entries, ...meanwhile]) } };
    },
    refusedMeanwhile(slice, action: PayloadAction<string>) {
      const { followed } = slice;
      if (!followed) return slice;
      const meanwhile = followed.meanwhile.filter((e) => e.id !== action.payload);
      return { ...slice, followed: { ...followed, meanwhile, state: reduceRun([...followed.entries, ...meanwhile]) } };
    },
    statusArrived: (slice, action: PayloadAction<LiveStatus>) => ({ ...slice, status: action.payload }),
    connectionChanged: (slice, action: PayloadAction<boolean>) => ({ ...slice, connected: action.payload }),
    unsentCounted: (slice, action: PayloadAction<number>) => ({ ...slice, unsent: action.payload }),
    movedOnStandIn: (slice, action: PayloadAction<{ what: string; at_ms: number }>) => ({
      ...slice,
      moved: action.payload,
    }),
    refused: (slice, action: PayloadAction<RunSlice['refusal']>) => ({ ...slice, refusal: action.payload }),
  },
});

export const {
  runLoaded,
  runLeft,
  runFailed,
  entriesArrived,
  writtenMeanwhile,
  refusedMeanwhile,
  statusArrived,
  connectionChanged,
  unsentCounted,
  movedOnStandIn,
  refused,
} = slice.actions;
export const runReducer = slice.reducer;

/** Entries behind those that are known, as far as none is missing, and the rest. */
function inOrder(known: readonly Entry[], come: readonly Entry[]): { entries: Entry[]; rest: Entry[] } {
  const entries = [...known];
  const rest: Entry[] = [];
  for (const entry of come.toSorted((a, b) => a.seq - b.seq)) {
    if (entry.seq === entries.length + 1) entries.push(entry);
    else if (entry.seq > entries.length + 1) rest.push(entry);
  }
  return { entries, rest };
}

export type WiredCorridors = Record<string, Wire<Corridor> | null>;

export function unwireCorridors(wired: WiredCorridors): Record<string, Corridor | null> {
  return Object.fromEntries(Object.entries(wired).map(([id, c]) => [id, c && unwireCorridor(c)]));
}

/** JSON had no NaN for empty bins; here they are NaN again. */
export function unwireCorridor(wire: Wire<Corridor>): Corridor {
  const numbers = (column: (number | null)[]): number[] => column.map((v) => v ?? NaN);
  return {
    ...(wire as unknown as Corridor),
    upperTot_C: numbers(wire.upperTot_C),
    lowerTot_C: numbers(wire.lowerTot_C),
    lowerPace_pct_s: numbers(wire.lowerPace_pct_s),
    days: wire.days.map((day) => ({
      outsideAir_C: day.outsideAir_C ?? NaN,
      pressureAltitude_ft: day.pressureAltitude_ft ?? NaN,
      tailwind_kt: day.tailwind_kt ?? NaN,
      residual_C: day.residual_C ?? NaN,
      crankVolts_V: day.crankVolts_V ?? NaN,
    })),
    contours: wire.contours.map((c) => ({ share: c.share ?? 0, low_C: numbers(c.low_C), high_C: numbers(c.high_C) })),
  };
}
