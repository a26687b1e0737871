import { isWatched, type StandInPreset, type TypeFile, type WatchedType } from '../aircraft/index.ts';
import { simulatedBrief } from '../brief/index.ts';
import { flyPractice, type PracticeRun } from '../drill/index.ts';
import { presentItem, reduceRun } from '../procedure/index.ts';
import { conditionsOf } from '../simulator/index.ts';
import type { Report } from './finding.ts';

/** longer than any list takes, s */
const PATIENCE_S = 5400;

/** One way to work the list: the usual answers, or one of them answered otherwise. */
export interface Flight {
  words: string;
  /** choice to alternative, where it is not the usual one */
  differs: Readonly<Record<string, string>>;
}

/** Every way in which the list has to be flown: as usual, and with each other answer to each question. */
export function flightsOf(type: TypeFile): Flight[] {
  const others = type.choices
    .filter((c) => !c.derived)
    .flatMap((c) =>
      c.alternatives
        .filter((a) => a.id !== c.usual)
        .map((a) => ({ words: `${c.question}: ${a.label}`, differs: { [c.id]: a.id } })),
    );
  return [{ words: 'as usual', differs: {} }, ...others];
}

/**
 * Flies a list with the practice pilot to the end of the shut-down, on each of the conditions without a fault until one
 * goes through: a warm engine needs no priming, a cold one does. Where none does, what stopped the first one is reported
 * at its item. Nothing where the type cannot be simulated.
 */
export function auditFlight(type: TypeFile, flight: Flight, report: Report): void {
  if (!isWatched(type)) return;
  let first: PracticeRun | null = null;
  for (const preset of type.standIn.filter((p) => p.faults.length === 0)) {
    const run = fly(type, preset, flight);
    if (run.outcome === 'shut-down' || run.outcome === 'ready') return;
    first ??= run;
  }
  if (!first) return;
  const fault = first.entries.findLast((e) => e.kind === 'item-fault' || e.kind === 'abort');
  const stuck = fault?.kind === 'item-fault' ? fault.item : presentItem(type, reduceRun(first.entries))?.id;
  const at = type.items.findIndex((i) => i.id === stuck);
  const why = fault?.kind === 'item-fault' ? fault.note : fault?.kind === 'abort' ? fault.text : 'it goes on for ever';
  report(
    at < 0 ? ['items'] : ['items', at],
    `flown with a simulated hand (${flight.words}) the list is not completed: ${why}`,
    'look at what the item waits for, and at what the hand does for it',
  );
}

function fly(type: WatchedType, preset: StandInPreset, flight: Flight): PracticeRun {
  return flyPractice({
    type,
    conditions: conditionsOf(type, preset),
    faults: [],
    corridors: {},
    seed: 5,
    brief: simulatedBrief(type, preset, flight.differs),
    through: 'shut-down',
    limit_s: PATIENCE_S,
  });
}
