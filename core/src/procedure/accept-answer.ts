import { holdSeconds, type Item, sayCondition, stagesOf, type TypeFile } from '../aircraft/index.ts';
import { roundStep } from '../quantity/index.ts';
import { type Acceptance, refuse } from './acceptance.ts';
import type { BriefRecord, Payload } from './entries.ts';
import { finalScan, notReadyBecause } from './final-scan.ts';
import { stagesDone } from './list.ts';
import { powerNow, sayPower } from './power-now.ts';
import { predictedHover } from './predicted-hover.ts';
import { conditionOf, type Reading, readItem, readTyped } from './reading.ts';
import { briefedWind, rotorWindNow, windPhaseOf } from './rotor-wind.ts';
import type { RunState } from './state.ts';

/** What the brief says that this figure should read, null where it is not known. */
export function expectedFigure(brief: BriefRecord | null, figure: keyof BriefRecord['expected']): number | null {
  return brief?.expected[figure] ?? null;
}

type Done = Extract<Payload, { kind: 'item-done' }>;

/** Judges an answer to an item: against its sensors, what was typed, the brief, or what the program computes itself. */
export function acceptDone(
  type: TypeFile,
  state: RunState,
  item: Item,
  wanted: Done,
  values: ArrayLike<number> | null,
): Acceptance {
  const done = (words: string, value: number | null, read?: [string, string]): Acceptance => ({
    ok: true,
    payload: {
      kind: 'item-done',
      item: item.id,
      how: 'declared',
      value,
      words,
      ...(read && { read }),
      ...(wanted.differs && { differs: true }),
    },
  });
  switch (item.kind) {
    case 'watch':
      return item.moments
        ? refuse('not-so', `${item.challenge} is ended by the watch, or by its last moment. Esc stops the start`)
        : refuse('not-so', 'The watch itself ends this item. Esc stops the start');
    case 'test':
      return refuse('not-so', `${item.challenge} ends with its last stage, when everything is back`);
    case 'decide':
      return refuse('not-so', `${item.challenge}: choose one of the answers`);
    case 'compare':
      return acceptComparison(item, wanted, done);
    case 'enter':
      return acceptNumber(state, item, item.enters, null, wanted.value, done);
    case 'measure': {
      const refused = item.trace && state.source !== 'by-hand' && refuseUnmeasured(state, item);
      if (refused) return refused;
      const predicted = item.measures.predicted ? predictedHover(type, state, values) : null;
      return acceptNumber(state, item, item.measures, predicted ?? item.measures.good, wanted.value, done);
    }
    case 'check':
      if (item.judges === 'power') return acceptPower(type, state, item, values, done);
      if (item.judges) return acceptRotorWind(type, state, item, wanted, done);
      if (item.reads) return acceptNumber(state, item, item.reads, null, wanted.value, done);
      break;
    case 'call': {
      if (item.judges !== 'final-scan') break;
      const line = notReadyBecause(finalScan(type, state, values, state.phases.at(-1)?.t_s ?? 0));
      if (line) return refuse('not-so', `${item.challenge}: not yet. ${line.label}: ${line.words}`);
      break;
    }
    case 'hold': {
      const held_s = wanted.value ?? 0;
      const asked_s = holdSeconds(item, state.brief?.oat_C ?? null);
      if (held_s < asked_s - 0.05)
        return refuse(
          'not-so',
          `${item.challenge}: hold for ${asked_s.toFixed(1)} s; it was ${held_s.toFixed(1)} s. Press and hold again`,
        );
      if (!item.expect) return done(`${held_s.toFixed(1)} s`, held_s);
      break;
    }
    default:
  }
  return acceptSensed(type, item, readItem(type, item, values), wanted.value, done);
}

/** A check that the trace measures is not taken at a person's word, unless the trace could not say. */
function refuseUnmeasured(state: RunState, item: Item): Acceptance | null {
  const found = state.measured[item.id];
  if (found?.verdict === 'unknown') return null;
  if (found?.verdict === 'fault') return refuse('not-so', `${item.challenge}: ${found.words}. ${remedyOf(item)}`);
  const next = stagesOf(item)[stagesDone(state, item)];
  return refuse('not-so', `${item.challenge} is measured from the readings: ${next?.do ?? 'the last stage'} is next`);
}

type Write = (words: string, value: number | null, read?: [string, string]) => Acceptance;

function acceptSensed(
  type: TypeFile,
  item: Item,
  reading: Reading | null,
  typed: number | null,
  done: Write,
): Acceptance {
  if (!reading) return done('', null);
  if (item.kind === 'wait' && reading.verdict !== 'unknown') {
    return refuse(
      'not-so',
      `${item.challenge} settles itself when it has lasted: ${sayCondition(item.until, type.channels)}. K skips it with a reason`,
    );
  }
  if (reading.verdict === 'unknown') {
    const byEye = typed === null ? null : readTyped(type, item, typed);
    if (!byEye) return done(`${reading.words}, declared`, reading.value);
    if (byEye.verdict === true) return done(`${byEye.words}, read by eye`, typed);
    return refuse('not-so', notAsExpected(type, item, byEye.words));
  }
  if (reading.verdict) return done(reading.words, reading.value);
  return refuse('not-so', notAsExpected(type, item, reading.words));
}

function notAsExpected(type: TypeFile, item: Item, found: string): string {
  const wanted = item.kind === 'count' ? item.response : sayCondition(conditionOf(item)!, type.channels);
  return `${item.challenge}: ${found}; expected ${wanted}. ${remedyOf(item)}`;
}

function remedyOf(item: Item): string {
  return item.failure === 'no-go'
    ? 'No-go: put it right, or record a fault with F'
    : 'Put it right, record it with F, or skip it with a reason';
}

function acceptComparison(item: Extract<Item, { kind: 'compare' }>, { read }: Done, done: Write): Acceptance {
  const [a, b] = [read?.[0].trim() ?? '', read?.[1].trim() ?? ''];
  const missing = a === '' ? item.between[0] : b === '' ? item.between[1] : null;
  if (missing !== null) return refuse('not-so', `${item.challenge}: enter what ${missing} shows`);
  if (a.toUpperCase() !== b.toUpperCase())
    return refuse(
      'not-so',
      `${item.challenge}: ${item.between[0]} shows ${a}, ${item.between[1]} shows ${b}. ${remedyOf(item)}`,
    );
  return done(`both ${a}`, null, [a, b]);
}

/** The wind of this minute: what was entered, else what the brief had. Beyond a limit, and unknown, the rotor stays still. */
function acceptRotorWind(type: TypeFile, state: RunState, item: Item, { wind }: Done, done: Write): Acceptance {
  const judged = rotorWindNow(type, state.brief, wind ?? briefedWind(state.brief), windPhaseOf(item) ?? 'start');
  if (judged.verdict === 'UNKNOWN')
    return refuse('not-so', `${item.challenge}: ${judged.words}. Enter the wind of this minute`);
  if (judged.verdict === 'EXCEEDS')
    return refuse('not-so', `${item.challenge}: ${judged.words}. Wait, or turn the aircraft`);
  const accepted = done(
    judged.verdict === 'CAUTION' ? `${judged.words}, close to the limit` : judged.words,
    judged.wind_kt,
  );
  return accepted.ok && wind ? { ok: true, payload: { ...accepted.payload, wind } as Payload } : accepted;
}

/** A hover has to be left at the weight of this minute; what is not known is not taken for granted. */
function acceptPower(
  type: TypeFile,
  state: RunState,
  item: Item,
  values: ArrayLike<number> | null,
  done: Write,
): Acceptance {
  // practice without a brief has no weight to judge
  if (!state.brief) return done('not computed: there is no brief', null);
  const now = powerNow(type, state, values, state.phases.at(-1)?.t_s ?? 0);
  const { words, hovers } = sayPower(now);
  if (hovers === true && 'high' in now) return done(words, now.high.margin);
  const remedy =
    hovers === false ? 'Get lighter, or wait for colder air' : 'Skip it with a reason, and look at the chart';
  return refuse('not-so', `${item.challenge}: ${words}. ${remedy}`);
}

interface Quantity {
  label: string;
  unit: string;
  range: [number, number];
  against?: { figure: keyof BriefRecord['expected']; within: number } | undefined;
}

function acceptNumber(
  state: RunState,
  item: Item,
  quantity: Quantity,
  good: [number, number] | null,
  typed: number | null,
  done: Write,
): Acceptance {
  const { label, unit, range, against } = quantity;
  const said = typed === null ? '' : `${roundStep(typed, 0.1, 'nearest')} ${unit}`;
  if (typed === null) return refuse('not-so', `${item.challenge}: enter the ${label.toLowerCase()} in ${unit}`);
  if (typed < range[0] || typed > range[1])
    return refuse('not-so', `${item.challenge}: ${said} can't be; ${range[0]} to ${range[1]} can`);
  if (good && (typed < good[0] || typed > good[1]))
    return refuse('not-so', `${item.challenge}: ${said}; expected ${good[0]} to ${good[1]}. ${remedyOf(item)}`);
  const expected = against ? expectedFigure(state.brief, against.figure) : null;
  if (expected === null) return done(said, typed);
  const off = typed - expected;
  if (Math.abs(off) > against!.within)
    return refuse(
      'not-so',
      `${item.challenge}: ${said}; the brief says ${Math.round(expected)}, within ${against!.within}. ${remedyOf(item)}`,
    );
  return done(`${said}, brief ${Math.round(expected)}`, typed);
}
