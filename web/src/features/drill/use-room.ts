import type { WatchedType } from '@rouse/core/aircraft';
import type { LearnerTold, ToLearner } from '@rouse/core/contract';
import type { Lesson } from '@rouse/core/drill';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useOpenRoomMutation } from '../../app/drill-data.ts';
import { enterRoom, type Room } from '../../platform/live-socket.ts';
import { playTone } from '../../platform/sound.ts';
import { ring } from '../../run/frame-ring.ts';
import { store } from '../../app/store.ts';
import type { DrillControls } from './use-drill.ts';

export interface RoomNote {
  t_s: number;
  by: string;
  text: string;
}

export interface RoomState {
  /** what the instructor types; null while nobody was asked in */
  code: string | null;
  /** instructors who look on */
  here: string[];
  notes: RoomNote[];
  /** the list as the instructor has it; null as the lesson has it */
  list: boolean | null;
  signed: string | null;
  trouble: string | null;
  open: () => void;
}

const CLOSED: Omit<RoomState, 'open'> = { code: null, here: [], notes: [], list: null, signed: null, trouble: null };

/** The learner's side of a drill that an instructor looks on. The drill never waits for it. @param kept the drill as the server keeps it */
export function useRoom(type: WatchedType, lesson: Lesson, drill: DrillControls, kept: string | null): RoomState {
  const [state, setState] = useState(CLOSED);
  const [openRoom] = useOpenRoomMutation();
  const room = useRef<Room<LearnerTold> | null>(null);
  const told = useRef(0);
  const now = useRef(drill);
  useEffect(() => {
    now.current = drill;
  });
  useEffect(() => () => room.current?.stop(), []);

  const obey = useCallback(
    (command: ToLearner): void => {
      const { act, freeze, end, view } = now.current;
      switch (command.kind) {
        case 'joined':
          room.current?.send(helloOf(type, lesson));
          told.current = store.getState().run.followed?.entries.length ?? 0;
          return setState((s) => ({ ...s, here: [...s.here.filter((n) => n !== command.name), command.name] }));
        case 'left':
          return setState((s) => ({ ...s, here: s.here.filter((n) => n !== command.name) }));
        case 'learner':
          return;
        case 'fault':
          return act({ kind: 'fault', condition: command.condition, by: command.by });
        case 'weather':
          return act({ kind: 'weather', air_C: command.air_C, headwind_kt: command.headwind_kt, by: command.by });
        case 'freeze':
          return freeze(command.on);
        case 'list':
          return setState((s) => ({ ...s, list: command.shown }));
        case 'note': {
          playTone('call');
          const note = { t_s: view?.since_s ?? 0, by: command.by, text: command.text };
          return setState((s) => ({ ...s, notes: [...s.notes, note] }));
        }
        case 'end':
          return end();
        case 'signed':
          return setState((s) => ({ ...s, signed: command.by }));
      }
    },
    [type, lesson],
  );

  // what the drill shows here it shows there, as often
  const { view, stage, frozen } = drill;
  useEffect(() => {
    if (!room.current || !view) return;
    if (stage === 'over') return room.current.send({ kind: 'over', view, drill: kept });
    const { followed, status } = store.getState().run;
    if (!followed || !status) return;
    const { watch, check, dwells, ratings } = status;
    const entries = followed.entries.slice(told.current);
    told.current = followed.entries.length;
    const frame = ring.lastFrame(performance.now());
    room.current.send({ kind: 'view', t_s: status.t_s, view, entries, session: { watch, check, dwells, ratings }, frame: frame ? [...frame] : [], frozen }); // oxfmt-ignore
  }, [view, stage, frozen, kept]);

  const open = useCallback((): void => {
    openRoom()
      .unwrap()
      .then(({ code }) => {
        room.current = enterRoom<LearnerTold, ToLearner>(code, obey, () => undefined);
        setState((s) => ({ ...s, code, trouble: null }));
      })
      .catch((error: { message?: string }) => setState((s) => ({ ...s, trouble: error.message ?? 'No room could be opened.' }))); // oxfmt-ignore
  }, [openRoom, obey]);
  return { ...state, open };
}

/** Everything so far, for whoever has just come. */
function helloOf(type: WatchedType, lesson: Lesson): LearnerTold {
  const { followed, status } = store.getState().run;
  return { kind: 'hello', type: { id: type.id, version: type.version }, lesson, entries: [...(followed?.entries ?? [])], t_s: status?.t_s ?? 0 }; // oxfmt-ignore
}
