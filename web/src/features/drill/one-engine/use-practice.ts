import type { WatchedType } from '@rouse/core/aircraft';
import type { PracticeNow, PracticeStart } from '@rouse/core/drill';
import { useCallback, useEffect, useRef, useState } from 'react';
import { speak } from '../../../platform/speech.ts';
import { ring } from '../../../run/frame-ring.ts';
import type { FromPractice, ToPractice } from './messages.ts';
import { spokenOf } from './spoken.ts';

export interface PracticeControls {
  now: PracticeNow | null;
  begin: (type: WatchedType, start: PracticeStart) => void;
  send: (message: ToPractice) => void;
}

/** One practice flight at a time, in a worker; what it says aloud is said here. @param voice whether to speak */
export function usePractice(voice: boolean): PracticeControls {
  const [now, setNow] = useState<PracticeNow | null>(null);
  const worker = useRef<Worker | null>(null);
  const said = useRef(new Set<string>());
  const speaks = useRef(voice);
  useEffect(() => {
    speaks.current = voice;
  }, [voice]);
  useEffect(() => () => worker.current?.terminate(), []);

  const begin = useCallback((type: WatchedType, start: PracticeStart): void => {
    worker.current?.terminate();
    said.current.clear();
    ring.reset(type.channels.length, null);
    const started = new Worker(new URL('./practice-worker.ts', import.meta.url), { type: 'module' });
    started.addEventListener('message', ({ data }: MessageEvent<FromPractice>) => {
      ring.push(data.frames);
      ring.heard('live', performance.now());
      for (const sentence of spokenOf(data.now, data.events, said.current)) if (speaks.current) speak(sentence, true);
      setNow(data.now);
    });
    started.postMessage({ kind: 'begin', type, start, seed: seedNow() } satisfies ToPractice);
    worker.current = started;
  }, []);
  const send = useCallback((message: ToPractice): void => {
    worker.current?.postMessage(message);
    if (message.kind === 'end') {
      worker.current?.terminate();
      worker.current = null;
      setNow(null);
    }
  }, []);
  return { now, begin, send };
}

const seedNow = (): number => Math.floor(performance.now() * 1000);
