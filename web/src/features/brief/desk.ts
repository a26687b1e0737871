import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
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
import type { BriefContextMessage } from '@rouse/core/contract';
import { useEffect, useMemo, useState } from 'react';
import { getJson } from '../../platform/api.ts';
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

/** What was entered before on this machine, so that nothing is lost by a reload. */
function keptInput(aircraft: string, type: TypeFile): BriefInput {
  const kept = readSetting(key(aircraft));
  if (kept === null) return emptyBrief(type);
  try {
    const parsed = briefInputSchema.safeParse(JSON.parse(kept));
    return parsed.success ? parsed.data : emptyBrief(type);
  } catch {
    return emptyBrief(type);
  }
}

interface Loaded {
  message: BriefContextMessage;
  type: TypeFile;
  /** server's clock less this machine's, ms */
  skew_ms: number;
}

async function fetchLoaded(aircraft: string): Promise<Loaded> {
  const message = await getJson<BriefContextMessage>(`/aircraft/${aircraft}/brief`);
  const type = await getJson<TypeFile>(`/types/${message.type.id}/${message.type.version}`);
  return { message, type, skew_ms: Date.parse(message.now) - Date.now() };
}

export function useBriefDesk(aircraft: string): { desk: BriefDesk | null; failure: string | null } {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [input, setInput] = useState<BriefInput | null>(null);
  const [now_ms, setNow_ms] = useState(() => Date.now());

  useEffect(() => {
    let left = false;
    fetchLoaded(aircraft)
      .then((now) => {
        if (left) return;
        setLoaded(now);
        setInput(keptInput(aircraft, now.type));
      })
      .catch((error: unknown) => !left && setFailure(error instanceof Error ? error.message : String(error)));
    const timer = window.setInterval(() => setNow_ms(Date.now()), TICK_ms);
    return () => {
      left = true;
      window.clearInterval(timer);
    };
  }, [aircraft]);

  useEffect(() => {
    if (input) writeSetting(key(aircraft), JSON.stringify(input));
  }, [aircraft, input]);

  const context = useMemo<BriefContext | null>(
    () =>
      loaded && {
        ...loaded.message,
        type: loaded.type,
        now: new Date(now_ms + loaded.skew_ms).toISOString(),
      },
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
          fillSimulated: simulated && (() => setInput((old) => old && { ...old, ...simulated() })),
          input,
          brief,
          read,
          set: (change: Partial<BriefInput>) => setInput((old) => old && { ...old, ...change }),
          setReport: (report: string) =>
            setInput((old) => old && { ...old, report, ...readReport(report, context.now, old.report).fields }),
          clear: () => setInput(emptyBrief(loaded.type)),
          reload: async () => setLoaded(await fetchLoaded(aircraft)),
        }
      : null;
  return { desk, failure };
}
