import { useEffect, useRef, useState } from 'react';
import type { ToTry, Tried } from './try-lesson-worker.ts';

/** Lets a simulated learner fly a lesson, in a worker. */
export function useTryLesson(): { tried: Tried | null; flies: boolean; tryIt: (asked: ToTry) => void } {
  const [tried, setTried] = useState<Tried | null>(null);
  const [flies, setFlies] = useState(false);
  const worker = useRef<Worker | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  return {
    tried,
    flies,
    tryIt(asked) {
      worker.current?.terminate();
      worker.current = new Worker(new URL('./try-lesson-worker.ts', import.meta.url), { type: 'module' });
      worker.current.addEventListener('message', ({ data }: MessageEvent<Tried>) => {
        setTried(data);
        setFlies(false);
      });
      setTried(null);
      setFlies(true);
      worker.current.postMessage(asked);
    },
  };
}
