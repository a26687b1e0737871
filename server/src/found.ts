import type { TypeFile } from '@rouse/core/aircraft';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { type AircraftRow, findTypeDigest, insertAircraft, insertType } from './db/aircraft.ts';
import { insertOperator, type OperatorRow } from './db/operators.ts';
import { type PadRow, putPad, putSite, type SiteRow } from './db/pads.ts';
import { putPerson } from './db/people.ts';
import type { Tx } from './db/pool.ts';
import type { Role } from '@rouse/core/people';

/** What an operator begins with, the demo's as everybody's. */
export interface Founding {
  operator: Omit<OperatorRow, 'operatorId' | 'codesAsked'>;
  /** the types that can be flown from the first day */
  types: readonly TypeFile[];
  sites: readonly SiteRow[];
  pads: readonly Pick<PadRow, 'pad' | 'site' | 'x_m' | 'y_m'>[];
  /** with accounts that are there */
  people: readonly { personId: string; name: string; roles: readonly Role[] }[];
  aircraft: readonly AircraftRow[];
}

/**
 * Makes what an operator begins with and is not there yet. Again is nothing.
 * @throws Error when a type version that has flown was changed without a new version number
 */
export async function foundOperator(tx: Tx, founding: Founding, now: Date): Promise<void> {
  const isNew = await insertOperator(tx, founding.operator);
  for (const type of founding.types) await putType(tx, type);
  // people and places are theirs from then on
  if (isNew) {
    for (const site of founding.sites) await putSite(tx, site);
    for (const pad of founding.pads) await putPad(tx, pad);
    for (const person of founding.people) await putPerson(tx, person, now);
  }
  for (const aircraft of founding.aircraft) await insertAircraft(tx, aircraft);
}

async function putType(tx: Tx, type: TypeFile): Promise<void> {
  const digest = digestOf(canonicalJson(type));
  const stored = await findTypeDigest(tx, type.id, type.version);
  if (stored === null) await insertType(tx, type, digest);
  else if (stored !== digest)
    throw new Error(
      `aircraft type ${type.id} version ${type.version} was changed after it was loaded. Give the file a new version number, or delete .local to begin again.`,
    );
}
