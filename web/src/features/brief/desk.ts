import { isWatched, type WatchedType } from '@rouse/core/aircraft';
import {
  type Brief,
  type BriefContext,
  type BriefInput,
  briefInputSchema,
  briefOf,
  emptyBrief,
  type ReadReport,
  readReport,
  simulatedDay,
} from '@rouse/core/brief';
import { useEffect, useMemo, useState } from 'react';
import { type AircraftNow, troubleIn, useAircraftQuery } from '../../app/server-data.ts';
import { useWallClock } from '../../platform/pulse.ts';
import { readSetting, writeSetting } from '../../platform/storage.ts';

/** A brief on the desk: what is entered, what record and place know, what comes out. */
export interface BriefDesk {
  context: BriefContext;
  openRun: string | null;
  /** fills in the day and the load of the simulated aircraft; null where there is none */
  fillSimulated: (() => void) | null;
  input: BriefInput;
  brief: Brief;
  read: ReadReport;
  set: (change: Partial<BriefInput>) => void;
  setReport: (text: string) => void;
  clear: () => void;
  /** reads record and place again; what is entered stays */
  reload: () => Promise<void>;
}

const key = (aircraft: string): string => `brief.${aircraft}`;
const TICK_ms = 20_000;

/** What was entered before on this machine, so that nothing is lost by a reload; else the day that was read for its site. */
function keptInput(aircraft: string, { type, message }: AircraftNow): BriefInput {
  const blank = withReport(emptyBrief(type), message);
  const kept = readSetting(key(aircraft));
  if (kept === null) return blank;
  try {
    const parsed = briefInputSchema.safeParse(JSON.parse(kept));
    return parsed.success ? parsed.data : blank;
  } catch {
    return blank;
  }
}

function withReport(input: BriefInput, { siteReport, now }: AircraftNow['message']): BriefInput {
  if (!siteReport) return input;
  return { ...input, report: siteReport.text, ...readReport(siteReport.text, now).fields };
}

export function useBriefDesk(aircraft: string): { desk: BriefDesk | null; failure: string | null } {
  const { currentData: loaded, error, refetch } = useAircraftQuery(aircraft);
  const [input, setInput] = useState<BriefInput | null>(null);
  const now_ms = useWallClock(TICK_ms);
  const [entered, setEntered] = useState<string | null>(null);

  // what was entered is taken from this machine once an aircraft; what is read again later leaves it as it is
  if (loaded && entered !== aircraft) {
    setEntered(aircraft);
    setInput(keptInput(aircraft, loaded));
  }
  useEffect(() => {
    if (input && entered === aircraft) writeSetting(key(aircraft), JSON.stringify(input));
  }, [aircraft, entered, input]);

  const context = useMemo<BriefContext | null>(
    () =>
      loaded ? { ...loaded.message, type: loaded.type, now: new Date(now_ms + loaded.skew_ms).toISOString() } : null,
    [loaded, now_ms],
  );
  const read = useMemo(() => readReport(input?.report ?? '', context?.now ?? ''), [input?.report, context?.now]);
  const brief = useMemo(() => input && context && briefOf(input, context), [input, context]);
  const preset = loaded?.type.standIn.find((p) => p.id === loaded.message.simulated);
  const simulated =
    loaded && preset && isWatched(loaded.type) && context
      ? () => simulatedDay(loaded.type as WatchedType, preset, context.now)
      : null;
  const desk =
    context && input && brief && loaded
      ? {
          context,
          openRun: loaded.message.openRun,
          fillSimulated: simulated && (() => setInput((old) => old && { ...old, report: '', ...simulated() })),
          input,
          brief,
          read,
          set: (change: Partial<BriefInput>) => setInput((old) => old && { ...old, ...change }),
          setReport: (report: string) =>
            setInput((old) => old && { ...old, report, ...readReport(report, context.now, old.report).fields }),
          clear: () => setInput(emptyBrief(loaded.type)),
          reload: async () => void (await refetch()),
        }
      : null;
  return { desk, failure: troubleIn(error) };
}
