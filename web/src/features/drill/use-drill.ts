import type { WatchedType } from '@rouse/core/aircraft';
import type { Act, Change, DrillView, Lesson, WhatIf } from '@rouse/core/drill';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { store, useAppDispatch } from '../../app/store.ts';
import { playTone } from '../../platform/sound.ts';
import { speak } from '../../platform/speech.ts';
import { announce } from '../../run/announce.ts';
import { ring } from '../../run/frame-ring.ts';
import { entriesArrived, runLeft, runLoaded, statusArrived } from '../../run/run-slice.ts';
import { unrecordedRun, unrecordedStatus } from '../../run/unrecorded.ts';
import type { DrillRecord, FromDrill, ToDrill } from './messages.ts';

interface Drill {
  stage: 'making-ready' | 'flying' | 'over';
  view: DrillView | null;
  record: DrillRecord | null;
  frozen: boolean;
  refused: string | null;
  /** the control that was moved last */
  last: string | null;
  /** what would have been with one act otherwise; `asked` while it is flown */
  what: WhatIf | 'asked' | null;
}

const FRESH: Drill = {
  stage: 'making-ready',
  view: null,
  record: null,
  frozen: false,
  refused: null,
  last: null,
  what: null,
};

export interface DrillControls extends Drill {
  act: (act: Act) => void;
  freeze: (on: boolean) => void;
  end: () => void;
  again: () => void;
  askWhatIf: (change: Change) => void;
}

/** One lesson, flown in a worker from the moment the page is there; what the watch says is said here as in a real run. */
export function useDrill(type: WatchedType, lesson: Lesson): DrillControls {
  const dispatch = useAppDispatch();
  const [drill, setDrill] = useState<Drill>(FRESH);
  const [round, setRound] = useState(0);
  const worker = useRef<Worker | null>(null);

  useEffect(() => {
    const started = new Worker(new URL('./drill-worker.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.addEventListener('message', ({ data }: MessageEvent<FromDrill>) => {
      switch (data.kind) {
        case 'refused':
          return setDrill((d) => ({ ...d, refused: data.message }));
        case 'ready':
          ring.reset(type.channels.length, null);
          dispatch(runLoaded({ detail: unrecordedRun(type, data.entries), type, corridors: {} }));
          sayThatItIsADrill();
          return setDrill((d) => ({ ...d, stage: 'flying' }));
        case 'flown':
          ring.push(data.frames);
          ring.heard('live', performance.now());
          if (data.entries.length > 0) {
            dispatch(entriesArrived({ entries: data.entries, whole: false }));
            for (const entry of data.entries) announce(entry);
          }
          if (!data.view) return;
          dispatch(statusArrived(unrecordedStatus(data.t_s, data.session)));
          return setDrill((d) => ({ ...d, view: data.view }));
        case 'over':
          return setDrill((d) => ({ ...d, stage: 'over', view: data.view, record: data.record }));
        case 'would':
          return setDrill((d) => ({ ...d, what: data.what }));
      }
    });
    started.postMessage({ kind: 'begin', type, lesson, seed: seedNow() } satisfies ToDrill);
    return () => {
      started.terminate();
      dispatch(runLeft());
    };
  }, [type, lesson, round, dispatch]);

  const send = useCallback((message: ToDrill): void => worker.current?.postMessage(message), []);
  return useMemo(
    () => ({
      ...drill,
      act(act) {
        send({ kind: 'act', act });
        if (act.kind === 'move') setDrill((d) => ({ ...d, last: act.control }));
      },
      freeze(on) {
        send({ kind: 'freeze', on });
        setDrill((d) => ({ ...d, frozen: on }));
      },
      end: () => send({ kind: 'end' }),
      askWhatIf(change) {
        setDrill((d) => ({ ...d, what: 'asked' }));
        send({ kind: 'what-if', change });
      },
      again() {
        setDrill(FRESH);
        setRound((r) => r + 1);
      },
    }),
    [drill, send],
  );
}

/** A word and a sound that no real run begins with. */
function sayThatItIsADrill(): void {
  playTone('call');
  if (store.getState().settings.voice) speak('Drill. On the simulator.', false);
}

const seedNow = (): number => Math.floor(performance.timeOrigin + performance.now()) % 1_000_000;
