import type { AbortReason, Item, TypeFile } from '../aircraft/index.ts';
import type { Entry } from './entries.ts';

export type ItemStatus = 'todo' | 'done' | 'fault' | 'skipped';

export interface ItemState {
  status: ItemStatus;
  t_s: number;
  seq: number;
  how: 'sensed' | 'declared' | 'watched' | null;
  value: number | null;
  /** value in words, or the note, or the reason */
  words: string;
}

export interface RunState {
  status: 'not-begun' | 'open' | 'closed';
  outcome: 'ready' | 'aborted' | 'given-up' | null;
  items: Readonly<Record<string, ItemState>>;
  /** the abort that turned the list, when there is one */
  abort: { reason: AbortReason; text: string; figure: string; t_s: number } | null;
  chosen: string | null;
  startState: { state: string; words: string; t_s: number } | null;
  starterAt_s: number | null;
  phase: string;
  lastCue: { t_s: number; severity: 'call' | 'caution' | 'warning'; text: string } | null;
  marks: number;
  lastSeq: number;
  lastUndoable: string | null;
}

const NOT_DONE: ItemState = { status: 'todo', t_s: 0, seq: 0, how: null, value: null, words: '' };

/** The state of a run: a pure function of its type and its journal. Any prefix of a journal gives the state at that moment. */
export function reduceRun(entries: readonly Entry[]): RunState {
  const undone = new Set(entries.flatMap((e) => (e.kind === 'undone' ? [e.entry] : [])));
  const state: Mutable = {
    status: 'not-begun',
    outcome: null,
    items: {},
    abort: null,
    chosen: null,
    startState: null,
    starterAt_s: null,
    phase: 'off',
    lastCue: null,
    marks: 0,
    lastSeq: 0,
    lastUndoable: null,
  };
  for (const entry of entries) {
    state.lastSeq = entry.seq;
    if (!undone.has(entry.id)) apply(state, entry);
  }
  return state;
}

type Mutable = { -readonly [K in keyof RunState]: RunState[K] } & { items: Record<string, ItemState> };

function apply(state: Mutable, entry: Entry): void {
  switch (entry.kind) {
    case 'run-opened':
      state.status = 'open';
      return;
    case 'item-done':
      finish(state, entry, {
        status: 'done',
        t_s: entry.t,
        seq: entry.seq,
        how: entry.how,
        value: entry.value,
        words: entry.words,
      });
      return;
    case 'item-fault':
      finish(state, entry, {
        status: 'fault',
        t_s: entry.t,
        seq: entry.seq,
        how: 'declared',
        value: null,
        words: entry.note,
      });
      return;
    case 'item-skipped':
      finish(state, entry, {
        status: 'skipped',
        t_s: entry.t,
        seq: entry.seq,
        how: 'declared',
        value: null,
        words: entry.reason,
      });
      return;
    case 'item-chosen':
      state.chosen = entry.item;
      state.lastUndoable = entry.id;
      return;
    case 'item-reopened':
      state.items[entry.item] = NOT_DONE;
      state.chosen = entry.item;
      state.lastUndoable = entry.id;
      return;
    case 'mark':
      state.marks += 1;
      state.lastUndoable = entry.id;
      return;
    case 'start-state':
      state.startState = { state: entry.state, words: entry.words, t_s: entry.t };
      if (entry.state === 'cranking') state.starterAt_s = entry.t;
      return;
    case 'cue':
      state.lastCue = { t_s: entry.t, severity: entry.severity, text: entry.text };
      return;
    case 'abort':
      // the first abort of a run turns the list; what the control does afterwards is recorded, not obeyed
      state.abort ??= { reason: entry.reason, text: entry.text, figure: entry.figure, t_s: entry.t };
      state.lastCue = { t_s: entry.t, severity: 'warning', text: entry.text };
      state.chosen = null;
      return;
    case 'phase':
      state.phase = entry.phase;
      return;
    case 'closed':
      state.status = 'closed';
      state.outcome = entry.outcome;
      return;
    case 'undone':
    case 'note':
    case 'start-done':
    case 'run-up-done':
    case 'exceedance':
      return;
    default:
      return assertNever(entry);
  }
}

/** Stored entries may be newer than this program: an unknown kind must stop it, not slip through. */
function assertNever(entry: never): never {
  throw new RangeError(`unknown journal entry ${JSON.stringify(entry)}`);
}

function finish(state: Mutable, entry: Extract<Entry, { item: string }>, item: ItemState): void {
  state.items[entry.item] = item;
  if (state.chosen === entry.item) state.chosen = null;
  if (item.how === 'declared') state.lastUndoable = entry.id;
}

/** The state of one item; an item that the journal never mentioned is to do. */
export function itemState(state: RunState, id: string): ItemState {
  return state.items[id] ?? NOT_DONE;
}

/** The list that is being worked: the procedure, or the abort's own actions. */
export function workingList(type: TypeFile, state: RunState): readonly Item[] {
  return state.abort ? type.aborts[state.abort.reason].actions : type.items;
}

/** Any item of the type, abort actions included. */
export function findItem(type: TypeFile, id: string): Item | undefined {
  return (
    type.items.find((i) => i.id === id) ??
    Object.values(type.aborts)
      .flatMap((a) => a.actions)
      .find((i) => i.id === id)
  );
}
