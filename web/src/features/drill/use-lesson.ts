import type { Item, WatchedType } from '@rouse/core/aircraft';
import { type Act, isSpot, itemsOfLesson, type Lesson } from '@rouse/core/drill';
import { findItem } from '@rouse/core/procedure';
import { useEffect, useMemo, useState } from 'react';
import { useKeepDrillMutation } from '../../app/drill-data.ts';
import { usePersonId } from '../../app/session-data.ts';
import { useAppSelector } from '../../app/store.ts';
import { type RoomState, useRoom } from './use-room.ts';
import { type DrillControls, useDrill } from './use-drill.ts';
import { useDrillKeys } from './use-drill-keys.ts';

export type Decision = Extract<Item, { kind: 'decide' }>;

/** zone, item, reason: what a hint tells, one more each time */
const ALL_TOLD = 3;

export interface LessonControls {
  drill: DrillControls;
  items: readonly Item[];
  /** how much of the present item is told: 0 nothing, 1 its zone, 2 what it is, 3 why */
  told: number;
  deciding: Decision | null;
  /** the drill as the server keeps it, null until it does */
  drillKept: string | null;
  /** it is kept on this device until a server takes it */
  waits: boolean;
  /** why the drill could not be kept, null where it was */
  unkept: string | null;
  room: RoomState;
  act: (act: Act) => void;
  answer: (item: Item | undefined) => void;
  decide: (alternative: string) => void;
  choose: (item: Decision) => void;
  hint: () => void;
  notGood: () => void;
}

/** A lesson with everything that hands and keys can do in it; what was flown is kept when it is over. */
export function useLesson(type: WatchedType, lesson: Lesson): LessonControls {
  const drill = useDrill(type, lesson);
  const { view, stage } = drill;
  const followed = useAppSelector((s) => s.run.followed);
  const [hinted, setHinted] = useState<{ item: string | null; told: number }>({ item: null, told: 0 });
  const [lever, setLever] = useState<string | null>(() => firstLever(type));
  const [deciding, setDeciding] = useState<Decision | null>(null);
  const kept = useKept(type, drill);
  const room = useRoom(type, lesson, drill, kept.drill);
  const state = followed?.state;
  const items = useMemo(() => (state ? itemsOfLesson({ type, lesson, state }) : []), [state, type, lesson]);

  const present = view?.present ?? null;
  const learns = room.list ?? lesson.way === 'learn';
  const told = learns ? ALL_TOLD : hinted.item === present ? hinted.told : 0;
  const act = (wanted: Act): void => {
    const moved = wanted.kind === 'move' ? type.cockpit?.find((c) => c.id === wanted.control) : undefined;
    if (moved?.kind === 'lever') setLever(moved.id);
    drill.act(wanted);
  };
  const answer = (item: Item | undefined): void => {
    if (item?.kind === 'decide') setDeciding(item);
    else if (item && isSpot(type, item)) act({ kind: 'look', item: item.id });
  };
  const decide = (alternative: string): void => {
    if (deciding) act({ kind: 'look', item: deciding.id, alternative });
    setDeciding(null);
  };
  const hint = (): void => {
    act({ kind: 'hint' });
    setHinted({ item: present, told: Math.min(ALL_TOLD, told + 1) });
  };
  const notGood = (): void => void (present !== null && act({ kind: 'not-good', item: present }));
  useDrillKeys(
    stage !== 'flying'
      ? null
      : {
          controls: type.cockpit ?? [],
          view,
          lever,
          take: setLever,
          act,
          hint,
          notGood,
          freeze: () => drill.freeze(!drill.frozen),
          stop: () => act({ kind: 'stop' }),
          end: drill.end,
          answer: () => answer(learns && present !== null ? findItem(type, present) : undefined),
        },
  );
  return {
    drill,
    items,
    told,
    deciding,
    drillKept: kept.drill,
    waits: kept.waits,
    unkept: kept.trouble,
    room,
    act,
    answer,
    decide,
    choose: setDeciding,
    hint,
    notGood,
  };
}

interface Kept {
  /** as the server keeps it; null until it does */
  drill: string | null;
  waits: boolean;
  /** why it could not be, null where it was */
  trouble: string | null;
}

/** Keeps a drill when it is over. */
function useKept(type: WatchedType, { record }: DrillControls): Kept {
  const [keep, { data, error }] = useKeepDrillMutation();
  const by = usePersonId();
  useEffect(() => {
    if (record && by !== undefined)
      void keep({ by, flown: { type: { id: type.id, version: type.version }, ...record } });
  }, [record, type, keep, by]);
  return {
    drill: record && data && 'id' in data ? data.id : null,
    waits: record !== null && data !== undefined && 'waits' in data,
    trouble: error ? (error.message ?? 'the server did not answer') : null,
  };
}

/** The lever that a hand has first: the one on the fuel, which has a place between its ends. */
function firstLever({ cockpit = [] }: WatchedType): string | null {
  const levers = cockpit.filter((c) => c.kind === 'lever');
  return (levers.find((c) => c.positions.length > 2) ?? levers[0])?.id ?? null;
}
