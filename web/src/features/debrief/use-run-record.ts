import type { TypeFile } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import { decodeChunk, type Trace } from '@rouse/core/trace';
import type { Corridor } from '@rouse/core/watch';
import { skipToken } from '@reduxjs/toolkit/query';
import { useEffect, useMemo, useState } from 'react';
import { troubleIn, useDebriefQuery, useTypeQuery } from '../../app/server-data.ts';
import { getBytes } from '../../platform/api.ts';
import { unwireCorridors } from '../../run/run-slice.ts';

export interface RunRecord {
  debrief: Debrief;
  type: TypeFile;
  trace: Trace;
  corridors: Record<string, Corridor | null>;
}

/** Enough points for any screen; the whole trace is one button away. */
const POINTS = 6000;

/** A run with its type and its trace; the trace is bytes, and is kept by the view that draws it. @param run null for none */
export function useRunRecord(run: string | null): { loaded: RunRecord | null; failure: string | null } {
  const { currentData: debrief, error } = useDebriefQuery(run ?? skipToken);
  const { currentData: type, error: typeError } = useTypeQuery(debrief ? debrief.run.type : skipToken);
  const [read, setRead] = useState<{ run: string; bytes: Uint8Array } | null>(null);
  const [lost, setLost] = useState<{ run: string; failure: string } | null>(null);
  useEffect(() => {
    if (run === null) return;
    getBytes(`/runs/${run}/trace?points=${POINTS}`)
      .then((bytes) => setRead({ run, bytes }))
      .catch((failure: unknown) =>
        setLost({ run, failure: failure instanceof Error ? failure.message : String(failure) }),
      );
  }, [run]);
  const loaded = useMemo(() => {
    if (!debrief || !type || read?.run !== run) return null;
    const trace = decodeChunk(
      read!.bytes,
      type.channels.map((c) => c.id),
    );
    return { debrief, type, trace, corridors: unwireCorridors(debrief.corridors) };
  }, [debrief, type, read, run]);
  return { loaded, failure: troubleIn(error ?? typeError) ?? (lost?.run === run ? lost!.failure : null) };
}
