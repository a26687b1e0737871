import type { WatchedType } from '@rouse/core/aircraft';
import { isWatched } from '@rouse/core/aircraft';
import { type DeskCommand, FRAME_HEADER, packFrame, type ToDesk } from '@rouse/core/contract';
import type { DrillView, Lesson } from '@rouse/core/drill';
import { useCallback, useEffect, useRef, useState } from 'react';
import { serverData } from '../../app/server-data.ts';
import { useAppDispatch } from '../../app/store.ts';
import { enterRoom, type Room } from '../../platform/live-socket.ts';
import { ring } from '../../run/frame-ring.ts';
import { entriesArrived, runLeft, runLoaded, statusArrived } from '../../run/run-slice.ts';
import { unrecordedRun, unrecordedStatus } from '../../run/unrecorded.ts';

export interface DeskState {
  connected: boolean;
  learner: { name: string; here: boolean } | null;
  type: WatchedType | null;
  lesson: Lesson | null;
  view: DrillView | null;
  frozen: boolean;
  /** over; the drill as it is kept, null while it is not */
  over: boolean;
  drill: string | null;
  /** what was said from here, with its moment of the lesson */
  said: { t_s: number; text: string }[];
}

const NOTHING: DeskState = { connected: false, learner: null, type: null, lesson: null, view: null, frozen: false, over: false, drill: null, said: [] }; // oxfmt-ignore

/** The instructor's side of a learner's drill: what the learner sees, and a way to act on it. */
export function useDesk(code: string): DeskState & { send: (command: DeskCommand) => void } {
  const dispatch = useAppDispatch();
  const [desk, setDesk] = useState<DeskState>(NOTHING);
  const room = useRef<Room<DeskCommand> | null>(null);
  const type = useRef<WatchedType | null>(null);

  useEffect(() => {
    const take = (told: ToDesk): void => {
      switch (told.kind) {
        case 'learner':
          return setDesk((d) => ({ ...d, learner: told }));
        case 'hello':
          void dispatch(serverData.endpoints.type.initiate(told.type))
            .unwrap()
            .then((found) => {
              if (!isWatched(found)) return;
              type.current = found;
              ring.reset(found.channels.length, null);
              dispatch(runLoaded({ detail: unrecordedRun(found, told.entries), type: found, corridors: {} }));
              setDesk((d) => ({ ...d, type: found, lesson: told.lesson, over: false, drill: null }));
            })
            .catch(() => undefined);
          return;
        case 'view': {
          const { current } = type;
          if (!current) return;
          if (told.frame.length === current.channels.length) ring.push(packed(told.t_s, told.frame));
          ring.heard('live', performance.now());
          if (told.entries.length > 0) dispatch(entriesArrived({ entries: told.entries, whole: false }));
          dispatch(statusArrived(unrecordedStatus(told.t_s, told.session)));
          return setDesk((d) => ({ ...d, view: told.view, frozen: told.frozen }));
        }
        case 'over':
          return setDesk((d) => ({ ...d, view: told.view, over: true, drill: told.drill }));
        case 'joined':
        case 'left':
          return;
      }
    };
    const entered = enterRoom<DeskCommand, ToDesk>(code, take, (connected) => setDesk((d) => ({ ...d, connected })));
    room.current = entered;
    return () => {
      entered.stop();
      dispatch(runLeft());
    };
  }, [code, dispatch]);

  const send = useCallback((command: DeskCommand): void => {
    room.current?.send(command);
    if (command.kind === 'note')
      setDesk((d) => ({ ...d, said: [...d.said, { t_s: d.view?.since_s ?? 0, text: command.text }] }));
  }, []);
  return { ...desk, send };
}

function packed(t_s: number, frame: readonly (number | null)[]): Float64Array {
  const into = new Float64Array(FRAME_HEADER + frame.length);
  packFrame(
    into,
    t_s,
    t_s,
    Float64Array.from(frame, (v) => v ?? NaN),
  );
  return into;
}
