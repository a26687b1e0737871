import { useCallback, useEffect, useRef, useState } from 'react';
import type { TriedFlight, TriedRow, TrialNews, ToTry } from './trial-worker.ts';

export interface Trial {
  what: ToTry['what'];
  going: boolean;
  of: number | null;
  starts: TriedRow[];
  flights: TriedFlight[];
  trouble: string | null;
}

/** A trial of the draft as it was when it began, in a worker of its own: told row by row, stopped at any time. */
export function useTrial(): { trial: Trial | null; begin: (asked: ToTry) => void; stop: () => void } {
  const [trial, setTrial] = useState<Trial | null>(null);
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
    setTrial((before) => before && { ...before, going: false });
  }, []);
  useEffect(() => stop, [stop]);
  const begin = (asked: ToTry): void => {
    worker.current?.terminate();
    setTrial({ what: asked.what, going: true, of: null, starts: [], flights: [], trouble: null });
    const started = new Worker(new URL('./trial-worker.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.addEventListener('message', ({ data }: MessageEvent<TrialNews>) => {
      setTrial((before) => before && told(before, data));
    });
    started.postMessage(asked);
  };
  return { trial, begin, stop };
}

function told(trial: Trial, news: TrialNews): Trial {
  switch (news.kind) {
    case 'start':
      return { ...trial, of: news.of, starts: [...trial.starts, news.row] };
    case 'flight':
      return { ...trial, of: news.of, flights: [...trial.flights, news.flight] };
    case 'trouble':
      return { ...trial, going: false, trouble: news.words };
    case 'done':
      return { ...trial, going: false };
  }
}

/** What the starts came to, in one sentence. */
export function sumOf(starts: readonly TriedRow[]): string {
  const count = (outcome: TriedRow['outcome']): number => starts.filter((s) => s.outcome === outcome).length;
  const parts = [
    [count('stopped'), 'would have been stopped'],
    [count('no-longer-stopped'), 'would have been stopped no more'],
    [count('told-otherwise'), 'would have been told otherwise'],
    [count('as-before'), 'as before'],
  ].flatMap(([n, words]) => (n === 0 ? [] : [`${n} ${words}`]));
  return `Of ${starts.length}: ${parts.join(', ')}.`;
}
