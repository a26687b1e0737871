import { type Item, sayCondition, stagesOf, type TypeFile } from '../aircraft/index.ts';
import { type Acceptance, refuse } from './acceptance.ts';
import { acceptAnotherTry, type Around } from './another-try.ts';
import type { Payload } from './entries.ts';
import { acceptDone } from './kinds/registry.ts';
import {
  isReachable,
  isShuttingDown,
  legsAhead,
  openBefore,
  stagesDone,
  stillOpen,
  toPutBack,
  workingList,
} from './list.ts';
import { isFinished, presentItem, twoCrewTurn } from './plan.ts';
import { readCondition } from './reading.ts';
import { findItem, itemState, type RunState } from './state.ts';

/**
 * Judges what a person wants to write, against the list and the latest frame.
 * A declared item whose sensors, or whose typed reading, say otherwise is refused with what to do; one that nothing can
 * sense is taken at the person's word.
 * @param values the latest frame, or null when there is no data
 * @param around what another try is judged by: the journal so far, and the starts as the watch has them
 */
export function acceptFromPilot(
  type: TypeFile,
  state: RunState,
  wanted: Payload,
  values: ArrayLike<number> | null,
  around: Around = { entries: [], starts: null },
): Acceptance {
  if (state.status !== 'open' && wanted.kind !== 'note')
    return refuse('not-open', 'This run is closed. Begin a new one on Today; notes can still be added.');
  switch (wanted.kind) {
    case 'stage-done':
    case 'item-done':
    case 'item-fault':
    case 'item-skipped':
    case 'decided':
    case 'challenged':
      return acceptOnList(type, state, wanted, values);
    case 'item-chosen':
    case 'item-reopened':
    case 'undone':
    case 'zone-flowed':
    case 'reseen':
      return acceptWorking(type, state, wanted);
    case 'abort':
      return wanted.reason === 'pilot' && !state.abort
        ? { ok: true, payload: wanted }
        : refuse('not-so', 'The start is stopped already; work the actions on the screen');
    case 'way-changed':
      return acceptWay(type, wanted);
    case 'closed':
      return acceptClosing(type, state, wanted);
    case 'leg-begun':
      return acceptLeg(type, state, wanted);
    case 'try-again':
      return acceptAnotherTry(type, state, values, around);
    case 'handed-over':
    case 'interrupted':
    case 'mark':
    case 'note':
      return { ok: true, payload: wanted };
    default:
      return refuse('not-this-item', `${wanted.kind} is written by the watch, not by a person`);
  }
}

type Wanted<K extends Payload['kind']> = Extract<Payload, { kind: K }>;

/** What is said of an item; what a test moved is put back even after the test was skipped or failed. */
function acceptOnList(type: TypeFile, state: RunState, wanted: OnItem, values: ArrayLike<number> | null): Acceptance {
  const item = workingList(type, state).find((i) => i.id === wanted.item);
  const open = wanted.kind === 'stage-done' && item && stillOpen(type, state).some((loop) => loop.item === item);
  return open ? acceptStage(type, state, item, wanted.stage, values) : acceptOnItem(type, state, wanted, values);
}

/** How the list is worked: what is taken next, gone back to, taken back, walked from memory, or looked at again. */
function acceptWorking(
  type: TypeFile,
  state: RunState,
  wanted: Wanted<'item-chosen' | 'item-reopened' | 'undone' | 'zone-flowed' | 'reseen'>,
): Acceptance {
  const unless = (refused: string | false, code: 'not-this-item' | 'nothing-to-undo' = 'not-this-item'): Acceptance =>
    refused === false ? { ok: true, payload: wanted } : refuse(code, refused);
  switch (wanted.kind) {
    case 'item-chosen': {
      const item = workingList(type, state).find((i) => i.id === wanted.item);
      const todo = item && itemState(state, item.id).status === 'todo';
      const free = todo && (state.abort || isReachable(type, state, item));
      return unless(!free && `${item?.challenge ?? wanted.item} cannot be begun yet`);
    }
    case 'item-reopened':
      return unless(!findItem(type, wanted.item) && `${wanted.item} is not an item of this type`);
    case 'undone':
      return unless(
        state.lastUndoable !== wanted.entry && 'Only the last thing that you entered can be undone',
        'nothing-to-undo',
      );
    case 'zone-flowed': {
      const there = workingList(type, state).some((i) => i.leg === wanted.leg && i.zone === wanted.zone);
      return unless(!there && `there is no zone ${wanted.zone} on this list`);
    }
    case 'reseen':
      return unless(!state.seeAgain.includes(wanted.item) && `${wanted.item} does not wait to be seen again`);
  }
}

function acceptWay(type: TypeFile, wanted: Wanted<'way-changed'>): Acceptance {
  const choice = type.choices.find((c) => c.id === wanted.choice);
  return choice?.alternatives.some((a) => a.id === wanted.to)
    ? { ok: true, payload: wanted }
    : refuse('not-this-item', `${wanted.to} is not an answer to ${choice?.question ?? wanted.choice}`);
}

function acceptClosing(type: TypeFile, state: RunState, wanted: Wanted<'closed'>): Acceptance {
  if (state.source === 'recording')
    return wanted.outcome === 'recorded'
      ? { ok: true, payload: wanted }
      : refuse('not-so', 'A recording ends as it was recorded');
  const lifted = Object.keys(state.begun).length > 0;
  const so =
    wanted.outcome === 'shut-down'
      ? isShuttingDown(type, state) && isFinished(type, state)
      : wanted.outcome !== 'recorded' && (wanted.outcome !== 'ready' || lifted || isFinished(type, state));
  return so ? { ok: true, payload: wanted } : refuse('not-so', notReady(type, state));
}

/** A person says that a leg begins: the lift when everything before it is done, the shut-down whenever nothing starts. */
function acceptLeg(type: TypeFile, state: RunState, wanted: Extract<Payload, { kind: 'leg-begun' }>): Acceptance {
  const ahead = legsAhead(type, state);
  const leg = ahead.find((l) => l.id === wanted.leg);
  if (!leg) return refuse('not-this-item', `${wanted.leg} is not a leg that can be begun now`);
  if (state.abort) return refuse('not-so', 'The start was stopped; work the actions on the screen');
  if (state.phase === 'start') return refuse('not-so', 'An engine is starting; stop it, or wait');
  if (leg !== type.legs[type.legs.length - 1] && !isFinished(type, state))
    return refuse('not-so', notReady(type, state));
  return { ok: true, payload: { kind: 'leg-begun', leg: leg.id, how: 'declared' } };
}

function notReady(type: TypeFile, state: RunState): string {
  const open = toPutBack(type, state)[0];
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
    const open = openBefore(type, state, item.leg)[0];
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
        : acceptDone(item, { type, state, wanted, values });
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
  return refuse('not-so', `${stage.do}: ${reading.words}; expected ${wanted}. Wait for it, or record a fault`);
}
