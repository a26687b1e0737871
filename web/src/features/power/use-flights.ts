import type { SimulatorParameters } from '@rouse/core/aircraft';
import type { FailurePoint } from '@rouse/core/simulator';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { FromFlights, ToFlights } from './messages.ts';

export interface Flights {
  points: readonly FailurePoint[];
  /** by point: it held, it came down, or it has not been flown yet */
  holds: readonly (boolean | null)[];
  done: number;
  running: boolean;
  took_s: number | null;
}

const NONE: Flights = { points: [], holds: [], done: 0, running: false, took_s: null };
/** the screen is told this often, ms */
const REPORT_MS = 100;

/** Many engine failures, flown by as many workers as the machine has cores for; progress, and a way to stop. */
export function useFlights(): {
  flights: Flights;
  fly: (parameters: SimulatorParameters, points: readonly FailurePoint[]) => void;
  stop: () => void;
} {
  const [flights, setFlights] = useState(NONE);
  const workers = useRef<Worker[]>([]);
  const end = useCallback((): void => {
    for (const worker of workers.current) worker.terminate();
    workers.current = [];
  }, []);
  useEffect(() => end, [end]);

  const stop = useCallback((): void => {
    end();
    setFlights((f) => ({ ...f, running: false }));
  }, [end]);

  const fly = useCallback(
    (parameters: SimulatorParameters, points: readonly FailurePoint[]): void => {
      end();
      const since_ms = performance.now();
      const holds: (boolean | null)[] = points.map(() => null);
      let done = 0;
      let told_ms = 0;
      const tell = (running: boolean): void => {
        told_ms = performance.now();
        setFlights({
          points,
          holds: [...holds],
          done,
          running,
          took_s: running ? null : (performance.now() - since_ms) / 1000,
        });
      };
      tell(true);
      const count = Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2));
      let left = count;
      workers.current = Array.from({ length: count }, (_, w) => {
        const worker = new Worker(new URL('flights-worker.ts', import.meta.url), { type: 'module' });
        worker.addEventListener('message', ({ data }: MessageEvent<FromFlights>) => {
          if (data.kind === 'done') {
            worker.terminate();
            if (--left === 0) tell(false);
            return;
          }
          holds[data.index] = data.holds;
          done++;
          if (performance.now() - told_ms > REPORT_MS) tell(true);
        });
        const own = points.flatMap((at, index) => (index % count === w ? [{ index, at }] : []));
        worker.postMessage({ kind: 'fly', parameters, points: own } satisfies ToFlights);
        return worker;
      });
    },
    [end],
  );
  return { flights, fly, stop };
}
