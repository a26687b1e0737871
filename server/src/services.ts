import type { TypeFile } from '@rouse/core/aircraft';
import type { TypeLibrary } from '@rouse/core/contract';
import type { Lesson } from '@rouse/core/drill';
import type { Response } from 'express';
import type pg from 'pg';
import { memberOf } from './accounts/admission.ts';
import type { Accounts } from './accounts/accounts.ts';
import type { Member } from './accounts/sessions.ts';
import type { Clock } from './clock.ts';
import type { StandInClient } from './device/stand-in-client.ts';
import type { Lines } from './device/lines.ts';
import type { AircraftRow } from './db/aircraft.ts';
import { asOperator, type Tx } from './db/pool.ts';
import type { Leases } from './leases/leases.ts';
import type { DrillRooms } from './live/drill-rooms.ts';
import type { Fleet } from './live/fleet.ts';
import type { Fleets } from './live/fleets.ts';
import type { LiveAircraft } from './live/live-aircraft.ts';
import type { Reckoner } from './reckon/reckoner.ts';
import type { DayDesk } from './reckon/day-desk.ts';
import type { TrendDesk } from './reckon/trend-desk.ts';

/** Where types come from that people write here. */
export interface TypeSources {
  /** the folders that come with the application */
  dir: string;
  /** standard items, and the folders that others extend */
  library(): TypeLibrary;
  /** the types that come with the application, each in its present version */
  shipped(): readonly TypeFile[];
  /** what can be practised on a type */
  lessons(type: TypeFile): readonly Lesson[];
  /** the built program that compiles apart */
  compileWorker: string;
}

/** What the routes work with. */
export interface Services {
  pool: pg.Pool;
  clock: Clock;
  accounts: Accounts;
  fleets: Fleets;
  /** who has the fleet of an operator */
  leases: Leases;
  /** an aircraft as it is watched here */
  enlist: (operatorId: string, row: AircraftRow, type: TypeFile) => LiveAircraft;
  lines: Lines;
  standIn: StandInClient;
  /** where the figures of each tail go */
  trends: TrendDesk;
  /** what the day allows each tail */
  days: DayDesk;
  /** what takes long is worked out beside this thread */
  reckoner: Reckoner;
  types: TypeSources;
  /** in which instructors look on drills */
  rooms: DrillRooms;
  /** resolves when what was kept so far is in the database, or after a moment when it is away */
  stored: () => Promise<void>;
}

/** What one request works with: a person, and the operator that they work in. */
export interface Desk {
  who: Member;
  fleet: Fleet;
  now: () => Date;
  inTx: <T>(work: (tx: Tx) => Promise<T>) => Promise<T>;
}

/** The desk of whoever asks. @throws Refusal for nobody */
export function deskOf({ pool, fleets, clock }: Services, res: Response): Desk {
  const who = memberOf(res);
  return {
    who,
    fleet: fleets.of(who.operatorId),
    now: () => new Date(clock.now()),
    inTx: (work) => asOperator(pool, who.operatorId, work),
  };
}
