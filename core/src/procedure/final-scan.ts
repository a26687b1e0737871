import { bandEdge, type Channel, type Limit, sayValue, type TypeFile, type Verdict } from '../aircraft/index.ts';
import { AIR_APART_K, readOutsideAir_C } from './air-now.ts';
import { notDone, procedureOf, toPutBack } from './list.ts';
import { powerNow, sayPower } from './power-now.ts';
import { readItem } from './reading.ts';
import { briefedWind, rotorWindNow } from './rotor-wind.ts';
import { itemState, type RunState } from './state.ts';
import { burned_kg } from './weight-now.ts';

/** One line of the last look before lift. */
export interface ScanLine {
  id: string;
  label: string;
  /** as the sensors, or the record, say it now; false is not ready, unknown is for the eye */
  verdict: Verdict;
  words: string;
}

/** Minutes of cruise that stay in the tanks. */
const RESERVE_min = 20;
/**
 * The last look before lift, line by line: what is sensed is judged by the sensors of this moment, the rest by what the
 * record has. @param values the latest frame, or null when there is no data
 */
export function finalScan(type: TypeFile, state: RunState, values: ArrayLike<number> | null, t_s: number): ScanLine[] {
  return [
    ...readings(type, values),
    captions(type, state, values),
    air(type, state, values),
    power(type, state, values, t_s),
    fuel(type, state, t_s),
    open(type, state),
    left(type, state),
    wind(type, state),
    people(type, state),
  ];
}

/** Exactly what is not ready, null when nothing says so. */
export function notReadyBecause(lines: readonly ScanLine[]): ScanLine | null {
  return lines.find((l) => l.verdict === false) ?? null;
}

/** Rotor speed, temperatures and pressures against the limits of flight. */
function readings(type: TypeFile, values: ArrayLike<number> | null): ScanLine[] {
  const { runUpWatch } = type;
  const at = (id: string): number => values?.[type.channels.findIndex((c) => c.id === id)] ?? NaN;
  return type.room.flatMap((id): ScanLine[] => {
    const channel = type.channels.find((c) => c.id === id)!;
    const limits = type.limits.filter((l) => l.channel === id && l.phases.includes('flight'));
    const window = id === runUpWatch?.rotor ? runUpWatch.rotor_pct : null;
    if (limits.length === 0 && !window) return [];
    const value = at(id);
    const words = sayValue(channel, value);
    const inside = !window || (value >= window[0] && value <= window[1]);
    const verdict = Number.isNaN(value) ? 'unknown' : inside && limits.every((l) => isWithin(l, value));
    return [{ id, label: channel.label, verdict, words: verdict === false ? outside(channel, words, limits) : words }];
  });
}

function isWithin({ bands }: Limit, value: number): boolean {
  return bands.every((b) => ('above' in b ? value <= b.above : value >= b.below));
}

function outside(channel: Channel, words: string, limits: readonly Limit[]): string {
  const edges = limits.flatMap((l) => l.bands.slice(0, 1).map((b) => `${'above' in b ? 'at most' : 'at least'} ${bandEdge(b)}`)); // oxfmt-ignore
  return `${words}; ${edges.join(', ')} ${channel.unit} in flight`;
}

/** The captions once more, against the last count of the list. */
function captions(type: TypeFile, state: RunState, values: ArrayLike<number> | null): ScanLine {
  const count = procedureOf(type, state).findLast((i) => i.kind === 'count');
  const reading = count && readItem(type, count, values);
  return {
    id: 'captions',
    label: 'Captions',
    verdict: reading?.verdict ?? 'unknown',
    words: reading?.words ?? 'not counted',
  };
}

/** The gauge of the outside air against the brief, that power and start were computed from. */
function air(type: TypeFile, state: RunState, values: ArrayLike<number> | null): ScanLine {
  const line = (verdict: Verdict, words: string): ScanLine => ({ id: 'air', label: 'Outside air', verdict, words });
  const gauge_C = readOutsideAir_C(type, values);
  const brief_C = state.brief?.oat_C ?? null;
  if (Number.isNaN(gauge_C)) return line('unknown', 'no reading');
  const words = `${gauge_C.toFixed(0)} °C`;
  if (brief_C === null) return line('unknown', `${words}; not in the brief`);
  const agrees = Math.abs(gauge_C - brief_C) <= AIR_APART_K;
  return line(agrees || 'unknown', `${words}; ${brief_C.toFixed(0)} °C in the brief${agrees ? '' : ', power is judged in the warmer'}`); // oxfmt-ignore
}

function power(type: TypeFile, state: RunState, values: ArrayLike<number> | null, t_s: number): ScanLine {
  const { words, hovers } = sayPower(powerNow(type, state, values, t_s));
  return { id: 'power', label: 'Power', verdict: hovers ?? 'unknown', words };
}

/** Fuel of this minute against the flight that was briefed, with a reserve. */
function fuel(type: TypeFile, state: RunState, t_s: number): ScanLine {
  const line = (verdict: Verdict, words: string): ScanLine => ({ id: 'fuel', label: 'Fuel', verdict, words });
  const aboard_kg = state.brief?.expected.fuel ?? null;
  if (aboard_kg === null) return line('unknown', 'not in the brief');
  const now_kg = Math.floor(aboard_kg - burned_kg(type, state, t_s));
  const minutes = Number(state.brief?.input['flight_min'] ?? 0);
  const needed_kg = Math.ceil((type.loading.fuel.flow_kgph.cruise * (minutes + RESERVE_min)) / 60);
  return line(
    now_kg >= needed_kg,
    `about ${now_kg} kg; ${needed_kg} kg for ${minutes} min and ${RESERVE_min} min of reserve`,
  );
}

function open(type: TypeFile, state: RunState): ScanLine {
  const loops = toPutBack(type, state);
  return {
    id: 'still-open',
    label: 'Still open',
    verdict: loops.length === 0,
    words: loops.length === 0 ? 'everything is back in its place' : loops.map((l) => l.words).join('; '),
  };
}

/** What was skipped, or found wrong and taken along: told, with the reasons; a person has answered for each. */
function left(type: TypeFile, state: RunState): ScanLine {
  const items = notDone(type, state);
  const words = items.map(({ item, words: reason, status }) => `${item.challenge}: ${status === 'skipped' ? 'skipped, ' : ''}${reason}`); // oxfmt-ignore
  return {
    id: 'not-done',
    label: 'Skipped and faults',
    verdict: items.length === 0 ? true : 'unknown',
    words: items.length === 0 ? 'none' : words.join('; '),
  };
}

function wind(type: TypeFile, state: RunState): ScanLine {
  const judged = rotorWindNow(type, state.brief, briefedWind(state.brief));
  const verdict = judged.verdict === 'UNKNOWN' ? 'unknown' : judged.verdict !== 'EXCEEDS';
  return { id: 'wind', label: 'Wind and neighbours', verdict, words: judged.words };
}

function people(type: TypeFile, state: RunState): ScanLine {
  const line = (verdict: Verdict, words: string): ScanLine => ({
    id: 'people',
    label: 'Passengers, doors, area',
    verdict,
    words,
  });
  const asked = procedureOf(type, state).filter((i) => i.role === 'people');
  if (asked.length === 0) return line('unknown', 'not asked on this list: look yourself');
  const missing = asked.filter((i) => itemState(state, i.id).status !== 'done');
  if (missing.length === 0) return line(true, `settled: ${asked.map((i) => i.challenge.toLowerCase()).join(', ')}`);
  return line('unknown', `not settled: ${missing.map((i) => i.challenge.toLowerCase()).join(', ')}`);
}
