import type pg from 'pg';
import type { Clock } from './clock.ts';
import type { StandInClient } from './device/stand-in-client.ts';
import type { Fleet } from './live/fleet.ts';

/** What the routes work with. Until accounts come, one operator and one pilot stand in. */
export interface Services {
  pool: pg.Pool;
  operatorId: string;
  personId: string;
  clock: Clock;
  fleet: Fleet;
  standIn: StandInClient;
  /** resolves when what was kept so far is in the database, or after a moment when it is away */
  stored: () => Promise<void>;
}
