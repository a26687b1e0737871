import { useCallback, useEffect, useRef } from 'react';
import type { FromReplay, ToReplay } from './messages.ts';

/** The worker that reads a recording, as long as the page is open. @param take what it says, with the way to answer @returns the way to speak to it */
export function useReplayWorker(
  take: (message: FromReplay, answer: (message: ToReplay) => void) => void,
): (message: ToReplay) => void {
  const worker = useRef<Worker | null>(null);
  useEffect(() => {
    const started = new Worker(new URL('./replay-worker.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    const answer = (message: ToReplay): void => started.postMessage(message);
    started.addEventListener('message', ({ data }: MessageEvent<FromReplay>) => take(data, answer));
    return () => {
      started.terminate();
      worker.current = null;
    };
  }, [take]);
  return useCallback((message) => worker.current?.postMessage(message), []);
}
