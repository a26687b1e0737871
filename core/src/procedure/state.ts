import type { AbortReason, Item, TypeFile } from '../aircraft/index.ts';
import type { CheckVerdict } from '../checks/index.ts';
import type { BriefRecord, Entry, RunOutcome, Source } from './entries.ts';

type ItemStatus = 'todo' | 'done' | 'fault' | 'skipped';

export interface ItemState {
  status: ItemStatus;
  t_s: number;
  seq: number;
  how: 'sensed' | 'declared' | 'watched' | null;
  value: number | null;
  /** value in words, or the note, or the reason */
  words: string;
  /** found otherwise than the flow had left it */
  differs: boolean;
}

/** What a check found, by the numbers of its trace. */
export interface Measured {
  verdict: CheckVerdict;
  words: string;
  t_s: number;
  /** how many times it has been flown */
  attempts: number;
  /** what it has found, every time that it was flown */
  causes: readonly string[];
}

/** The two lines before an interruption are looked at again. */
const SEEN_AGAIN = 2;

/** A start that was stopped. */
export interface Abort {
  watch: string;
  reason: AbortReason;
  text: string;
  figure: string;
  t_s: number;
}

export interface RunState {
  status: 'not-begun' | 'open' | 'closed';
  outcome: RunOutcome | null;
  /** who has the run: whoever opened it, or took it over, then by name */
  holder: { person: string; name: string | null } | null;
  /** where its readings come from, null before it was opened */
  source: Source | null;
  items: Readonly<Record<string, ItemState>>;
  /** stages of a test, or moments of a watch, that are done: when, in order */
  stages: Readonly<Record<string, readonly number[]>>;
  /** what each check found, the last time that it was flown */
  measured: Readonly<Record<string, Measured>>;
  /** answers of the operator and of this run, choice to alternative */
  ways: Readonly<Record<string, string>>;
  decisions: Readonly<Record<string, string>>;
  brief: BriefRecord | null;
  /** items whose challenge has been read and waits for its answer */
  challenged: Readonly<Record<string, true>>;
  /** zones that were walked from memory, as leg/zone */
  flowed: Readonly<Record<string, number>>;
  /** items to look at again after an interruption, in the order in which they were settled */
  seeAgain: readonly string[];
  interruptedAt_s: number | null;
  /** the abort that turned the list, when there is one */
  abort: Abort | null;
  /** starts that were stopped before and tried again, in order */
  triedAgain: readonly Abort[];
  chosen: string | null;
  startState: { state: string; words: string; t_s: number } | null;
  starterAt_s: number | null;
  phase: string;
  /** when each phase began, in order */
  phases: readonly { t_s: number; phase: string }[];
  lastCue: { t_s: number; severity: 'call' | 'caution' | 'warning'; text: string } | null;
  /** legs that are not part of getting ready, once they were begun: when */
  begun: Readonly<Record<string, number>>;
  marks: number;
  lastSeq: number;
  lastUndoable: string | null;
}

const NOT_DONE: ItemState = {
  status: 'todo',
  t_s: 0,
  seq: 0,
  how: null,
  value: null,
  words: '',
  differs: false,
};

/** The state of a run: a pure function of its journal. Any prefix of a journal gives the state at that moment. */
export function reduceRun(entries: readonly Entry[]): RunState {
  const undone = new Set(entries.flatMap((e) => (e.kind === 'undone' ? [e.entry] : [])));
  const state: Mutable = {
    status: 'not-begun',
    outcome: null,
    holder: null,
    source: null,
    items: {},
    stages: {},
    measured: {},
    ways: {},
    decisions: {},
    brief: null,
    challenged: {},
    flowed: {},
    seeAgain: [],
    interruptedAt_s: null,
    abort: null,
    triedAgain: [],
    chosen: null,
    startState: null,
    starterAt_s: null,
    phase: 'off',
    phases: [],
    lastCue: null,
    begun: {},
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

type Mutable = { -readonly [K in keyof RunState]: RunState[K] } & {
  items: Record<string, ItemState>;
  stages: Record<string, readonly number[]>;
  measured: Record<string, Measured>;
  ways: Record<string, string>;
  decisions: Record<string, string>;
  challenged: Record<string, true>;
  flowed: Record<string, number>;
  begun: Record<string, number>;
};

type EntryOf<K extends Entry['kind']> = Extract<Entry, { kind: K }>;

function apply(state: Mutable, entry: Entry): void {
  switch (entry.kind) {
    case 'run-opened':
      state.status = 'open';
      state.source = entry.source;
      state.holder = { person: entry.by, name: null };
      return;
    case 'handed-over':
      state.holder = { person: entry.person, name: entry.to };
      return;
    case 'briefed':
      state.brief = entry.brief;
      Object.assign(state.ways, entry.brief.ways);
      return;
    case 'closed':
      state.status = 'closed';
      state.outcome = entry.outcome;
      return;
    case 'item-done':
    case 'stage-done':
    case 'measured':
    case 'decided':
    case 'item-fault':
    case 'item-skipped':
      settle(state, entry);
      return;
    case 'challenged':
    case 'zone-flowed':
    case 'way-changed':
    case 'interrupted':
    case 'reseen':
    case 'item-chosen':
    case 'item-reopened':
    case 'mark':
    case 'leg-begun':
      steer(state, entry);
      return;
    case 'start-state':
    case 'cue':
    case 'abort':
    case 'try-again':
    case 'phase':
      follow(state, entry);
      return;
    case 'rating':
    case 'trace-sealed':
    case 'trace-thinned':
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

/** What became of an item. */
function settle(
  state: Mutable,
  entry: EntryOf<'item-done' | 'stage-done' | 'measured' | 'decided' | 'item-fault' | 'item-skipped'>,
): void {
  switch (entry.kind) {
    case 'item-done':
      finish(state, entry, {
        status: 'done',
        t_s: entry.t,
        seq: entry.seq,
        how: entry.how,
        value: entry.value,
        words: entry.words,
        differs: entry.differs ?? false,
      });
      return;
    case 'stage-done':
      state.stages[entry.item] = stagesWith(state.stages[entry.item] ?? [], entry.stage, entry.t);
      if (entry.by !== 'watch') state.lastUndoable = entry.id;
      if (entry.last && itemState(state, entry.item).status === 'todo')
        finish(state, entry, {
          ...NOT_DONE,
          status: 'done',
          t_s: entry.t,
          seq: entry.seq,
          how: 'declared',
          value: entry.value,
          words: entry.words,
        });
      return;
    case 'measured':
      state.measured[entry.item] = {
        verdict: entry.verdict,
        words: entry.words,
        t_s: entry.t,
        attempts: (state.measured[entry.item]?.attempts ?? 0) + 1,
        causes: [...(state.measured[entry.item]?.causes ?? []), ...(entry.cause === null ? [] : [entry.cause])],
      };
      return;
    case 'decided':
      state.decisions[entry.item] = entry.alternative;
      finish(state, entry, {
        ...NOT_DONE,
        status: 'done',
        t_s: entry.t,
        seq: entry.seq,
        how: 'declared',
        words: entry.reason,
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
        differs: false,
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
        differs: false,
      });
      return;
  }
}

/** How the list is walked. */
function steer(
  state: Mutable,
  entry: EntryOf<
    | 'challenged'
    | 'zone-flowed'
    | 'way-changed'
    | 'interrupted'
    | 'reseen'
    | 'item-chosen'
    | 'item-reopened'
    | 'mark'
    | 'leg-begun'
  >,
): void {
  switch (entry.kind) {
    case 'challenged':
      state.challenged[entry.item] = true;
      state.lastUndoable = entry.id;
      return;
    case 'zone-flowed':
      state.flowed[`${entry.leg}/${entry.zone}`] = entry.t;
      state.lastUndoable = entry.id;
      return;
    case 'way-changed':
      state.ways[entry.choice] = entry.to;
      state.lastUndoable = entry.id;
      return;
    case 'interrupted':
      state.interruptedAt_s = entry.t;
      state.seeAgain = Object.entries(state.items)
        .filter(([, i]) => i.status !== 'todo' && i.how !== 'watched')
        .sort(([, a], [, b]) => a.seq - b.seq)
        .slice(-SEEN_AGAIN)
        .map(([id]) => id);
      state.lastUndoable = entry.id;
      return;
    case 'reseen':
      state.seeAgain = state.seeAgain.filter((id) => id !== entry.item);
      return;
    case 'item-chosen':
      state.chosen = entry.item;
      state.lastUndoable = entry.id;
      return;
    case 'item-reopened':
      reopen(state, entry.item);
      state.chosen = entry.item;
      state.lastUndoable = entry.id;
      return;
    case 'mark':
      state.marks += 1;
      state.lastUndoable = entry.id;
      return;
    case 'leg-begun':
      state.begun[entry.leg] ??= entry.t;
      state.chosen = null;
      return;
  }
}

/** What the watch saw, and what that does to the list. */
function follow(state: Mutable, entry: EntryOf<'start-state' | 'cue' | 'abort' | 'try-again' | 'phase'>): void {
  switch (entry.kind) {
    case 'start-state':
      state.startState = { state: entry.state, words: entry.words, t_s: entry.t };
      if (entry.state === 'cranking') state.starterAt_s = entry.t;
      return;
    case 'cue':
      state.lastCue = { t_s: entry.t, severity: entry.severity, text: entry.text };
      return;
    case 'abort':
      // the first abort turns the list; what the control does afterwards is recorded, not obeyed
      state.abort ??= {
        watch: entry.watch,
        reason: entry.reason,
        text: entry.text,
        figure: entry.figure,
        t_s: entry.t,
      };
      state.lastCue = { t_s: entry.t, severity: 'warning', text: entry.text };
      state.chosen = null;
      return;
    case 'try-again':
      if (state.abort) state.triedAgain = [...state.triedAgain, state.abort];
      state.abort = null;
      state.chosen = null;
      for (const item of entry.items) reopen(state, item);
      return;
    case 'phase':
      state.phase = entry.phase;
      state.phases = [...state.phases, { t_s: entry.t, phase: entry.phase }];
      return;
  }
}

/** Stored entries may be newer than this program: an unknown kind must stop it, not slip through. */
function assertNever(entry: never): never {
  throw new RangeError(`unknown journal entry ${JSON.stringify(entry)}`);
}

/** Times of the stages with one more done; a stage that was passed over, on the way to putting back, is done with it. */
function stagesWith(times: readonly number[], stage: number, t_s: number): readonly number[] {
  return [...Array.from({ length: stage }, (_, i) => times[i] ?? t_s), t_s];
}

function reopen(state: Mutable, item: string): void {
  state.items[item] = NOT_DONE;
  state.stages[item] = [];
  delete state.measured[item];
  delete state.challenged[item];
  delete state.decisions[item];
  state.seeAgain = state.seeAgain.filter((id) => id !== item);
}

function finish(state: Mutable, entry: Extract<Entry, { item: string }>, item: ItemState): void {
  state.items[entry.item] = item;
  delete state.challenged[entry.item];
  if (state.chosen === entry.item) state.chosen = null;
  if (item.how === 'declared') state.lastUndoable = entry.id;
}

/** The state of one item; an item that the journal never mentioned is to do. */
export function itemState(state: RunState, id: string): ItemState {
  return state.items[id] ?? NOT_DONE;
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
