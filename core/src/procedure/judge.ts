import { holdSeconds, type Item, sayCondition, stagesOf, type TypeFile } from '../aircraft/index.ts';
import { roundStep } from '../quantity/index.ts';
import type { BriefRecord, Payload } from './entries.ts';
import { isReachable, isShuttingDown, legsAhead, stagesDone, stillOpen, workingList } from './list.ts';
import { isFinished, presentItem, twoCrewTurn } from './plan.ts';
import { conditionOf, readCondition, type Reading, readItem, readTyped } from './reading.ts';
import { finalScan, notReadyBecause } from './final-scan.ts';
import { powerNow, sayPower } from './power-now.ts';
import { predictedHover } from './predicted-hover.ts';
import { briefedWind, rotorWindNow, windPhaseOf } from './rotor-wind.ts';
import { findItem, itemState, type RunState } from './state.ts';

export type Acceptance =
  | { ok: true; payload: Payload }
  | { ok: false; code: 'not-this-item' | 'not-so' | 'not-open' | 'nothing-to-undo'; message: string };

const refuse = (code: Exclude<Acceptance, { ok: true }>['code'], message: string): Acceptance => ({
  ok: false,
  code,
  message,
});

/**
 * Judges what a person wants to write, against the list and the latest frame.
 * A declared item whose sensors, or whose typed reading, say otherwise is refused with what to do; one that nothing can
 * sense is taken at the person's word.
 * @param values the latest frame, or null when there is no data
 */
export function acceptFromPilot(
  type: TypeFile,
  state: RunState,
  wanted: Payload,
  values: ArrayLike<number> | null,
): Acceptance {
  if (state.status !== 'open' && wanted.kind !== 'note')
    return refuse('not-open', 'This run is closed. Begin a new one on Today; notes can still be added.');
  const accepted: Acceptance = { ok: true, payload: wanted };
  switch (wanted.kind) {
    case 'stage-done': {
      // what a test moved is put back even after the test was skipped or failed
      const item = workingList(type, state).find((i) => i.id === wanted.item);
      const open = item && stillOpen(type, state).some((loop) => loop.item === item);
      return item && open
        ? acceptStage(type, state, item, wanted.stage, values)
        : acceptOnItem(type, state, wanted, values);
    }
    case 'item-done':
    case 'item-fault':
    case 'item-skipped':
    case 'decided':
    case 'challenged':
      return acceptOnItem(type, state, wanted, values);
    case 'item-chosen': {
      const item = workingList(type, state).find((i) => i.id === wanted.item);
      const free =
        item && itemState(state, item.id).status === 'todo' && (state.abort || isReachable(type, state, item));
      return free ? accepted : refuse('not-this-item', `${item?.challenge ?? wanted.item} cannot be begun yet`);
    }
    case 'item-reopened':
      return findItem(type, wanted.item)
        ? accepted
        : refuse('not-this-item', `${wanted.item} is not an item of this type`);
    case 'undone':
      return state.lastUndoable === wanted.entry
        ? accepted
        : refuse('nothing-to-undo', 'Only the last thing that you entered can be undone');
    case 'abort':
      return wanted.reason === 'pilot' && !state.abort
        ? accepted
        : refuse('not-so', 'The start is stopped already; work the actions on the screen');
    case 'way-changed': {
      const choice = type.choices.find((c) => c.id === wanted.choice);
      return choice?.alternatives.some((a) => a.id === wanted.to)
        ? accepted
        : refuse('not-this-item', `${wanted.to} is not an answer to ${choice?.question ?? wanted.choice}`);
    }
    case 'zone-flowed':
      return workingList(type, state).some((i) => i.leg === wanted.leg && i.zone === wanted.zone)
        ? accepted
        : refuse('not-this-item', `there is no zone ${wanted.zone} on this list`);
    case 'reseen':
      return state.seeAgain.includes(wanted.item)
        ? accepted
        : refuse('not-this-item', `${wanted.item} does not wait to be seen again`);
    case 'closed': {
      const lifted = Object.keys(state.begun).length > 0;
      if (wanted.outcome === 'shut-down')
        return isShuttingDown(type, state) && isFinished(type, state)
          ? accepted
          : refuse('not-so', notReady(type, state));
      return wanted.outcome !== 'ready' || lifted || isFinished(type, state)
        ? accepted
        : refuse('not-so', notReady(type, state));
    }
    case 'leg-begun':
      return acceptLeg(type, state, wanted);
    case 'interrupted':
    case 'mark':
    case 'note':
      return accepted;
    default:
      return refuse('not-this-item', `${wanted.kind} is written by the watch, not by a person`);
  }
}

/** A person says that a leg begins: the lift when everything before it is done, the shut-down whenever nothing starts. */
function acceptLeg(type: TypeFile, state: RunState, wanted: Extract<Payload, { kind: 'leg-begun' }>): Acceptance {
  const ahead = legsAhead(type, state);
  const leg = ahead.find((l) => l.id === wanted.leg);
  if (!leg) return refuse('not-this-item', `${wanted.leg} is not a leg that can be begun now`);
  if (state.abort) return refuse('not-so', 'The start was stopped; work the actions on the screen');
  if (state.phase === 'start') return refuse('not-so', 'An engine is starting; stop it with Esc, or wait');
  if (leg !== type.legs[type.legs.length - 1] && !isFinished(type, state))
    return refuse('not-so', notReady(type, state));
  return { ok: true, payload: { kind: 'leg-begun', leg: leg.id, how: 'declared' } };
}

function notReady(type: TypeFile, state: RunState): string {
  const open = stillOpen(type, state)[0];
  if (open) return `Not ready: ${open.words}. Put it back first`;
  const next = workingList(type, state).find((i) => itemState(state, i.id).status === 'todo');
  return `Not ready: ${next?.challenge ?? 'a no-go'} is not settled`;
}

type OnItem = Extract<
  Payload,
  { kind: 'item-done' | 'item-fault' | 'item-skipped' | 'decided' | 'challenged' | 'stage-done' }
>;

function acceptOnItem(type: TypeFile, state: RunState, wanted: OnItem, values: ArrayLike<number> | null): Acceptance {
  const item = workingList(type, state).find((i) => i.id === wanted.item);
  if (!item) return refuse('not-this-item', `${wanted.item} is not on the list that is being worked`);
  if (itemState(state, item.id).status !== 'todo')
    return refuse('not-this-item', `${item.challenge} is already settled; go back to it first`);
  if (!state.abort && !isReachable(type, state, item)) {
    const open = stillOpen(type, state)[0];
    const gate = type.legs.find((l) => l.id === item.leg)?.gate;
    return refuse(
      'not-this-item',
      gate && open
        ? `${item.challenge} is held: ${open.words}. Put it back first`
        : `${item.challenge} comes later; ${presentItem(type, state)?.challenge ?? 'nothing'} is next`,
    );
  }
  switch (wanted.kind) {
    case 'item-fault':
    case 'item-skipped':
    case 'challenged':
      return { ok: true, payload: wanted };
    case 'decided':
      return item.kind === 'decide' && item.alternatives.some((a) => a.id === wanted.alternative)
        ? { ok: true, payload: wanted }
        : refuse('not-so', `${wanted.alternative} is not an answer to ${item.challenge}`);
    case 'stage-done':
      return acceptStage(type, state, item, wanted.stage, values);
    case 'item-done':
      return twoCrewTurn(type, state, item)?.turn === 'challenge'
        ? refuse('not-so', `${item.challenge} is read aloud first, then answered`)
        : acceptDone(type, state, item, wanted, values);
  }
}

function acceptStage(
  type: TypeFile,
  state: RunState,
  item: Item,
  at: number,
  values: ArrayLike<number> | null,
): Acceptance {
  const stages = stagesOf(item);
  const next = stagesDone(state, item);
  const stage = stages[at];
  // a test that was given up goes straight to putting its switch back
  const restoring = itemState(state, item.id).status !== 'todo' && stage?.restores === true;
  if (!stage || (at !== next && !restoring))
    return refuse('not-this-item', `${item.challenge}: ${stages[next]?.do ?? 'nothing'} is next`);
  if (item.kind === 'measure' && stage.expect && !restoring)
    return refuse('not-so', `${item.challenge}: ${stage.do} is sensed by itself; do it, and it goes on`);
  const done = (words: string, value: number | null): Acceptance => ({
    ok: true,
    payload: { kind: 'stage-done', item: item.id, stage: at, value, words, last: at === stages.length - 1 },
  });
  if (!stage.expect) return done(stage.do, null);
  const reading = readCondition(type, stage.expect, values);
  if (reading.verdict === 'unknown') return done(`${stage.do}, declared`, null);
  if (reading.verdict) return done(`${stage.do}: ${reading.words}`, reading.value);
  const wanted = sayCondition(stage.expect, type.channels);
  return refuse('not-so', `${stage.do}: ${reading.words}; expected ${wanted}. Wait for it, or record a fault with F`);
}

/** What the brief says that this figure should read, null where it is not known. */
export function expectedFigure(brief: BriefRecord | null, figure: keyof BriefRecord['expected']): number | null {
  return brief?.expected[figure] ?? null;
}

type Done = Extract<Payload, { kind: 'item-done' }>;

function acceptDone(
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
