import type { WatchedType } from '@rouse/core/aircraft';
import { type Decided, nextDifficulty, STARTS_A_ROUND } from '@rouse/core/drill';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useAppDispatch } from '../../app/store.ts';
import { ring } from '../../run/frame-ring.ts';
import { runLeft, runLoaded, statusArrived } from '../../run/run-slice.ts';
import { unrecordedRun, unrecordedStatus } from '../../run/unrecorded.ts';
import type { FromGo, ToGo } from './go-messages.ts';

/** A start of the round as it was dealt, and what was made of it. */
export interface Played {
  seed: number;
  difficulty: number;
  decided: Decided;
}

export interface RoundState {
  stage: 'preparing' | 'ready' | 'running' | 'decided' | 'over';
  t_s: number;
  played: Played[];
}

const BEGINNING = 0.3;

/** One round of abort or go, its starts flown in a worker. */
export function useAbortOrGo(
  type: WatchedType,
): RoundState & { next: () => void; stop: () => void; again: () => void } {
  const dispatch = useAppDispatch();
  const worker = useRef<Worker | null>(null);
  const [round, setRound] = useState<RoundState>({ stage: 'preparing', t_s: 0, played: [] });
  const dealt = useRef({ seed: 0, difficulty: BEGINNING });

  useEffect(() => {
    const started = new Worker(new URL('./go-worker.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    dispatch(runLoaded({ detail: unrecordedRun(type), type, corridors: {} }));
    started.addEventListener('message', ({ data }: MessageEvent<FromGo>) => {
      switch (data.kind) {
        case 'prepared':
          return setRound((r) => ({ ...r, stage: 'ready' }));
        case 'running':
          ring.push(data.frames);
          ring.heard('live', performance.now());
          dispatch(statusArrived(unrecordedStatus(data.t_s, { watch: data.watch })));
          return setRound((r) => ({ ...r, t_s: data.t_s }));
        case 'decided': {
          const { seed, difficulty } = dealt.current;
          dealt.current = { seed, difficulty: nextDifficulty(difficulty, data.decided) };
          return setRound((r) => {
            const played = [...r.played, { seed, difficulty, decided: data.decided }];
            return { ...r, stage: played.length >= STARTS_A_ROUND ? 'over' : 'decided', played };
          });
        }
      }
    });
    started.postMessage({ kind: 'prepare', type } satisfies ToGo);
    return () => {
      started.terminate();
      dispatch(runLeft());
    };
  }, [type, dispatch]);

  const next = useCallback((): void => {
    const seed = Math.floor(performance.timeOrigin + performance.now()) % 1_000_000_000;
    dealt.current = { ...dealt.current, seed };
    ring.reset(type.channels.length, null);
    setRound((r) => ({ ...r, stage: 'running', t_s: 0 }));
    worker.current?.postMessage({ kind: 'deal', ...dealt.current } satisfies ToGo);
  }, [type]);
  const stop = useCallback((): void => worker.current?.postMessage({ kind: 'stop' } satisfies ToGo), []);
  const again = useCallback((): void => setRound({ stage: 'ready', t_s: 0, played: [] }), []);
  return { ...round, next, stop, again };
}
