import type { StandInAnswer, StandInCommand } from '@rouse/core/contract';
import type { Unit } from './unit.ts';

/** Hands a command to the unit that it names, to the first one when it names none. */
export function obeyAmong(units: readonly Unit[], command: StandInCommand): StandInAnswer {
  const unit = command.type === undefined ? units[0] : units.find((u) => u.type.id === command.type);
  return unit?.obey(command) ?? { ok: false, message: `no unit stands in for ${command.type ?? 'anything'}` };
}
