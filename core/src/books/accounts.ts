import type { TypeFile } from '../aircraft/index.ts';
import type { Booking } from '../shutdown/index.ts';

/** One thing that is counted over the life of an aircraft. */
export interface Account {
  id: string;
  label: string;
  /** h for hours, empty for a number of times */
  unit: 'h' | '';
}

const HOUR_S = 3600;

/** Everything that is counted on an aircraft of this type. */
export function accountsOf(type: TypeFile): Account[] {
  const several = type.engines.length > 1;
  const engines = type.engines.flatMap(({ id }): Account[] => {
    const of = several ? `Engine ${id}` : 'Engine';
    return [
      { id: `engine-${id}-hours`, label: `${of}, hours`, unit: 'h' },
      { id: `engine-${id}-starts`, label: `${of}, starts`, unit: '' },
    ];
  });
  return [
    { id: 'flight-hours', label: 'Flight, hours', unit: 'h' },
    ...engines,
    { id: 'rotor-cycles', label: 'Rotor, cycles', unit: '' },
    ...ratingAccounts(type, several),
  ];
}

function ratingAccounts(type: TypeFile, several: boolean): Account[] {
  const ledgers = type.ratings?.ledgers ?? [];
  return type.engines.flatMap(({ id }) =>
    ledgers.flatMap((ledger) =>
      ledger.ratings
        .filter((r) => r.maintenance || r.max_periods !== null)
        .map((r): Account => ({
          id: `engine-${id}-rating-${r.id}`,
          label: `${several ? `Engine ${id}, ` : ''}${r.label}, uses`,
          unit: '',
        })),
    ),
  );
}

/** What one run adds to each account; an account that is not named gets nothing. */
export function amountsOf(booking: Booking): Record<string, number> {
  const amounts: Record<string, number> = {
    'flight-hours': booking.flight_s / HOUR_S,
    'rotor-cycles': booking.rotorCycles,
  };
  const add = (id: string, amount: number): void => {
    amounts[id] = (amounts[id] ?? 0) + amount;
  };
  for (const { engine, starts, running_s } of booking.engines) {
    add(`engine-${engine}-hours`, running_s / HOUR_S);
    add(`engine-${engine}-starts`, starts);
  }
  for (const { engine, rating, uses } of booking.ratings) add(`engine-${engine}-rating-${rating}`, uses);
  return amounts;
}
